import { clipAtWork } from '../../clip/at-work.ts';
import { mirroredStances } from '../../clip/halves.ts';
import { oneAFrame, poseLabels } from '../../clip/labels.ts';
import { inMirror, lengthFor, resized } from '../../clip/resized.ts';
import { shifted, shiftedStances, withSeam } from '../../clip/shift.ts';
import { type Variation, varied } from '../../clip/varied.ts';
import type { Curve } from '../../curve/key.ts';
import type { AnyKey } from '../../curve/turn-back.ts';
import { controlsOf } from '../../document/casting.ts';
import { splitPath } from '../../document/channels.ts';
import { type Clip, clipFrames, type PoseLabel, plainManner, type Stance } from '../../document/clip.ts';
import { curvesOf, pathsOf } from '../../document/paths.ts';
import type { Recipe } from '../../document/recipe.ts';
import type { Shot } from '../../document/shot.ts';
import { plainSpan } from '../../document/track.ts';
import { memberWords } from '../../document/words.ts';
import { loweredToReach } from '../../gait/in-reach.ts';
import { newId } from '../../schema/ids.ts';
import { defineCommand } from '../edit.ts';

/** Clips of rigs: made, taken up and laid by, made longer, mirrored, shifted. */

const clipWords = (shot: Shot, id: string) => shot.clips.get(id)?.name ?? 'a clip';

const withClip = (shot: Shot, clip: Clip): Shot => ({ ...shot, clips: shot.clips.with(clip.id, clip) });

/** The recipes of a rig that write keys of its controls and of nothing else: they go with the clip. */
function recipesOf(shot: Shot, rig: string): [id: string, recipe: Recipe][] {
  const own = new Set(controlsOf(shot, rig).map((c) => c.id));
  return shot.recipes.entries().filter(([, recipe]) => {
    const paths = Object.keys(recipe.written);
    return paths.length > 0 && paths.every((path) => own.has(splitPath(path).member));
  });
}

const rigCurves = (shot: Shot, rig: string) => curvesOf(shot, controlsOf(shot, rig));

/**
 * Lays the clip of a rig that is at work by: its keys and recipes go with it, and what was loose goes. Keys that belong to no clip become one, so
 * that none are lost.
 */
function laidBy(shot: Shot, rig: string): Shot {
  const clip = clipAtWork(shot, rig);
  const curves = Object.fromEntries(rigCurves(shot, rig));
  const recipes = Object.fromEntries(recipesOf(shot, rig));
  const next: Shot = {
    ...shot,
    curves: shot.curves.withoutAll(Object.keys(curves)),
    recipes: shot.recipes.withoutAll(Object.keys(recipes)),
    loose: shot.loose.withoutAll(controlsOf(shot, rig).flatMap((c) => pathsOf(c, shot.rigs))),
  };
  const kept = { curves, recipes };
  if (clip) return withClip(next, { ...clip, kept });
  const frames = Object.values(curves).flatMap((c) => c.keys.map((k) => k.frame));
  if (frames.length === 0) return next;
  const first = Math.floor(Math.min(...frames));
  const length = Math.min(clipFrames.most, Math.max(clipFrames.least, Math.ceil(Math.max(...frames)) - first));
  let n = 1;
  while (shot.clips.has(`${rig.slice(0, 32)}-own${n}`)) n++;
  const id = `${rig.slice(0, 32)}-own${n}`;
  const plain = { cycles: false, halves: 'free' } as const;
  return withClip(next, newClip(shot, rig, { id, name: 'Own keys', first, length, ...plain, labels: [], kept }));
}

/** A clip as it begins: in place, its halves mirrored where the rig has two sides, its four poses labelled. */
export function newClip(shot: Shot, rig: string, wanted: Partial<Clip> = {}): Clip {
  const length = wanted.length ?? 24;
  const twoSided = controlsOf(shot, rig).some((c) => shot.rigs.control(c.shape)?.partner);
  return {
    id: newId(),
    rig,
    name: freeClipName(shot, rig, wanted.name ?? 'Walk'),
    first: shot.play.first,
    length,
    cycles: true,
    travel: 0,
    travelling: false,
    halves: twoSided ? 'mirrored' : 'free',
    labels: poseLabels(length),
    stances: {},
    way: null,
    manner: plainManner,
    follows: {},
    kept: null,
    ...wanted,
  };
}

export function freeClipName(shot: Shot, rig: string, wanted: string): string {
  const taken = new Set(shot.clips.values().flatMap((c) => (c.rig === rig ? [c.name] : [])));
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${wanted} ${n}`)) n++;
  return `${wanted} ${n}`;
}

/**
 * Makes a clip of a rig, at work from now on; the one that was at work is laid by. Keys the rig has without a clip become the new
 * clip's.
 */
export const addClip = defineCommand<{ clip: Clip }>({
  name: 'clip.add',
  label: ({ clip }, shot) => `new clip ${clip.name} for ${memberWords(shot, [clip.rig])}`,
  apply: (shot, { clip }) => {
    if (shot.members.get(clip.rig)?.kind !== 'rig') return shot;
    return withClip(clipAtWork(shot, clip.rig) ? laidBy(shot, clip.rig) : shot, { ...clip, kept: null });
  },
});

/** Takes a clip up: its keys become the shot's, and the clip of the same rig that was at work is laid by. */
export const takeUpClip = defineCommand<{ id: string }>({
  name: 'clip.takeUp',
  label: ({ id }, shot) => `take up ${clipWords(shot, id)}`,
  apply(shot, { id }) {
    const clip = shot.clips.get(id);
    if (!clip?.kept) return shot;
    const next = laidBy(shot, clip.rig);
    const { curves, recipes } = clip.kept;
    return withClip(
      { ...next, curves: next.curves.withAll(curves), recipes: next.recipes.withAll(recipes) },
      { ...clip, kept: null },
    );
  },
});

/** Lays the clip that is at work by, so that what is laid on the tracks of its rig plays. */
export const layByClip = defineCommand<{ id: string }>({
  name: 'clip.layBy',
  label: ({ id }, shot) => `lay ${clipWords(shot, id)} by`,
  apply(shot, { id }) {
    const clip = shot.clips.get(id);
    return clip && !clip.kept ? laidBy(shot, clip.rig) : shot;
  },
});

/** Makes a copy of a clip and takes the copy up. */
export const copyClip = defineCommand<{ id: string; copy: string; name: string }>({
  name: 'clip.copy',
  label: ({ id }, shot) => `copy ${clipWords(shot, id)}`,
  apply(shot, { id, copy, name }) {
    const clip = shot.clips.get(id);
    if (!clip || shot.clips.has(copy)) return shot;
    const away = clip.kept ? shot : laidBy(shot, clip.rig);
    const { kept } = away.clips.at(id);
    if (!kept) return shot;
    // A recipe is known by its id in the shot: the copy's are other ones.
    const recipes = Object.fromEntries(
      Object.values(kept.recipes).map((r) => {
        const own = `${r.id.slice(0, 26)}-${copy.slice(0, 12)}`;
        return [own, { ...r, id: own }];
      }),
    );
    const made = withClip(away, { ...clip, id: copy, name, kept: { curves: kept.curves, recipes } });
    return takeUpClip.apply(made, { id: copy });
  },
});

/** Makes a clip of several rounds of one at work, none quite like the other, and takes it up; the clip itself stays. */
export const varyClip = defineCommand<{ id: string; copy: string; name: string; how: Variation }>({
  name: 'clip.vary',
  label: ({ id, how }, shot) => `${how.times} rounds of ${clipWords(shot, id)}, none alike`,
  apply(shot, { id, copy, name, how }) {
    const clip = shot.clips.get(id);
    if (!clip?.cycles || clip.kept || shot.clips.has(copy) || clip.length * how.times > clipFrames.most) return shot;
    const made = varied(shot, clip, how);
    const away = laidBy(shot, clip.rig);
    return withClip(
      { ...away, curves: away.curves.withAll(loweredToReach(shot, made.clip, made.curves)) },
      { ...made.clip, id: copy, name, kept: null },
    );
  },
});

/** Takes a clip away, with its keys or so that they stay as keys without a clip. */
export const removeClip = defineCommand<{ id: string; keys: 'take' | 'keep' }>({
  name: 'clip.remove',
  label: ({ id, keys }, shot) =>
    keys === 'take' ? `delete ${clipWords(shot, id)}` : `let go of ${clipWords(shot, id)}`,
  apply(before, { id, keys }) {
    const clip = before.clips.get(id);
    if (!clip) return before;
    const shot = { ...before, tracks: withoutClip(before.tracks, id) };
    const emptied = clip.kept === null && keys === 'take' ? laidBy(shot, clip.rig) : shot;
    const clips = notLeadingTo(emptied.clips.without(id), id);
    if (clip.kept !== null || keys === 'take' || !clip.cycles) return { ...emptied, clips };
    // Without the clip a curve cycles over its own keys: a seam that has none gets one, so that nothing changes.
    const own = rigCurves(emptied, clip.rig).map(([path, c]) => [path, loosened(withSeam(c, clip))] as const);
    return { ...emptied, clips, curves: emptied.curves.withAll(own) };
  },
});

/** Tracks without the spans of a clip; what was measured from it is measured from its own beginning. */
const withoutClip = (tracks: Shot['tracks'], clip: string): Shot['tracks'] =>
  tracks.withAll(
    tracks
      .values()
      .filter((t) => t.spans.some((s) => s.clip === clip || s.base.clip === clip))
      .map((t) => {
        const spans = t.spans
          .filter((s) => s.clip !== clip)
          .map((s) => (s.base.clip === clip ? { ...s, base: plainSpan.base } : s));
        return [t.id, { ...t, spans }];
      }),
  );

/** Clips that no longer lead to one. */
const notLeadingTo = (clips: Shot['clips'], id: string): Shot['clips'] =>
  clips.withAll(
    clips
      .values()
      .filter((c) => Object.hasOwn(c.follows, id))
      .map((c) => {
        const { [id]: _, ...follows } = c.follows;
        return [c.id, { ...c, follows }];
      }),
  );

function loosened(curve: Curve): Curve {
  const { period: _, ...rest } = curve;
  return rest as Curve;
}

export const renameClip = defineCommand<{ id: string; name: string }>({
  name: 'clip.rename',
  label: ({ id, name }, shot) => `rename ${clipWords(shot, id)} to ${name}`,
  apply(shot, { id, name }) {
    const clip = shot.clips.get(id);
    return !clip || clip.name === name ? shot : withClip(shot, { ...clip, name });
  },
});

/** Sets what a clip says of how far it gets: its travel, whether it travels, and along which way. */
export const setTravel = defineCommand<{
  id: string;
  change: Partial<Pick<Clip, 'travel' | 'travelling' | 'way'>>;
}>({
  name: 'clip.travel',
  label({ id, change }, shot) {
    const of = clipWords(shot, id);
    if (change.way !== undefined) return change.way ? `lay ${of} along a way` : `let ${of} go straight ahead`;
    if (change.travelling !== undefined) return change.travelling ? `let ${of} travel` : `keep ${of} in place`;
    return `travel ${change.travel?.toFixed(3)} m in ${of}`;
  },
  apply(shot, { id, change }) {
    const clip = shot.clips.get(id);
    if (!clip) return shot;
    const next = { ...clip, ...change };
    return Object.entries(change).every(([k, v]) => clip[k as keyof Clip] === v) ? shot : withClip(shot, next);
  },
});

/** Lets a clip repeat, or end. */
export const setCycles = defineCommand<{ id: string; cycles: boolean }>({
  name: 'clip.cycles',
  label: ({ id, cycles }, shot) => `${clipWords(shot, id)} ${cycles ? 'repeats' : 'ends'}`,
  apply(shot, { id, cycles }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.cycles === cycles) return shot;
    const next = withClip(shot, { ...clip, cycles });
    if (cycles || clip.kept) return next;
    const curves = shot.curves.withAll(
      rigCurves(shot, clip.rig).map(
        ([path, c]) => [path, { ...loosened(withSeam(c, clip)), before: 'hold', after: 'hold' } as Curve] as const,
      ),
    );
    return { ...next, curves };
  },
});

/**
 * Makes a clip longer or shorter with all that is in it, on whole frames. Stride and travel stay, so it is slower or faster.
 */
export const resizeClip = defineCommand<{ id: string; length: number }>({
  name: 'clip.length',
  label: ({ id, length }, shot) => `${clipWords(shot, id)} takes ${length} frames`,
  apply(shot, { id, length: wanted }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.kept) return shot;
    const length = lengthFor(clip, wanted);
    if (length === clip.length) return shot;
    return resized(shot, clip, length);
  },
});

/** Lets a clip begin on another frame of the shot, with all its keys and what its recipes have written. */
export const moveClip = defineCommand<{ id: string; first: number }>({
  name: 'clip.move',
  label: ({ id, first }, shot) => `${clipWords(shot, id)} begins at ${first}`,
  apply(shot, { id, first }) {
    const clip = shot.clips.get(id);
    const by = clip ? first - clip.first : 0;
    if (!clip || by === 0) return shot;
    if (clip.kept) {
      const { curves, recipes } = clip.kept;
      return withClip(shot, {
        ...clip,
        first,
        kept: { curves: laterCurves(curves, by), recipes: laterRecipes(recipes, by) },
      });
    }
    const curves = shot.curves.withAll(laterCurves(Object.fromEntries(rigCurves(shot, clip.rig)), by));
    const recipes = shot.recipes.withAll(laterRecipes(Object.fromEntries(recipesOf(shot, clip.rig)), by));
    return withClip({ ...shot, curves, recipes }, { ...clip, first });
  },
});

const laterCurves = (curves: Readonly<Record<string, Curve>>, by: number): Record<string, Curve> =>
  mapped(curves, (curve) => ({ ...curve, keys: later(curve.keys as readonly AnyKey[], by) }) as Curve);

const laterRecipes = (recipes: Readonly<Record<string, Recipe>>, by: number): Record<string, Recipe> =>
  mapped(recipes, (recipe) => ({ ...recipe, written: mapped(recipe.written, (keys) => later(keys, by)) }));

const later = <K extends { readonly frame: number }>(keys: readonly K[], by: number): K[] =>
  keys.map((k) => ({ ...k, frame: k.frame + by }));

const mapped = <T>(record: Readonly<Record<string, T>>, change: (value: T) => T): Record<string, T> =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value)]));

/** Ties the halves of a cycle together, one half leading, or lets each be for itself. */
export const setHalves = defineCommand<{ id: string; halves: Clip['halves']; leads: 'first' | 'second' }>({
  name: 'clip.halves',
  label: ({ id, halves, leads }, shot) =>
    halves === 'mirrored'
      ? `mirror the ${leads} half of ${clipWords(shot, id)}`
      : `let the halves of ${clipWords(shot, id)} go`,
  apply(shot, { id, halves, leads }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.kept) return shot;
    if (halves === 'free') return clip.halves === 'free' ? shot : withClip(shot, { ...clip, halves });
    if (!clip.cycles || clip.length % 2 !== 0) return shot;
    return inMirror(shot, clip, leads);
  },
});

/** Calls frames of a clip contact, down, passing and up. */
export const labelPoses = defineCommand<{ id: string; labels: readonly PoseLabel[] }>({
  name: 'clip.label',
  label: ({ id }, shot) => `label the poses of ${clipWords(shot, id)}`,
  apply(shot, { id, labels }) {
    const clip = shot.clips.get(id);
    return clip ? withClip(shot, { ...clip, labels: oneAFrame(labels) }) : shot;
  },
});

/** Says when a foot is held to the ground. Where halves are mirrored its partner is held half a cycle later. */
export const setStances = defineCommand<{ id: string; control: string; stances: readonly Stance[] }>({
  name: 'clip.stances',
  label: ({ id, control, stances }, shot) => {
    const name = controlName(shot, shot.clips.get(id), control);
    return stances.length > 0 ? `hold ${name} to the ground` : `let go of ${name}`;
  },
  apply(shot, { id, control, stances }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.kept) return shot;
    const wanted: Clip['stances'] = { ...clip.stances, [control]: stances.map((s) => ({ ...s })) };
    const partner = partnerOf(shot, clip, control);
    if (clip.halves === 'mirrored' && partner) wanted[partner] = shiftedStances(stances, clip.length, clip.length / 2);
    const kept = Object.fromEntries(Object.entries(wanted).filter(([, list]) => list.length > 0));
    return withClip(shot, { ...clip, stances: kept });
  },
});

/** Holds all feet to the ground while they are down, and lets the clip travel as far as they go. */
export const holdFeet = defineCommand<{ id: string; stances: Clip['stances']; travel: number }>({
  name: 'clip.holdFeet',
  label: ({ id }, shot) => `hold the feet of ${clipWords(shot, id)} to the ground`,
  apply(shot, { id, stances, travel }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.kept) return shot;
    const next: Clip = { ...clip, stances, travel };
    // Of mirrored halves the first one leads, so that both feet stand alike.
    return withClip(
      shot,
      next.halves === 'mirrored' ? { ...next, stances: mirroredStances(shot, next, 'first') } : next,
    );
  },
});

function partnerOf(shot: Shot, clip: Clip, control: string): string | null {
  const member = controlsOf(shot, clip.rig).find((c) => c.shape.control === control);
  return (member && shot.rigs.control(member.shape)?.partner) ?? null;
}

const controlName = (shot: Shot, clip: Clip | undefined, control: string): string =>
  (clip && controlsOf(shot, clip.rig).find((c) => c.shape.control === control)?.name) ?? control;

/**
 * Moves the keys of some controls round the cycle by so many frames, later for positive numbers, with the frames in which they
 * stand. A foot that stood still stands still.
 */
export const shiftInCycle = defineCommand<{ id: string; by: Readonly<Record<string, number>> }>({
  name: 'clip.shift',
  label({ by }, shot) {
    const members = Object.keys(by);
    const frames = Object.values(by)[0] ?? 0;
    return `${memberWords(shot, members)} ${Math.abs(frames)} frames ${frames > 0 ? 'later' : 'earlier'}`;
  },
  apply(shot, { id, by }) {
    const clip = shot.clips.get(id);
    if (!clip || clip.kept || !clip.cycles) return shot;
    const own = new Map(controlsOf(shot, clip.rig).map((c) => [c.id, c.shape.control]));
    const frames = (member: string) => (own.has(member) ? (by[member] ?? 0) : 0);
    const curves = shot.curves.edit();
    const stances = { ...clip.stances };
    let changed = false;
    for (const [path, curve] of rigCurves(shot, clip.rig)) {
      const amount = frames(splitPath(path).member);
      if (amount % clip.length === 0) continue;
      curves.set(path, shifted(curve, clip, amount));
      changed = true;
    }
    for (const [member, control] of own) {
      if (frames(member) % clip.length !== 0 && stances[control])
        stances[control] = shiftedStances(stances[control], clip.length, frames(member));
    }
    // Halves that were mirrored are so no longer where only one side was moved: then the clip lets them go.
    return changed ? stillMirrored(withClip({ ...shot, curves: curves.done() }, { ...clip, stances }), clip, by) : shot;
  },
});

function stillMirrored(shot: Shot, clip: Clip, by: Readonly<Record<string, number>>): Shot {
  if (clip.halves === 'free') return shot;
  const controls = controlsOf(shot, clip.rig);
  const even = controls.every((c) => {
    const partner = partnerOf(shot, clip, c.shape.control) ?? c.shape.control;
    const there = controls.find((o) => o.shape.control === partner);
    return (by[c.id] ?? 0) === (by[there?.id ?? ''] ?? 0);
  });
  return even ? shot : withClip(shot, { ...shot.clips.at(clip.id), halves: 'free' });
}

/** A chain breaks joint by joint: each of its controls as many frames later than the one before it. */
export const lagOf = (members: readonly string[], frames: number): Record<string, number> =>
  Object.fromEntries(members.map((m, i) => [m, i * frames]));
