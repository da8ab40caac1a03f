import type { Curve, Key, NumberCurve } from '../curve/key.ts';
import type { AnyKey } from '../curve/turn-back.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { slopeHandle } from './parabolas.ts';

/** Bounces made anew where they are: other times, other heights, the rest of the motion carried along. */

/** An arc from one contact to the next. */
export interface Arc {
  readonly from: number;
  readonly to: number;
  readonly start: number;
  readonly end: number;
  /** How high it goes above its start. */
  readonly height: number;
}

/**
 * A curve with a parabola for an arc: its contacts become sharp on that side, its top a key on the nearest whole frame, and what
 * stood between goes.
 */
export function withArc(curve: NumberCurve, arc: Arc): NumberCurve {
  const frames = arc.to - arc.from;
  const [up, down] = [Math.sqrt(arc.height), Math.sqrt(Math.max(arc.height + arc.start - arc.end, 0))];
  const top = (frames * up) / (up + down || 1);
  const gravity = top > 0 ? (2 * arc.height) / (top * top) : 0;
  const slope = (t: number) => gravity * (top - t);
  const value = (t: number) => arc.start + gravity * top * t - (gravity * t * t) / 2;
  const at = Math.round(arc.from + top) - arc.from;
  const hasTop = at > 0.5 && at < frames - 0.5;
  const near = (k: Key, frame: number) => Math.abs(k.frame - frame) <= 1e-6;
  const legs = hasTop ? [at, frames - at] : [frames, frames];
  const keys = curve.keys.flatMap((key): Key[] => {
    if (near(key, arc.from))
      return [{ ...key, value: arc.start, out: slopeHandle('out', legs[0], slope(0)), joined: false }];
    if (near(key, arc.to))
      return [{ ...key, value: arc.end, in: slopeHandle('in', legs[1], slope(frames)), joined: false }];
    return key.frame > arc.from && key.frame < arc.to ? [] : [key];
  });
  if (hasTop) {
    const topKey: Key = {
      frame: arc.from + at,
      value: value(at),
      in: slopeHandle('in', at, slope(at)),
      out: slopeHandle('out', frames - at, slope(at)),
      joined: true,
      role: 'key',
    };
    keys.splice(
      keys.findIndex((k) => k.frame > topKey.frame),
      0,
      topKey,
    );
  }
  return { ...curve, keys };
}

/** A change of time: frames on the left go to frames on the right, evenly between them; what lies beyond is shifted along. */
export type TimeMap = readonly (readonly [from: number, to: number])[];

/** Carries all keys of a member along a change of time, handles and all. Keys on whole frames stay on whole frames. */
export function withTimeMap(shot: Shot, member: string, map: TimeMap): Shot {
  const curves = shot.curves.edit();
  for (const [path, curve] of curvesOf(shot, [shot.members.at(member)])) curves.set(path, mapped(curve, map));
  return { ...shot, curves: curves.done() };
}

function mapped(curve: Curve, map: TimeMap): Curve {
  const placed = (curve.keys as readonly AnyKey[]).map((key) => {
    const exact = frameIn(map, key.frame);
    const frame = Number.isInteger(key.frame) ? Math.round(exact) : exact;
    return stretchedSides({ ...key, frame }, rateIn(map, key.frame, 'in'), rateIn(map, key.frame, 'out'));
  });
  // Two keys may come to stand on one frame: the later of them is what the frame shows.
  const keys = placed.filter((k, i) => i + 1 === placed.length || placed[i + 1].frame > k.frame);
  return { ...curve, keys } as Curve;
}

function frameIn(map: TimeMap, frame: number): number {
  if (frame <= map[0][0]) return frame - map[0][0] + map[0][1];
  for (let i = 0; i + 1 < map.length; i++) {
    const [[a, b], [c, d]] = [map[i], map[i + 1]];
    if (frame <= c) return b + ((frame - a) * (d - b)) / (c - a);
  }
  const [a, b] = map[map.length - 1];
  return frame - a + b;
}

/** How much longer time is on one side of a frame. */
function rateIn(map: TimeMap, frame: number, side: 'in' | 'out'): number {
  for (let i = 0; i + 1 < map.length; i++) {
    const [[a, b], [c, d]] = [map[i], map[i + 1]];
    if (side === 'in' ? frame > a && frame <= c : frame >= a && frame < c) return (d - b) / (c - a);
  }
  return 1;
}

function stretchedSides<K extends AnyKey>(key: K, before: number, after: number): K {
  const stretch = <H extends Key['in'] | Key['out']>(h: H, by: number): H =>
    h.kind === 'free' ? { ...h, frames: h.frames * by } : h;
  return { ...key, in: stretch(key.in, before), out: stretch(key.out, after) };
}
