import { colourChannels } from '../../document/channels.ts';
import { castOrder, childrenOf, freeName, topmost, withDescendants } from '../../document/hierarchy.ts';
import { newId } from '../../document/ids.ts';
import { type KindName, kinds } from '../../document/kinds/index.ts';
import { type CustomChannel, type Member, MemberSchema } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { defineCommand } from '../edit.ts';
import { keepPlace } from '../keep-place.ts';
import { memberWords } from '../words.ts';

const withMembers = (shot: Shot, changed: readonly Member[]): Shot => ({
  ...shot,
  members: { ...shot.members, ...Object.fromEntries(changed.map((m) => [m.id, m])) },
});

/** A rank after the last child of a parent. */
const lastRank = (shot: Shot, parent: string | null) => (childrenOf(shot, parent).at(-1)?.rank ?? 0) + 1;

export interface NewMember {
  readonly kind: KindName;
  readonly id?: string;
  readonly name?: string;
  readonly parent?: string | null;
  readonly shape?: Readonly<Record<string, unknown>>;
  readonly values?: Readonly<Record<string, number>>;
  readonly colour?: string;
  readonly locked?: boolean;
}

/** A member of a kind with the kind's own form, last in the cast. */
export function newMember(shot: Shot, wanted: NewMember): Member {
  const parent = wanted.parent ?? null;
  return MemberSchema.parse({
    id: wanted.id ?? newId(),
    kind: wanted.kind,
    name: freeName(shot, wanted.name ?? kinds[wanted.kind].label),
    parent,
    rank: lastRank(shot, parent),
    locked: wanted.locked ?? false,
    shape: wanted.shape ?? {},
    values: { ...wanted.values, ...(wanted.colour ? colourChannels(wanted.colour) : {}) },
  });
}

export const addMember = defineCommand<{ member: Member }>({
  name: 'member.add',
  label: ({ member }) => `bring in ${member.name}`,
  apply: (shot, { member }) => withMembers(shot, [member]),
});

export const renameMember = defineCommand<{ id: string; name: string }>({
  name: 'member.rename',
  label: ({ id, name }, shot) => `rename ${memberWords(shot, [id])} to ${name}`,
  apply: (shot, { id, name }) =>
    shot.members[id].name === name ? shot : withMembers(shot, [{ ...shot.members[id], name }]),
});

/** The control sets without some channels; a set that nothing was taken from is the same object. */
function setsWithout(shot: Shot, gone: (path: string) => boolean): Shot['sets'] {
  const sets = Object.values(shot.sets).map((set) =>
    set.paths.some(gone) ? { ...set, paths: set.paths.filter((p) => !gone(p)) } : set,
  );
  return sets.every((set) => set === shot.sets[set.id]) ? shot.sets : Object.fromEntries(sets.map((s) => [s.id, s]));
}

/** Members that are things of their own: controls come and go with their rig. */
export const withoutControls = (shot: Shot, ids: readonly string[]): string[] =>
  ids.filter((id) => shot.members[id]?.kind !== 'control');

/** Members no longer held by those who are gone. */
function letGo(shot: Shot, gone: ReadonlySet<string>): Shot['members'] {
  const stay = Object.values(shot.members).filter((m) => !gone.has(m.id));
  return Object.fromEntries(
    stay.map((m) => {
      const holds = m.holds.filter(({ by }) => by.is !== 'member' || !gone.has(by.member));
      return [m.id, holds.length === m.holds.length ? m : { ...m, holds }];
    }),
  );
}

/** Takes members out of the shot with all that hangs on them, their curves and loose values. */
export const removeMembers = defineCommand<{ ids: readonly string[] }>({
  name: 'member.remove',
  label: ({ ids }, shot) => `delete ${memberWords(shot, ids)}`,
  apply(shot, { ids }) {
    const gone = withDescendants(shot, withoutControls(shot, ids));
    if (gone.size === 0) return shot;
    const stays = ([path]: [string, unknown]) => !gone.has(path.slice(0, path.indexOf('.')));
    return {
      ...shot,
      members: letGo(shot, gone),
      curves: Object.fromEntries(Object.entries(shot.curves).filter(stays)),
      loose: Object.fromEntries(Object.entries(shot.loose).filter(stays)),
      formulas: Object.fromEntries(Object.entries(shot.formulas).filter(stays)),
      recipes: Object.fromEntries(Object.entries(shot.recipes).filter(([, recipe]) => !gone.has(recipe.member))),
      sets: setsWithout(shot, (path) => gone.has(path.slice(0, path.indexOf('.')))),
      watch: { ...shot.watch, ignored: shot.watch.ignored.filter((i) => !gone.has(i.member)) },
      aside: Object.fromEntries(Object.entries(shot.aside).filter(([, a]) => !gone.has(a.rig))),
      clips: Object.fromEntries(Object.entries(shot.clips).filter(([, c]) => !gone.has(c.rig))),
    };
  },
});

/** Copies members with all that hangs on them and all their keys. `copies` maps old ids to the new ones. */
export const duplicateMembers = defineCommand<{ ids: readonly string[]; copies: Readonly<Record<string, string>> }>({
  name: 'member.duplicate',
  label: ({ ids }, shot) => `duplicate ${memberWords(shot, ids)}`,
  apply(shot, { copies }) {
    let next = shot;
    for (const { member } of castOrder(shot)) {
      const id = copies[member.id];
      if (!id) continue;
      const parent = member.parent !== null ? (copies[member.parent] ?? member.parent) : null;
      // A control is called as its rig says, and a copy is held by the copy of who held it.
      const name = member.kind === 'control' ? member.name : freeName(next, member.name);
      const holds = member.holds.map((h) =>
        h.by.is === 'member' ? { ...h, by: { ...h.by, member: copies[h.by.member] ?? h.by.member } } : h,
      );
      const rank = member.kind === 'control' ? member.rank : lastRank(next, parent);
      const copy = { ...member, id, parent, name, rank, holds };
      next = withMembers(next, [copy]);
    }
    const pathOf = (path: string) => {
      const dot = path.indexOf('.');
      const id = copies[path.slice(0, dot)];
      return id ? id + path.slice(dot) : null;
    };
    const copied = <T>(record: Readonly<Record<string, T>>) =>
      Object.entries(record).flatMap(([path, value]) => {
        const to = pathOf(path);
        return to ? [[to, value] as const] : [];
      });
    // A copy's formula reads the copies of those it read, and others as they are.
    const formulas = copied(shot.formulas).map(
      ([path, f]) => [path, { ...f, inputs: f.inputs.map((i) => ({ ...i, path: pathOf(i.path) ?? i.path })) }] as const,
    );
    // A copy's recipe is known by what it is copied for, and so is its clip.
    const named = (id: string, member: string) => `${id.slice(0, 20)}-${member}`.slice(0, 40);
    const recipesOf = (all: Shot['recipes']) =>
      Object.values(all).flatMap((r) => {
        const member = copies[r.member];
        if (!member) return [];
        const id = named(r.id, member);
        return [[id, { ...r, id, member, written: Object.fromEntries(copied(r.written)) }] as const];
      });
    const clips = Object.values(shot.clips).flatMap((c) => {
      const rig = copies[c.rig];
      if (!rig) return [];
      const kept = c.kept && {
        curves: Object.fromEntries(copied(c.kept.curves)),
        recipes: Object.fromEntries(recipesOf(c.kept.recipes)),
      };
      return [[named(c.id, rig), { ...c, id: named(c.id, rig), rig, kept }] as const];
    });
    return {
      ...next,
      curves: { ...shot.curves, ...Object.fromEntries(copied(shot.curves)) },
      loose: { ...shot.loose, ...Object.fromEntries(copied(shot.loose)) },
      formulas: { ...shot.formulas, ...Object.fromEntries(formulas) },
      recipes: { ...shot.recipes, ...Object.fromEntries(recipesOf(shot.recipes)) },
      clips: { ...shot.clips, ...Object.fromEntries(clips) },
    };
  },
});

/** One copy in a row or grid: how far from the original it stands, in its parent's space, and the ids of its members. */
export interface PlacedCopy {
  readonly offset: readonly [x: number, y: number, z: number];
  readonly ids: Readonly<Record<string, string>>;
}

/** Rows and grids: copies of members, each with all its keys, each a step further. */
export const arrayMembers = defineCommand<{ ids: readonly string[]; copies: readonly PlacedCopy[] }>({
  name: 'member.array',
  label: ({ ids, copies }, shot) => `set ${copies.length} copies of ${memberWords(shot, ids)} out`,
  apply: (shot, { ids, copies }) =>
    copies.reduce((next, copy) => {
      const made = duplicateMembers.apply(next, { ids, copies: copy.ids });
      return topmost(shot, ids).reduce((s, id) => shiftedBy(s, copy.ids[id], copy.offset), made);
    }, shot),
});

/** Moves a member by adding to its move, keyed or not. */
function shiftedBy(shot: Shot, id: string, offset: PlacedCopy['offset']): Shot {
  const member = shot.members[id];
  const values = { ...member.values };
  const curves = { ...shot.curves };
  ['x', 'y', 'z'].forEach((axis, i) => {
    const channel = `move.${axis}`;
    const curve = curves[`${id}.${channel}`];
    values[channel] = (values[channel] ?? 0) + offset[i];
    if (curve?.type !== 'number') return;
    curves[`${id}.${channel}`] = { ...curve, keys: curve.keys.map((k) => ({ ...k, value: k.value + offset[i] })) };
  });
  return { ...shot, members: { ...shot.members, [id]: { ...member, values } }, curves };
}

/** Copies for a grid of so many members along each axis, so far apart; the original stands in its first corner. */
export function gridOf(
  shot: Shot,
  ids: readonly string[],
  counts: readonly [number, number, number],
  steps: readonly [number, number, number],
): PlacedCopy[] {
  const copies: PlacedCopy[] = [];
  for (let z = 0; z < counts[2]; z++) {
    for (let y = 0; y < counts[1]; y++) {
      for (let x = 0; x < counts[0]; x++) {
        if (x + y + z === 0) continue;
        copies.push({ offset: [x * steps[0], y * steps[1], z * steps[2]], ids: copiesOf(shot, ids) });
      }
    }
  }
  return copies;
}

/** New ids for members and all that hangs on them, for `duplicateMembers`. */
export const copiesOf = (shot: Shot, ids: readonly string[]): Record<string, string> =>
  Object.fromEntries([...withDescendants(shot, withoutControls(shot, ids))].map((id) => [id, newId()]));

/**
 * Puts members under another parent, before `before` or last. What is not animated stays where it stands in the world
 * at `frame`; what is animated keeps its keys, which then count in the new parent's space.
 * Nobody is put under themselves or under what hangs on them.
 */
export const parentMembers = defineCommand<{
  ids: readonly string[];
  parent: string | null;
  before?: string | null;
  frame: number;
}>({
  name: 'member.parent',
  label: ({ ids, parent }, shot) =>
    `put ${memberWords(shot, ids)} ${parent === null ? 'on the stage' : `under ${memberWords(shot, [parent])}`}`,
  apply(shot, { ids, parent, before = null, frame }) {
    const moving = topmost(shot, withoutControls(shot, ids));
    if (parent !== null && (withDescendants(shot, moving).has(parent) || shot.members[parent].kind === 'control'))
      return shot;
    const siblings = childrenOf(shot, parent).filter((m) => !moving.includes(m.id));
    const at = before === null ? siblings.length : siblings.findIndex((m) => m.id === before);
    const low = siblings[at - 1]?.rank ?? (siblings[at]?.rank ?? 1) - moving.length - 1;
    const high = siblings[at]?.rank ?? low + moving.length + 1;
    const moved = moving.map((id, i) => ({
      ...shot.members[id],
      parent,
      rank: low + ((high - low) * (i + 1)) / (moving.length + 1),
    }));
    const next = withMembers(shot, moved);
    return withMembers(
      next,
      moved.filter((m) => shot.members[m.id].parent !== parent).map((m) => keepPlace(shot, next, m.id, frame)),
    );
  },
});

/** Puts a new group in the place of the first of the members, and the members under it. */
export const groupMembers = defineCommand<{ ids: readonly string[]; group: Member; frame: number }>({
  name: 'member.group',
  label: ({ ids }, shot) => `group ${memberWords(shot, ids)}`,
  apply(shot, { ids, group, frame }) {
    const tops = topmost(shot, withoutControls(shot, ids));
    if (tops.length === 0) return shot;
    const parents = new Set(tops.map((id) => shot.members[id].parent));
    const parent = parents.size === 1 ? [...parents][0] : null;
    const rank = Math.min(...tops.map((id) => shot.members[id].rank));
    const held = withMembers(shot, [{ ...group, parent, rank }]);
    return parentMembers.apply(held, { ids: tops, parent: group.id, frame });
  },
});

/** Locks or unlocks members. */
export const lockMembers = defineCommand<{ ids: readonly string[]; locked: boolean }>({
  name: 'member.lock',
  label: ({ ids, locked }, shot) => `${locked ? 'lock' : 'unlock'} ${memberWords(shot, ids)}`,
  apply: (shot, { ids, locked }) =>
    withMembers(
      shot,
      ids.map((id) => ({ ...shot.members[id], locked })),
    ),
});

/** Changes the numbers that make a member's form. */
export const reshapeMember = defineCommand<{ id: string; shape: Readonly<Record<string, unknown>> }>({
  name: 'member.reshape',
  label: ({ id }, shot) => `reshape ${memberWords(shot, [id])}`,
  apply: (shot, { id, shape }) => {
    const member = shot.members[id];
    return withMembers(shot, [MemberSchema.parse({ ...member, shape: { ...member.shape, ...shape } })]);
  },
});

export const addCustomChannel = defineCommand<{ id: string; channel: CustomChannel }>({
  name: 'member.addChannel',
  label: ({ id, channel }, shot) => `add channel ${channel.name} to ${memberWords(shot, [id])}`,
  apply: (shot, { id, channel }) =>
    shot.members[id].kind === 'control'
      ? shot
      : withMembers(shot, [{ ...shot.members[id], custom: [...shot.members[id].custom, channel] }]),
});

export const removeCustomChannel = defineCommand<{ id: string; channel: string }>({
  name: 'member.removeChannel',
  label: ({ id }, shot) => `take a channel from ${memberWords(shot, [id])}`,
  apply(shot, { id, channel }) {
    const member = shot.members[id];
    const { [`custom.${channel}`]: _value, ...values } = member.values;
    const path = `${id}.custom.${channel}`;
    const { [path]: _curve, ...curves } = shot.curves;
    const { [path]: _loose, ...loose } = shot.loose;
    const { [path]: _formula, ...formulas } = shot.formulas;
    const custom = member.custom.filter((c) => c.id !== channel);
    const sets = setsWithout(shot, (p) => p === path);
    return withMembers({ ...shot, curves, loose, formulas, sets }, [{ ...member, custom, values }]);
  },
});
