import { colourChannels, splitPath } from '../../document/channels.ts';
import { childrenOf, freeName, topmost, withDescendants } from '../../document/hierarchy.ts';
import { type KindName, kinds } from '../../document/kinds/index.ts';
import { type CustomChannel, type Member, MemberSchema } from '../../document/member.ts';
import { pathsOf } from '../../document/paths.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { newId } from '../../schema/ids.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Copying, type MirrorAxis } from '../copying.ts';
import { defineCommand } from '../edit.ts';
import { keepPlace } from '../keep-place.ts';
import { withMembers } from '../with-members.ts';

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
    shot.members.at(id).name === name ? shot : withMembers(shot, [{ ...shot.members.at(id), name }]),
});

/** The control sets without some channels; a set that nothing was taken from is the same object. */
const setsWithout = (shot: Shot, gone: (path: string) => boolean): Shot['sets'] =>
  shot.sets.map((set) => (set.paths.some(gone) ? { ...set, paths: set.paths.filter((p) => !gone(p)) } : set));

/** Members that are things of their own: controls come and go with their rig. */
export const withoutControls = (shot: Shot, ids: readonly string[]): string[] =>
  ids.filter((id) => shot.members.get(id)?.kind !== 'control');

/** The members that stay, no longer held by those who are gone. */
const letGo = (shot: Shot, gone: ReadonlySet<string>): Shot['members'] =>
  shot.members
    .filter((m) => !gone.has(m.id))
    .map((m) => {
      const holds = m.holds.filter(({ by }) => by.is !== 'member' || !gone.has(by.member));
      return holds.length === m.holds.length ? m : { ...m, holds };
    });

/** Takes members out of the shot with all that hangs on them, their curves and loose values. */
export const removeMembers = defineCommand<{ ids: readonly string[] }>({
  name: 'member.remove',
  label: ({ ids }, shot) => `delete ${memberWords(shot, ids)}`,
  apply(shot, { ids }) {
    const gone = withDescendants(shot, withoutControls(shot, ids));
    if (gone.size === 0) return shot;
    const paths = [...gone].flatMap((id) => pathsOf(shot.members.at(id), shot.rigs));
    return {
      ...shot,
      members: letGo(shot, gone),
      curves: shot.curves.withoutAll(paths),
      loose: shot.loose.withoutAll(paths),
      formulas: shot.formulas.withoutAll(paths),
      recipes: shot.recipes.filter((recipe) => !gone.has(recipe.member)),
      sets: setsWithout(shot, (path) => gone.has(splitPath(path).member)),
      watch: { ...shot.watch, ignored: shot.watch.ignored.filter((i) => !gone.has(i.member)) },
      aside: shot.aside.filter((a) => !gone.has(a.rig)),
      clips: shot.clips.filter((c) => !gone.has(c.rig)),
      cuts: shot.cuts.filter((c) => !gone.has(c.camera)),
      tracks: shot.tracks.filter((t) => !gone.has(t.rig)),
    };
  },
});

/** New ids for members, by their old ones. */
type Copies = Readonly<Record<string, string>>;

/** Copies members with all that hangs on them and all their keys. `copies` maps old ids to the new ones. */
export const duplicateMembers = defineCommand<{ ids: readonly string[]; copies: Copies }>({
  name: 'member.duplicate',
  label: ({ ids }, shot) => `duplicate ${memberWords(shot, ids)}`,
  apply(shot, { copies }) {
    const copying = new Copying(shot, copies);
    copying.make(copies);
    return copying.done();
  },
});

/** One copy: how far from the original it stands and how far it is turned about the upright, in its parent's space, and the ids of its members. */
export interface PlacedCopy {
  readonly offset: readonly [x: number, y: number, z: number];
  /** Radians. */
  readonly turn: number;
  /** Where it is turned to lie on something, after that: a turn in its parent's space. */
  readonly lean?: Quaternion;
  /** The axis of its parent's space whose sides are exchanged; none where it is no mirror image. */
  readonly mirror?: MirrorAxis;
  readonly ids: Readonly<Record<string, string>>;
}

/** Copies of members, each with all its keys, each where it is told. */
export const arrayMembers = defineCommand<{ ids: readonly string[]; copies: readonly PlacedCopy[] }>({
  name: 'member.array',
  label: ({ ids, copies }, shot) => `set ${copies.length} copies of ${memberWords(shot, ids)} out`,
  apply(shot, { ids, copies }) {
    const [first] = copies;
    if (!first) return shot;
    const copying = new Copying(shot, first.ids);
    const tops = topmost(shot, ids);
    for (const copy of copies) {
      copying.make(copy.ids);
      if (copy.mirror) copying.mirror(copy.ids, copy.mirror);
      for (const id of tops) {
        copying.shift(copy.ids[id], copy.offset);
        if (copy.turn !== 0) copying.turn(copy.ids[id], copy.turn);
        if (copy.lean) copying.turnBy(copy.ids[id], copy.lean);
      }
    }
    return copying.done();
  },
});

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
    if (parent !== null && (withDescendants(shot, moving).has(parent) || shot.members.at(parent).kind === 'control'))
      return shot;
    const siblings = childrenOf(shot, parent).filter((m) => !moving.includes(m.id));
    const at = before === null ? siblings.length : siblings.findIndex((m) => m.id === before);
    const low = siblings[at - 1]?.rank ?? (siblings[at]?.rank ?? 1) - moving.length - 1;
    const high = siblings[at]?.rank ?? low + moving.length + 1;
    const moved = moving.map((id, i) => ({
      ...shot.members.at(id),
      parent,
      rank: low + ((high - low) * (i + 1)) / (moving.length + 1),
    }));
    const next = withMembers(shot, moved);
    return withMembers(
      next,
      moved.filter((m) => shot.members.at(m.id).parent !== parent).map((m) => keepPlace(shot, next, m.id, frame)),
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
    const parents = new Set(tops.map((id) => shot.members.at(id).parent));
    const parent = parents.size === 1 ? [...parents][0] : null;
    const rank = Math.min(...tops.map((id) => shot.members.at(id).rank));
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
      ids.map((id) => ({ ...shot.members.at(id), locked })),
    ),
});

/** Changes the numbers that make a member's form. */
export const reshapeMember = defineCommand<{ id: string; shape: Readonly<Record<string, unknown>> }>({
  name: 'member.reshape',
  label: ({ id }, shot) => `reshape ${memberWords(shot, [id])}`,
  apply: (shot, { id, shape }) => {
    const member = shot.members.at(id);
    return withMembers(shot, [MemberSchema.parse({ ...member, shape: { ...member.shape, ...shape } })]);
  },
});

export const addCustomChannel = defineCommand<{ id: string; channel: CustomChannel }>({
  name: 'member.addChannel',
  label: ({ id, channel }, shot) => `add channel ${channel.name} to ${memberWords(shot, [id])}`,
  apply(shot, { id, channel }) {
    const member = shot.members.at(id);
    return member.kind === 'control' ? shot : withMembers(shot, [{ ...member, custom: [...member.custom, channel] }]);
  },
});

export const removeCustomChannel = defineCommand<{ id: string; channel: string }>({
  name: 'member.removeChannel',
  label: ({ id }, shot) => `take a channel from ${memberWords(shot, [id])}`,
  apply(shot, { id, channel }) {
    const member = shot.members.at(id);
    const { [`custom.${channel}`]: _, ...values } = member.values;
    const path = `${id}.custom.${channel}`;
    const curves = shot.curves.without(path);
    const loose = shot.loose.without(path);
    const formulas = shot.formulas.without(path);
    const custom = member.custom.filter((c) => c.id !== channel);
    const sets = setsWithout(shot, (p) => p === path);
    return withMembers({ ...shot, curves, loose, formulas, sets }, [{ ...member, custom, values }]);
  },
});
