import { runsOf, type WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText, metresText } from './check.ts';
import type { Watched } from './watched.ts';

/** What is higher over the floor than this with all of itself is in the air, unless it stands on something; metres. */
const AIR = 0.02;
/** Shorter flights are hops that nobody can tell from a step, frames. */
const SHORTEST = 4;
const GRAVITY = 9.81;

const lowestAt = (body: WatchedBody, i: number): number => {
  const count = body.placed.compiled.rig.joints.length;
  let lowest = Number.POSITIVE_INFINITY;
  for (let j = 0; j < count; j++) lowest = Math.min(lowest, body.lowest[i * count + j]);
  return lowest;
};

/** How far the middle of a body is from the way it would fall, at its worst: metres and the frame, counted from the first. */
export function offTheFall(
  heights: ArrayLike<number>,
  from: number,
  to: number,
  rate: number,
): { at: number; off: number } {
  // The fall through both of its ends is the only one there is.
  const seconds = (to - from) / rate;
  const speed = (heights[to] - heights[from]) / seconds + (GRAVITY * seconds) / 2;
  let [at, off] = [from, 0];
  for (let i = from; i <= to; i++) {
    const t = (i - from) / rate;
    const apart = heights[i] - (heights[from] + speed * t - (GRAVITY * t * t) / 2);
    if (Math.abs(apart) > Math.abs(off)) [at, off] = [i, apart];
  }
  return { at, off };
}

export const flightFalls: Check = {
  id: 'flightFalls',
  name: 'A flight that does not fall',
  why: 'In the air nothing holds a body up: its middle goes along a parabola, whatever arms and legs do. One that hangs or glides has lost its weight.',
  unit: 'mm',
  tolerance: 60,
  most: 1_000,
  step: 10,
  weight: 'fault',
  *look(watched: Watched, tolerance): Iterable<Draft | null> {
    for (const body of watched.bodies) {
      // Who never stands flies by other means.
      if (body.limbs.length === 0 || !body.outside.some(Number.isFinite)) continue;
      const heights = Float64Array.from({ length: watched.frames }, (_, i) => body.centre[i * 3 + 1]);
      const inAir = (i: number) => lowestAt(body, i) > AIR && !watched.isStanding(body.rig, watched.first + i);
      for (const [from, to] of runsOf(watched.frames, inAir)) {
        // Of a flight that begins or ends outside nobody knows.
        if (from === 0 || to === watched.frames - 1 || to - from + 1 < SHORTEST) continue;
        const { at, off } = offTheFall(heights, from, to, watched.shot.rate);
        if (Math.abs(off) * 1000 <= tolerance) continue;
        yield {
          member: body.rig,
          frame: watched.first + from,
          until: watched.first + to,
          value: Math.abs(off) * 1000,
          text:
            off > 0
              ? `${watched.name(body.rig)} hangs ${metresText(off)} above the way it would fall, at ${frameText(watched.first + at)}.`
              : `${watched.name(body.rig)} is in the air longer than it falls: at ${frameText(watched.first + at)} it would have to be ${metresText(-off)} higher.`,
        };
      }
      yield null;
    }
  },
};
