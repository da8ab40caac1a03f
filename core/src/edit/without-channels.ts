import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';

/**
 * A shot without what hangs on channels that are going: their curves, loose values and formulas, recipes that wrote them, and their places in
 * sets. Who had them is for the caller to change.
 */
export function withoutChannels(shot: Shot, paths: readonly string[]): Shot {
  const gone = new Set(paths);
  const lost = (list: readonly string[]) => list.some((path) => gone.has(path));
  return {
    ...shot,
    curves: shot.curves.withoutAll(paths),
    loose: shot.loose.withoutAll(paths),
    formulas: shot.formulas.withoutAll(paths),
    recipes: shot.recipes.filter((recipe) => !lost(Object.keys(recipe.written))),
    sets: shot.sets.map((set) => (lost(set.paths) ? { ...set, paths: set.paths.filter((p) => !gone.has(p)) } : set)),
  };
}

/** What a member holds of its own channels, without some of them. */
export function valuesWithout(member: Member, lost: (channel: string) => boolean): Pick<Member, 'values' | 'keyed'> {
  const values = Object.fromEntries(Object.entries(member.values).filter(([channel]) => !lost(channel)));
  return member.keyed ? { values, keyed: member.keyed.filter((channel) => !lost(channel)) } : { values };
}
