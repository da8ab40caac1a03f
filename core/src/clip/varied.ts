import type { Curve, Key } from '../curve/key.ts';
import { controlsOf } from '../document/casting.ts';
import { findChannel, splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';
import { chance } from '../schema/chance.ts';
import { type Circle, circleOf, laidOut } from './circle.ts';

/** How repeats of a cycle are made to differ. */
export interface Variation {
  /** How many rounds, all of them different. */
  readonly times: number;
  /** How much keys differ: a share of how far their channel goes in a round. */
  readonly amount: number;
  /** The same number gives the same differences. */
  readonly seed: number;
}

/**
 * A clip of several rounds of another one, none quite like the other; its first pose is that of the other clip. Feet and what rolls
 * them stay as they are, so that they stand where they stood. A body only sinks lower: one that rose would draw its legs straight.
 * @returns the clip, and the curves of its rig's controls
 */
export function varied(
  shot: Shot,
  clip: Clip,
  { times, amount, seed }: Variation,
): { clip: Clip; curves: Readonly<Record<string, Curve>> } {
  const { length } = clip;
  const own = new Map(controlsOf(shot, clip.rig).map((c) => [c.id, c]));
  const longer: Clip = {
    ...clip,
    length: length * times,
    travel: clip.travel * times,
    halves: 'free',
    labels: rounds(times).flatMap((r) => clip.labels.map((l) => ({ ...l, frame: l.frame + r * length }))),
    stances: Object.fromEntries(
      Object.entries(clip.stances).map(([control, list]) => [
        control,
        rounds(times).flatMap((r) => list.map(({ from, to }) => ({ from: from + r * length, to: to + r * length }))),
      ]),
    ),
  };
  const curves: Record<string, Curve> = {};
  for (const [path, curve] of curvesOf(shot, own.values())) {
    const { member, channel } = splitPath(path);
    const control = own.get(member)!;
    const moves = curve.type === 'number' && (findChannel(control, channel, shot.rigs)?.everyday ?? false);
    const differs = moves && !Object.hasOwn(clip.stances, control.shape.control);
    const isHeight = control.shape.control === 'body' && channel === 'move.y';
    const next = chance(seedOf(path, seed));
    const values = curve.type === 'number' ? curve.keys.map((k) => k.value) : [0];
    const range = Math.max(...values) - Math.min(...values);
    const circle: Circle = new Map();
    for (const r of rounds(times)) {
      for (const [phase, key] of circleOf(curve, clip, curve)) {
        const wanted = differs && (r > 0 || phase > 0) ? (next() * 2 - 1) * amount * range : 0;
        const by = isHeight ? -Math.abs(wanted) : wanted;
        const at = phase + r * length;
        const value = typeof key.value === 'number' ? key.value + by : key.value;
        circle.set(at, { ...key, frame: clip.first + at, value } as Key);
      }
    }
    const laid = laidOut(circle, curve.type, longer);
    if (laid) curves[path] = laid;
  }
  return { clip: longer, curves };
}

const rounds = (times: number) => Array.from({ length: times }, (_, r) => r);

/** A number for each channel and seed, so that no two channels differ alike (FNV-1a). */
function seedOf(path: string, seed: number): number {
  let hash = 2166136261 ^ seed;
  for (let i = 0; i < path.length; i++) hash = Math.imul(hash ^ path.charCodeAt(i), 16777619);
  return hash >>> 0;
}
