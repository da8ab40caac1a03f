import type { Clip, Stance } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { TOUCHES, type WatchedCycle, type WatchedFoot } from './cycles.ts';
import { lookedAt } from './watched.ts';

/** What the feet of a cycle do, as it looks: when each is on the ground, and how far they carry the body. */
export interface SeenFootfall {
  readonly stances: Clip['stances'];
  /** Metres a cycle; null where no foot stands. */
  readonly travel: number | null;
}

/** Fewer frames on the ground are a brush and no stance. */
const STANDS = 3;

/** Looks at the feet of a rig that cycles; null where it does not. */
export function footfallOf(shot: Shot, rig: string): SeenFootfall | null {
  const cycle = lookedAt(shot).cycles.find((c) => c.rig === rig);
  if (!cycle) return null;
  const stances: Clip['stances'] = {};
  for (const foot of cycle.feet) {
    const own = seenStances(cycle, foot);
    if (own.length > 0) stances[foot.control] = own;
  }
  return { stances, travel: travelOf(cycle, stances) };
}

/**
 * How far the feet carry the body, by how they go back while they stand: one speed for all of them, by least squares. Where a foot
 * comes down and where it leaves, curves are eased; the whole of its way says more than its ends.
 */
function travelOf({ feet, length }: WatchedCycle, stances: Clip['stances']): number | null {
  let [covariance, variance] = [0, 0];
  for (const { control, forward } of feet) {
    for (const { from, to } of stances[control] ?? []) {
      const middle = (to - from) / 2;
      for (let f = from; f <= to; f++) {
        covariance += (f - from - middle) * forward[f % length];
        variance += (f - from - middle) ** 2;
      }
    }
  }
  return variance > 0 ? (-covariance / variance) * length : null;
}

function seenStances({ length }: WatchedCycle, { points }: WatchedFoot): Stance[] {
  const down = (i: number) => [1, 4, 7].some((c) => points[(i % length) * 9 + c] <= TOUCHES);
  // Begin where it is in the air, so that a stance that goes through the seam is one.
  const start = Array.from({ length }, (_, i) => i).find((i) => !down(i));
  if (start === undefined) return [];
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
