import type { Aside } from '../../document/aside.ts';
import { controlsOf } from '../../document/casting.ts';
import { channelPath, findChannel, ORIENTATION, shownChannels } from '../../document/channels.ts';
import type { Clip } from '../../document/clip.ts';
import { childrenOf, freeName } from '../../document/hierarchy.ts';
import { type Member, MemberSchema } from '../../document/member.ts';
import { pathsOf } from '../../document/paths.ts';
import type { ControlSet, Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import type { CompiledRig } from '../../rig/compiled.ts';
import type { Rig, RigControl } from '../../rig/definition.ts';
import type { Rigs } from '../../rig/rigs.ts';
import { newId } from '../../schema/ids.ts';
import { defineCommand } from '../edit.ts';
import { removeMembers } from './members.ts';

/** Linking rigs of the library, and going over to newer versions of them. */

export interface NewRig {
  readonly rig: string;
  readonly version: number;
  /** The id of the rig's member; controls are called after it. */
  readonly id?: string;
  readonly name?: string;
  /** Where it stands, metres; the middle of the floor where it is not said. */
  readonly at?: readonly [x: number, y: number, z: number];
}

/** The members and control sets that a link of a rig brings into a shot. The rig must be at hand. */
export function newRigMembers(shot: Shot, wanted: NewRig): { members: Member[]; sets: ControlSet[] } {
  const { rig: name, version } = wanted;
  const compiled = shot.rigs.at({ rig: name, version });
  const id = wanted.id ?? newId();
  const rig = MemberSchema.parse({
    id,
    kind: 'rig',
    name: freeName(shot, wanted.name ?? compiled.rig.name),
    parent: null,
    rank: (childrenOf(shot, null).at(-1)?.rank ?? 0) + 1,
    shape: { rig: name, version },
    values: Object.fromEntries((wanted.at ?? []).map((v, i) => [`move.${'xyz'[i]}`, v])),
  });
  const controls = compiled.rig.controls.map((control, c) => newControl(compiled, control, id, c));
  return { members: [rig, ...controls], sets: rigSets(shot.rigs, compiled, id, controls) };
}

function newControl(compiled: CompiledRig, control: RigControl, rig: string, index: number): Member {
  const { id, version } = compiled.rig;
  return MemberSchema.parse({
    id: rig.length + control.id.length < 39 ? `${rig}-${control.id}` : newId(),
    kind: 'control',
    name: control.name,
    parent: rig,
    rank: index + 1,
    rotation: control.rotation,
    order: control.order,
    shape: { rig: id, version, control: control.id },
  });
}

/** The sets that come with a rig, of the channels that its controls have. */
function rigSets(rigs: Rigs, compiled: CompiledRig, rig: string, controls: readonly Member[]): ControlSet[] {
  const byControl = new Map(controls.map((c) => [c.kind === 'control' ? c.shape.control : '', c]));
  return compiled.rig.sets.map((set) => ({
    id: rigSetId(rig, set.id),
    name: `${set.name}`,
    paths: set.controls.flatMap((id) => {
      const member = byControl.get(id)!;
      return shownChannels(member, rigs)
        .filter((c) => c.everyday)
        .map((c) => channelPath(member.id, c.id));
    }),
  }));
}

const rigSetId = (rig: string, set: string) => (rig.length + set.length < 39 ? `${rig}-${set}` : newId());

export const bringRig = defineCommand<{ members: readonly Member[]; sets: readonly ControlSet[] }>({
  name: 'rig.bring',
  label: ({ members }) => `bring in ${members[0].name}`,
  apply: (shot, { members, sets }) => ({
    ...shot,
    members: shot.members.withAll(members.map((m) => [m.id, m])),
    sets: shot.sets.withAll(sets.map((s) => [s.id, s])),
  }),
});

/** Links a rig in the place of what it was made of: that goes, with what was made with it. */
export const standIn = defineCommand<{
  ids: readonly string[];
  members: readonly Member[];
  sets: readonly ControlSet[];
}>({
  name: 'rig.standIn',
  label: ({ members, ids }, shot) => `${members[0].name} in the place of ${memberWords(shot, ids)}`,
  apply: (shot, { ids, ...brought }) => bringRig.apply(removeMembers.apply(shot, { ids }), brought),
});

/** What going over to another version of a rig does with what was made for this one. */
export interface VersionChange {
  /** Controls, and channels of controls there are, that come in, in people's words. */
  readonly fresh: readonly string[];
  /** What goes, whether anything was made with it or not. */
  readonly gone: readonly string[];
  /** What no longer fits and is put aside. */
  readonly aside: readonly Aside[];
  /** What was put aside before and finds its place again. */
  readonly back: readonly Aside[];
}

/** What would come, go aside and come back; nothing is changed. */
export function versionChange(shot: Shot, id: string, version: number): VersionChange {
  const rig = shot.members.get(id);
  if (rig?.kind !== 'rig') return { fresh: [], gone: [], aside: [], back: [] };
  const next = shot.rigs.at({ rig: rig.shape.rig, version });
  const now = shot.rigs.at(rig.shape);
  const own = controlsOf(shot, id);
  const known = new Set(own.map((c) => c.shape.control));
  const fits = (control: string, channel: string) => {
    const found = next.rig.controls.find((c) => c.id === control);
    if (!found) return false;
    const there = newControl(next, found, id, 0);
    const turnedBy = own.find((c) => c.shape.control === control)?.rotation ?? there.rotation;
    return findChannel({ ...there, rotation: turnedBy }, channel, shot.rigs) !== undefined;
  };
  let number = 0;
  const freeId = () => {
    do number++;
    while (shot.aside.has(`aside-${number}`));
    return `aside-${number}`;
  };
  const aside = own.flatMap((member) =>
    madeFor(shot, member)
      .filter((made) => !fits(member.shape.control, made.channel))
      .map((made) => ({
        id: freeId(),
        rig: id,
        control: member.shape.control,
        channel: made.channel,
        name: `${member.name} · ${made.words}`,
        version: rig.shape.version,
        value: made.value,
        curve: made.curve,
        formula: made.formula,
      })),
  );
  return {
    fresh: [...next.rig.controls.filter((c) => !known.has(c.id)).map((c) => c.name), ...dialsBeyond(next.rig, now.rig)],
    gone: [
      ...own.filter((c) => !next.controlAt.has(c.shape.control)).map((c) => c.name),
      ...dialsBeyond(now.rig, next.rig),
    ],
    aside,
    back: shot.aside.values().filter((a) => a.rig === id && fits(a.control, a.channel)),
  };
}

/** The dials a version has on controls of both that the other has not, control by control. */
function dialsBeyond(rig: Rig, other: Rig): string[] {
  return rig.controls.flatMap((control) => {
    const there = other.controls.find((c) => c.id === control.id);
    const dials = control.dials.filter((d) => there && !there.dials.some((o) => o.id === d.id));
    return dials.length > 0 ? [`${control.name}: ${dials.map((d) => d.label).join(', ')}`] : [];
  });
}

/** Everything an animator has set on a control. */
function madeFor(shot: Shot, member: Member) {
  return shownChannels(member, shot.rigs).flatMap((channel) => {
    const path = channelPath(member.id, channel.id);
    const loose = shot.loose.get(path)?.[0].value;
    const value = typeof loose === 'number' ? loose : (member.values[channel.id] ?? null);
    const curve = shot.curves.get(path) ?? null;
    const formula = shot.formulas.get(path) ?? null;
    const words = `${channel.group} ${channel.label}`.trim();
    return value === null && !curve && !formula ? [] : [{ channel: channel.id, words, value, curve, formula }];
  });
}

/**
 * Takes another version of a rig. Controls that stay keep all they have; keys of channels that are no more are put aside, and
 * those put aside before that have a place again come back.
 */
export const takeVersion = defineCommand<{ id: string; version: number }>({
  name: 'rig.take',
  label: ({ id, version }, shot) => `take version ${version} of ${memberWords(shot, [id])}`,
  apply(shot, { id, version }) {
    const rig = shot.members.get(id);
    if (rig?.kind !== 'rig' || rig.shape.version === version) return shot;
    const { aside, back } = versionChange(shot, id, version);
    const next = shot.rigs.at({ rig: rig.shape.rig, version });
    const old = new Map(controlsOf(shot, id).map((c) => [c.shape.control, c]));
    const controls = next.rig.controls.map((control, c): Member => {
      const fresh = newControl(next, control, id, c);
      const before = old.get(control.id);
      if (!before || fresh.kind !== 'control') return fresh;
      return { ...before, name: fresh.name, rank: fresh.rank, shape: fresh.shape };
    });
    const gone = new Set([...old.values()].map((m) => m.id).filter((m) => !controls.some((c) => c.id === m)));
    const lost = [
      ...aside.map((a) => channelPath(old.get(a.control)!.id, a.channel)),
      ...[...gone].flatMap((m) => pathsOf(shot.members.at(m), shot.rigs)),
    ];
    const isLost = new Set(lost);
    const members = withoutHolds(shot.members.withoutAll(gone), gone, id, next).edit();
    for (const member of controls) {
      const own = shownChannels(member, shot.rigs).map((c) => c.id);
      const values = Object.fromEntries(Object.entries(member.values).filter(([c]) => own.includes(c)));
      members.set(member.id, { ...member, values });
    }
    members.set(id, { ...rig, shape: { ...rig.shape, version } });
    const sets = shot.sets
      .map((s) => (s.paths.some((p) => isLost.has(p)) ? { ...s, paths: s.paths.filter((p) => !isLost.has(p)) } : s))
      .edit();
    for (const set of rigSets(shot.rigs, next, id, controls)) sets.set(set.id, withPaths(sets.get(set.id), set));
    const moved: Shot = {
      ...shot,
      members: members.done(),
      curves: shot.curves.withoutAll(lost),
      loose: shot.loose.withoutAll(lost),
      formulas: shot.formulas.withoutAll(lost),
      recipes: shot.recipes.filter((r) => !gone.has(r.member)),
      sets: sets.done(),
      aside: shot.aside.withAll(aside.map((a) => [a.id, a])),
      clips: shot.clips.map((c) => (c.rig === id ? clipWithout(c, isLost) : c)),
    };
    return back.reduce((s, a) => placed(s, a, a.control, a.channel), moved);
  },
});

/** A clip that is laid by, with the keys that have a place still; what it loses can be had again by undoing. */
function clipWithout(clip: Clip, lost: ReadonlySet<string>): Clip {
  if (!clip.kept) return clip;
  const curves = Object.fromEntries(Object.entries(clip.kept.curves).filter(([path]) => !lost.has(path)));
  return { ...clip, kept: { ...clip.kept, curves } };
}

/** A set with what a newer version of the rig adds to it; what an animator added stays. */
const withPaths = (old: ControlSet | undefined, set: ControlSet): ControlSet =>
  old ? { ...old, paths: [...new Set([...old.paths, ...set.paths])] } : set;

/** Members without holds by controls and joints that are gone. */
function withoutHolds(
  members: Shot['members'],
  gone: ReadonlySet<string>,
  rig: string,
  next: CompiledRig,
): Shot['members'] {
  return members.map((m) => {
    const holds = m.holds.filter(
      ({ by }) =>
        by.is !== 'member' ||
        (!gone.has(by.member) && (by.member !== rig || by.joint === null || next.jointAt.has(by.joint))),
    );
    return holds.length === m.holds.length ? m : { ...m, holds };
  });
}

/** What was put aside, on a channel. Keys that are there already stay, and so does what was put aside. */
function placed(shot: Shot, aside: Aside, control: string, channel: string): Shot {
  const member = controlsOf(shot, aside.rig).find((c) => c.shape.control === control);
  if (!member || !findChannel(member, channel, shot.rigs)) return shot;
  const path = channelPath(member.id, channel);
  const isOrientation = channel === ORIENTATION;
  if (shot.curves.has(path) || (aside.curve && (aside.curve.type === 'orientation') !== isOrientation)) return shot;
  const rest = shot.aside.without(aside.id);
  const values = aside.value === null ? member.values : { ...member.values, [channel]: aside.value };
  return {
    ...shot,
    members: shot.members.with(member.id, { ...member, values }),
    curves: aside.curve ? shot.curves.with(path, aside.curve) : shot.curves,
    formulas: aside.formula && !shot.formulas.has(path) ? shot.formulas.with(path, aside.formula) : shot.formulas,
    aside: rest,
  };
}

/** Puts what was put aside onto a channel of a control of the same rig. */
export const placeAside = defineCommand<{ id: string; control: string; channel: string }>({
  name: 'rig.placeAside',
  label: ({ id }, shot) => `bring back ${shot.aside.get(id)?.name ?? 'keys'}`,
  apply: (shot, { id, control, channel }) =>
    shot.aside.get(id) ? placed(shot, shot.aside.at(id), control, channel) : shot,
});

export const dropAside = defineCommand<{ ids: readonly string[] }>({
  name: 'rig.dropAside',
  label: ({ ids }) =>
    ids.length === 1 ? 'throw away what was put aside' : `throw away ${ids.length} things put aside`,
  apply: (shot, { ids }) => ({
    ...shot,
    aside: shot.aside.withoutAll(ids),
  }),
});
