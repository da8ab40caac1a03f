import { runsOf, type WatchedBody } from './bodies.ts';
import { type Check, type Draft, frameText } from './check.ts';
import type { Watched } from './watched.ts';

/** Whether poses can be read, and whether what is held lives. */

/** What goes no further than this in a frame, at its fastest part, is held: metres. */
const HELD = 0.018;
/** A pose is read in so many frames. */
const READ = 6;
/** Shorter pieces may well have no pose to read. */
const PIECE = 60;
/** What goes no further than this in a frame does not go at all. */
const DEAD = 1e-4;

/** How far the fastest control of a body goes to each frame from the one before; the first goes nowhere. */
function fastest(body: WatchedBody, frames: number): Float64Array {
  const count = body.placed.compiled.rig.controls.length;
  const out = new Float64Array(frames);
  for (let i = 1; i < frames; i++)
    for (let c = 0; c < count; c++) {
      const [a, b] = [((i - 1) * count + c) * 3, (i * count + c) * 3];
      const { places } = body;
      out[i] = Math.max(
        out[i],
        Math.hypot(places[b] - places[a], places[b + 1] - places[a + 1], places[b + 2] - places[a + 2]),
      );
    }
  return out;
}

/** Bodies that act: they have limbs, and neither a cycle nor tracks move them. */
const acting = (watched: Watched): WatchedBody[] => {
  const cycling = new Set(watched.cycles.map((c) => c.rig));
  const tracked = new Set(watched.shot.tracks.values().map((t) => t.rig));
  return watched.bodies.filter((b) => b.limbs.length > 0 && !cycling.has(b.rig) && !tracked.has(b.rig));
};

export const nothingHolds: Check = {
  id: 'nothingHolds',
  name: 'Nothing holds',
  why: 'The eye reads a pose in a quarter of a second. Where none stands so long, everything is movement, and nothing is said.',
  unit: 'frames',
  tolerance: READ,
  most: 24,
  step: 1,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of acting(watched)) {
      if (watched.frames < PIECE) continue;
      const speed = fastest(body, watched.frames);
      const longest = runsOf(watched.frames, (i) => speed[i] <= HELD).reduce(
        (most, [from, to]) => Math.max(most, to - from + 1),
        0,
      );
      if (longest < tolerance)
        yield {
          member: body.rig,
          frame: watched.first,
          until: watched.last,
          value: longest,
          text: `No pose of ${watched.name(body.rig)} stands long enough to be read: the longest for ${longest} frames.`,
        };
      yield null;
    }
  },
};

export const deadHold: Check = {
  id: 'deadHold',
  name: 'Dead hold',
  why: 'A body that stands breathes, sinks a little, shifts its weight. One that does not move at all has been switched off.',
  unit: 'frames',
  tolerance: 16,
  most: 200,
  step: 2,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of acting(watched)) {
      const speed = fastest(body, watched.frames);
      // Who never moves is furniture.
      if (!speed.some((v) => v > HELD)) continue;
      for (const [from, to] of body.runs(watched.frames, (i) => i > 0 && speed[i] < DEAD)) {
        if (to - from + 1 <= tolerance) continue;
        yield {
          member: body.rig,
          frame: watched.first + from,
          until: watched.first + to,
          value: to - from + 1,
          text: `${watched.name(body.rig)} stands without any drift for ${to - from + 1} frames, from ${frameText(watched.first + from)} on.`,
        };
      }
      yield null;
    }
  },
};
