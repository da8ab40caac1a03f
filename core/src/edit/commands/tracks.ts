import { clipAtWork } from '../../clip/at-work.ts';
import { type Curve, type NumberCurve, SAME_FRAME } from '../../curve/key.ts';
import { withKey } from '../../curve/reshape.ts';
import { CurveReader, valueAt } from '../../curve/sample.ts';
import { withSplit } from '../../curve/split.ts';
import { thinned } from '../../curve/thin.ts';
import { thinnedTurns } from '../../curve/thin-turns.ts';
import { controlsOf } from '../../document/casting.ts';
import { channelPath, findChannel, splitPath } from '../../document/channels.ts';
import { clipFrames } from '../../document/clip.ts';
import { curvesOf } from '../../document/paths.ts';
import type { Shot } from '../../document/shot.ts';
import { type ClipTrack, endOf } from '../../document/track.ts';
import { memberWords } from '../../document/words.ts';
import { frameOf } from '../../evaluate/program.ts';
import { sourceOf } from '../../evaluate/source.ts';
import { Refused } from '../../schema/refused.ts';
import { givenBy, givenCurve } from '../../track/arrangement.ts';
import { corrected } from '../../track/corrected.ts';
import type { Course } from '../../track/course.ts';
import { defineCommand } from '../edit.ts';
import { freeClipName, newClip } from './clips.ts';

/** Tracks of rigs, and what is laid on them. */

/** Puts a track, or another version of one, to its rig. Its spans stand in the order in which they begin. */
export const putTrack = defineCommand<{ track: ClipTrack; does?: string }>({
  name: 'track.put',
  label: ({ track, does }, shot) => does ?? `${shot.tracks.has(track.id) ? 'change' : 'add'} the track ${track.name}`,
  apply(shot, { track }) {
    if (shot.members.get(track.rig)?.kind !== 'rig') throw new Refused('A track belongs to a rig of the cast.');
    if (
      track.own &&
      (track.spans.length > 0 || shot.tracks.values().some((t) => t.own && t.rig === track.rig && t.id !== track.id))
    )
      throw new Refused('A rig has one row of own keys, and no span lies on it.');
    for (const span of track.spans)
      if (shot.clips.get(span.clip)?.rig !== track.rig) {
        throw new Refused(`A span of ${track.name} has no clip of its rig to play.`);
      } else if (span.base.clip !== null && shot.clips.get(span.base.clip)?.rig !== track.rig)
        throw new Refused(`A span of ${track.name} is measured from a clip that its rig does not have.`);
    const spans = [...track.spans].sort((a, b) => a.from - b.from || endOf(a) - endOf(b));
    const third = spans.find((span, i) => i > 1 && spans.slice(0, i - 1).some((s) => endOf(s) > span.from));
    if (third) throw new Refused(`At frame ${third.from} three spans of ${track.name} would lie over one another.`);
    return { ...shot, tracks: shot.tracks.with(track.id, { ...track, spans }) };
  },
});

/** Takes tracks away with all that is laid on them; the clips stay. */
export const removeTracks = defineCommand<{ ids: readonly string[] }>({
  name: 'track.remove',
  label: ({ ids }, shot: Shot) =>
    ids.length === 1 ? `take the track ${shot.tracks.get(ids[0])?.name ?? ''} away` : `take ${ids.length} tracks away`,
  apply: (shot, { ids }) => ({ ...shot, tracks: shot.tracks.withoutAll(ids) }),
});

/** Puts a span of one track onto another one of the same rig, from a frame on. */
export const moveSpan = defineCommand<{ span: string; from: string; to: string; at: number }>({
  name: 'track.moveSpan',
  label: ({ to }, shot) => `move a span to ${shot.tracks.get(to)?.name ?? 'another track'}`,
  apply(shot, { span: id, from, to, at }) {
    const [first, second] = [shot.tracks.get(from), shot.tracks.get(to)];
    const span = first?.spans.find((s) => s.id === id);
    if (!first || !second || !span || from === to) return shot;
    if (first.rig !== second.rig) throw new Refused('A span stays with its rig.');
    if (first.locked || second.locked) throw new Refused('A locked track is left as it is.');
    const left = { ...first, spans: first.spans.filter((s) => s.id !== id) };
    const onto = { ...second, spans: [...second.spans, { ...span, from: at }] };
    return putTrack.apply({ ...shot, tracks: shot.tracks.with(from, left) }, { track: onto });
  },
});

/** How much an arrangement may move where it is laid down: metres, and radians for turns. */
export interface Within {
  readonly metres: number;
  readonly radians: number;
}

const PLACES = [
  'move.x',
  'move.y',
  'move.z',
  'turn.x',
  'turn.y',
  'turn.z',
  'orientation',
  'size.x',
  'size.y',
  'size.z',
];

/**
 * Turns what the tracks of a rig give into plain keys of its controls, thinned within a tolerance, and how far they take it into keys of the rig's
 * own place. Keys of its own go into them as they stand. The tracks stay, and are silent.
 * @param only some of its controls: then those get keys, and the tracks go on
 */
export const layDown = defineCommand<{ rig: string; within: Within; only?: readonly string[] }>({
  name: 'track.layDown',
  label: ({ rig, only }, shot) => `lay the tracks of ${memberWords(shot, only ?? [rig])} down as keys`,
  apply(shot, { rig, within, only }) {
    const given = givenBy(shot, rig);
    const name = memberWords(shot, [rig]);
    if (!given) {
      const clip = clipAtWork(shot, rig);
      throw new Refused(clip ? `${clip.name} is at work: lay it by first.` : `No track of ${name} plays anything.`);
    }
    const curves = shot.curves.edit();
    const meant = only && new Set(only);
    for (const path of given.paths) {
      if (meant && !meant.has(splitPath(path).member)) continue;
      // With one's own keys as they stand over it.
      const source = sourceOf(shot, path);
      const held = source?.is === 'formula' ? source.on : source;
      if (held?.is === 'keys') curves.set(path, fewer(shot, path, held.curve, within, meant && givenCurve(shot, path)));
    }
    // The others go on on their tracks, and so do these, to which the keys say the same.
    if (meant) return { ...shot, curves: curves.done() };
    if (given.course) {
      if (PLACES.some((channel) => shot.curves.has(channelPath(rig, channel))))
        throw new Refused(`${name} is moved or turned by keys of its own: its tracks cannot take it along as well.`);
      for (const [path, curve] of wayAlong(shot, rig, given.course)) curves.set(path, fewer(shot, path, curve, within));
    }
    const own = shot.tracks.values().filter((t) => t.rig === rig);
    const tracks = shot.tracks.withAll(own.map((t) => [t.id, { ...t, muted: true }]));
    return { ...shot, curves: curves.done(), tracks };
  },
});

/** A curve with as few keys as keep it. @param below what goes on playing under it, if anything does */
function fewer(shot: Shot, path: string, curve: Curve, { metres, radians }: Within, below?: Curve): Curve {
  if (curve.type !== 'number') return thinnedTurns(curve, radians);
  const { member, channel } = splitPath(path);
  const unit = findChannel(shot.members.at(member), channel, shot.rigs)?.unit;
  const tolerance = unit === '°' ? radians : metres;
  return below?.type === 'number' ? fewerOver(curve, below, tolerance) : thinned(curve, tolerance).curve;
}

/** How often what is thinned over something that plays is tried again, each time half as freely. */
const MOST_TRIES = 6;

/** Between keys over tracks the tracks go on: how far what is heard of both is off is known only by looking, so it is thinned less until it is near enough. */
function fewerOver(curve: NumberCurve, below: NumberCurve, tolerance: number): NumberCurve {
  const [wanted, last] = [new CurveReader(curve), curve.keys[curve.keys.length - 1].frame];
  let made = thinned(curve, tolerance).curve;
  for (let tries = 1; tries < MOST_TRIES; tries++) {
    const played = new CurveReader(corrected(made, below));
    let off = 0;
    for (let f = curve.keys[0].frame; f <= last; f += 0.5) off = Math.max(off, Math.abs(played.at(f) - wanted.at(f)));
    if (off <= tolerance) return made;
    made = thinned(curve, tolerance / 2 ** tries).curve;
  }
  return made;
}

/** Where a rig stands that is taken so, and which way it faces: its place and turn, as curves, in the space its own place is told in. */
function wayAlong(shot: Shot, rig: string, { z, x, turn }: Course): [path: string, curve: NumberCurve][] {
  const frame = frameOf(shot, shot.play.first);
  const slot = frame.layout.slotOf.get(rig)!;
  const parent = frame.layout.space[slot];
  const at = (channel: string) => frame.value(rig, channel) ?? 0;
  /** An axis of the rig in the space of its parent. */
  const inside = (own: 0 | 8) => {
    const axis = [0, 1, 2].map((r) => frame.world[slot * 16 + own + r]);
    if (parent < 0) return axis;
    return [0, 1, 2].map((c) => {
      const column = [0, 1, 2].map((r) => frame.world[parent * 16 + c * 4 + r]);
      return column.reduce((sum, v, r) => sum + v * axis[r], 0) / column.reduce((sum, v) => sum + v * v, 0);
    });
  };
  const [aside, ahead] = [inside(0), inside(8)];
  const places = [0, 1, 2].flatMap((axis): [string, NumberCurve][] => {
    const parts = [[z, ahead[axis]] as const, ...(x ? [[x, aside[axis]] as const] : [])];
    const channel = `move.${'xyz'[axis]}`;
    return parts.every(([, by]) => Math.abs(by) < 1e-12)
      ? []
      : [[channelPath(rig, channel), summed(at(channel), parts)]];
  });
  if (!turn) return places;
  const member = shot.members.at(rig);
  if (member.rotation !== 'angles' || Math.hypot(at('turn.x'), at('turn.z')) > 1e-9)
    throw new Refused(`${member.name} stands askew: how its tracks turn it is no turn about one of its axes.`);
  return [...places, [channelPath(rig, 'turn.y'), summed(at('turn.y'), [[turn, 1]])]];
}

/** A number and multiples of curves with the same frames, together. */
function summed(start: number, parts: readonly (readonly [NumberCurve, number])[]): NumberCurve {
  const [[first]] = parts;
  const keys = first.keys.map((key, i) => {
    const rise = (side: 'in' | 'out') =>
      parts.reduce((sum, [curve, by]) => {
        const handle = curve.keys[i][side];
        return sum + (handle.kind === 'free' ? handle.rise * by : 0);
      }, 0);
    const value = parts.reduce((sum, [curve, by]) => sum + curve.keys[i].value * by, start);
    const [into, out] = [key.in, key.out];
    return {
      ...key,
      value,
      in: into.kind === 'free' ? { ...into, rise: rise('in') } : into,
      out: out.kind === 'free' ? { ...out, rise: rise('out') } : out,
    };
  });
  return { ...first, keys };
}

/**
 * Keys controls on a frame as the tracks of their rig have them there, in the channels that have keys of their own: where a correction comes to its end, or
 * has not begun yet.
 */
export const keyAsTracks = defineCommand<{ ids: readonly string[]; frame: number }>({
  name: 'track.keyAsTracks',
  label: ({ ids, frame }, shot) => `key ${memberWords(shot, ids)} as the tracks at ${frame}`,
  apply(shot, { ids, frame }) {
    const curves = shot.curves.edit();
    let keyed = 0;
    const meant = ids.flatMap((id) => {
      const member = shot.members.get(id);
      return member?.kind === 'rig' ? controlsOf(shot, id) : member?.kind === 'control' ? [member] : [];
    });
    for (const [path, curve] of curvesOf(shot, meant)) {
      const given = givenCurve(shot, path);
      if (curve.type !== 'number' || given?.type !== 'number') continue;
      curves.set(path, withKey(curve, frame, valueAt(given, frame)));
      keyed++;
    }
    if (keyed === 0) throw new Refused('Nothing that is picked has keys of its own over tracks.');
    return { ...shot, curves: curves.done() };
  },
});

/** Makes a clip, laid by, of what a rig's own keys are between two frames; the keys stay. */
export const liftOut = defineCommand<{ rig: string; id: string; name: string; from: number; to: number }>({
  name: 'clip.liftOut',
  label: ({ rig, name }, shot) => `lift ${name} out of the keys of ${memberWords(shot, [rig])}`,
  apply(shot, { rig, id, name, from, to }) {
    if (shot.members.get(rig)?.kind !== 'rig') throw new Refused('Only a rig has clips.');
    const length = to - from;
    if (length < clipFrames.least || length > clipFrames.most)
      throw new Refused(`A clip is ${clipFrames.least} to ${clipFrames.most} frames long, this is ${length}.`);
    const curves = curvesOf(shot, controlsOf(shot, rig)).map(
      ([path, curve]) => [path, cutOut(curve, from, to)] as const,
    );
    if (curves.length === 0) throw new Refused(`${memberWords(shot, [rig])} has no keys to make a clip of.`);
    const kept = { curves: Object.fromEntries(curves), recipes: {} };
    const plain = { id, name: freeClipName(shot, rig, name), first: from, length, cycles: false, labels: [] };
    return { ...shot, clips: shot.clips.with(id, newClip(shot, rig, { ...plain, halves: 'free', kept })) };
  },
});

/** A curve between two frames, with what it holds at both as keys; beyond them it holds. */
function cutOut(curve: Curve, from: number, to: number): Curve {
  if (curve.type !== 'number') {
    const inside = curve.keys.filter((k) => k.frame >= from && k.frame <= to);
    return { ...curve, keys: inside.length > 0 ? inside : curve.keys.slice(0, 1), before: 'hold', after: 'hold' };
  }
  const split = withSplit(withSplit(curve, from), to);
  const inside = split.keys.filter((k) => k.frame >= from - SAME_FRAME && k.frame <= to + SAME_FRAME);
  const before = split.keys.findLast((k) => k.frame < from);
  const keys = inside.length > 0 ? inside : [before ?? split.keys[0]];
  return { type: 'number', keys, before: 'hold', after: 'hold' };
}
