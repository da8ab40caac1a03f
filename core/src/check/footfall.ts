import { lackingOf } from '../clip/lacking.ts';
import type { Clip, Stance } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { TOUCHES, type WatchedCycle, type WatchedFoot } from './cycles.ts';
import { lookedAt } from './watched.ts';

/** What the feet of a cycle do, as it looks: when each is on the ground, and how far they carry the body. */
export interface SeenFootfall {
  readonly stances: Clip['stances'];
  /** Metres a cycle. */
  readonly travel: number;
}

/** Fewer frames on the ground are a brush and no stance. */
const STANDS = 3;

/** Feet whose strides differ by more than this share of the longer one do not walk together. */
const APART = 0.3;

/** Looks at the feet of a clip that is a cycle, or says as a sentence why they cannot be held to the ground as they are. */
export function footfallOf(shot: Shot, clip: Clip): SeenFootfall | string {
  const lacking = lackingOf(shot, clip);
  if (lacking) return lacking;
  const cycle = lookedAt(shot).cycles.find((c) => c.rig === clip.rig);
  if (!cycle || cycle.feet.length === 0) return 'It has no feet.';
  const stances: Clip['stances'] = {};
  const strides: { name: string; stride: number }[] = [];
  const name = (foot: WatchedFoot) => shot.members.at(foot.member).name;
  for (const foot of cycle.feet) {
    const own = seenStances(cycle, foot);
    const [stance] = own;
    if (own.length === 0) return `${name(foot)} is not on the ground for three frames: ${highestOf(cycle, foot)}.`;
    if (stance.to - stance.from >= cycle.length) return `${name(foot)} never leaves the ground.`;
    stances[foot.control] = own;
    strides.push({ name: name(foot), stride: travelOf(cycle, [[foot, own]]) });
  }
  strides.sort((a, b) => Math.abs(b.stride) - Math.abs(a.stride));
  const [longest, shortest] = [strides[0], strides.at(-1)!];
  if (Math.abs(longest.stride - shortest.stride) > APART * Math.abs(longest.stride))
    return `${longest.name} would carry the body ${longest.stride.toFixed(2)} m in a cycle and ${shortest.name} ${shortest.stride.toFixed(2)} m: pose them to the same stride.`;
  return {
    stances,
    travel: travelOf(
      cycle,
      cycle.feet.map((f) => [f, stances[f.control]]),
    ),
  };
}

/** How near a foot comes to the ground, in words. */
function highestOf({ length, first }: WatchedCycle, { points }: WatchedFoot): string {
  const height = (i: number) => Math.min(points[i * 9 + 1], points[i * 9 + 4], points[i * 9 + 7]);
  const lowest = Array.from({ length }, (_, i) => i).reduce((a, b) => (height(b) < height(a) ? b : a));
  return `it comes down to ${(height(lowest) * 1000).toFixed(0)} mm, at ${first + lowest}`;
}

/**
 * How far feet carry the body, by how what touches the ground goes back: one speed for all of them, by least squares. Where a foot
 * comes down and where it leaves, curves are eased; the whole of its way says more than its ends.
 */
function travelOf({ length }: WatchedCycle, feet: readonly (readonly [WatchedFoot, readonly Stance[]])[]): number {
  let [covariance, variance] = [0, 0];
  for (const [foot, stances] of feet) {
    for (const { from, to } of stances) {
      const middle = (to - from) / 2;
      let way = 0;
      for (let f = from; f <= to; f++) {
        if (f > from) way += stepOf(foot, (f - 1) % length);
        covariance += (f - from - middle) * way;
        variance += (f - from - middle) ** 2;
      }
    }
  }
  return variance > 0 ? (-covariance / variance) * length : 0;
}

/** How far forward what touches the ground in a frame goes until the next one, metres. */
function stepOf({ points }: WatchedFoot, i: number): number {
  const [now, next] = [i * 9, i * 9 + 9];
  const lowest = [0, 3, 6].reduce((a, b) => (both(b) < both(a) - 1e-9 ? b : a));
  return points[next + lowest + 2] - points[now + lowest + 2];

  function both(c: number): number {
    return Math.max(points[now + c + 1], points[next + c + 1]);
  }
}

function seenStances({ length }: WatchedCycle, { points }: WatchedFoot): Stance[] {
  const down = (i: number) => [1, 4, 7].some((c) => points[(i % length) * 9 + c] <= TOUCHES);
  // Begin where it is in the air, so that a stance that goes through the seam is one.
  const start = Array.from({ length }, (_, i) => i).find((i) => !down(i));
  if (start === undefined) return [{ from: 0, to: length }];
  const out: Stance[] = [];
  let from: number | null = null;
  for (let i = start; i <= start + length; i++) {
    if (down(i) && from === null) from = i;
    if (!down(i) && from !== null) {
      if (i - from >= STANDS) out.push({ from: from % length, to: (from % length) + (i - 1 - from) });
      from = null;
    }
  }
  return out;
}
