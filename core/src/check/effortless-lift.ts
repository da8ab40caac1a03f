import type { WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText, metresText } from './check.ts';
import type { Watched } from './watched.ts';

/** What is taken up rises by so much within so many frames, metres. */
const RISES = 0.3;
const WITHIN = 10;
/** It has lain still for so many frames, and goes no further than that meanwhile. */
const LAIN = 8;
const STILL = 4e-3;
/** Whoever takes it up is as near as that, metres. */
const NEAR = 1.6;
/** So long before, a body gathers: frames. */
const BEFORE = 18;

/** The frame from which something that lay still is taken up, counted from the first; null where it never is. */
function takenUp(places: Float64Array, frames: number): number | null {
  const y = (i: number) => places[i * 3 + 1];
  for (let i = LAIN; i + WITHIN < frames; i++) {
    let still = true;
    for (let k = 1; k <= LAIN && still; k++)
      still =
        Math.hypot(places[i * 3] - places[(i - k) * 3], y(i) - y(i - k), places[i * 3 + 2] - places[(i - k) * 3 + 2]) <
        STILL;
    if (still && y(i + 1) - y(i) > STILL && y(i + WITHIN) - y(i) > RISES) return i;
  }
  return null;
}

/** How far a body has gone down, or back from a thing, before it takes it up: metres. */
function gathered(body: WatchedBody, at: number, thing: readonly [number, number]): number {
  const { centre } = body;
  const from = Math.max(0, at - BEFORE);
  const away = (i: number) => Math.hypot(centre[i * 3] - thing[0], centre[i * 3 + 2] - thing[1]);
  let [high, near] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  let most = 0;
  for (let i = from; i <= at; i++) {
    high = Math.max(high, centre[i * 3 + 1]);
    near = Math.min(near, away(i));
    most = Math.max(most, high - centre[i * 3 + 1], away(i) - near);
  }
  return most;
}

export const effortlessLift: Check = {
  id: 'effortlessLift',
  name: 'Lift without effort',
  why: 'Before something heavy goes up, the body that takes it goes down or back to get under it. Without a gather the thing weighs nothing.',
  unit: 'mm',
  tolerance: 25,
  most: 500,
  step: 5,
  weight: 'hint',
  *look(watched: Watched, tolerance): Iterable<Draft | null> {
    for (const [id, places] of watched.places) {
      const member = watched.member(id);
      // A thing is a body of its own, and no part of somebody.
      const isThing =
        member.kind === 'rig'
          ? !watched.bodies.some((b) => b.rig === id && b.limbs.length > 0)
          : member.kind !== 'control' && member.kind !== 'camera' && member.kind !== 'light' && member.kind !== 'group';
      const at = isThing ? takenUp(places, watched.frames) : null;
      if (at === null) continue;
      const place = [places[at * 3], places[at * 3 + 2]] as const;
      const body = watched.bodies.find(
        (b) =>
          b.limbs.length > 0 &&
          b.rig !== id &&
          Math.hypot(b.centre[at * 3] - place[0], b.centre[at * 3 + 2] - place[1]) < NEAR,
      );
      if (!body) continue;
      const by = gathered(body, at, place) * 1000;
      if (by >= tolerance) continue;
      yield {
        member: body.rig,
        frame: watched.first + at,
        value: by,
        text: `${watched.name(body.rig)} takes ${watched.name(id)} up at ${frameText(watched.first + at)} and has gathered ${metresText(by / 1000)} for it.`,
      };
    }
    yield null;
  },
};
