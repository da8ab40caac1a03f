import { runsOf } from './bodies.ts';
import { type Check, type Draft, frameText } from './check.ts';
import { partName, type WatchedCycle } from './cycles.ts';
import type { Watched } from './watched.ts';

export const belowFloor: Check = {
  id: 'belowFloor',
  name: 'Part below the floor',
  why: 'A foot that sinks in has no ground under it. A millimetre is seen where the shadow meets the sole.',
  unit: 'mm',
  tolerance: 1,
  most: 200,
  step: 0.5,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of watched.cycles) yield* inCycle(cycle, watched, tolerance);
    const cycling = new Set(watched.cycles.map((c) => c.rig));
    for (const body of watched.bodies) {
      if (cycling.has(body.rig)) continue;
      const { joints } = body.placed.compiled.rig;
      const depth = (i: number, j: number) => -body.lowest[i * joints.length + j] * 1000;
      // What hangs from above the floor by a root below it, or stands in a hole, is another matter: only what goes under is told.
      const deepest = (i: number) => {
        let best = 0;
        for (let j = 1; j < joints.length; j++) if (depth(i, j) > depth(i, best)) best = j;
        return best;
      };
      for (const [from, to] of runsOf(watched.frames, (i) => depth(i, deepest(i)) > tolerance)) {
        let worst = from;
        for (let i = from; i <= to; i++) if (depth(i, deepest(i)) > depth(worst, deepest(worst))) worst = i;
        const joint = deepest(worst);
        yield {
          member: body.rig,
          frame: watched.first + worst,
          until: watched.first + to,
          value: depth(worst, joint),
          text: `${watched.name(body.rig)}: ${partName(body.placed, joints[joint].id)} is ${depth(worst, joint).toFixed(1)} mm below the floor at ${frameText(watched.first + worst)}.`,
        };
      }
      yield null;
    }
  },
};

/** Of a cycle each part is told by itself, with the frame it is deepest in. The floor is the rig's own. */
function* inCycle(cycle: WatchedCycle, watched: Watched, tolerance: number): Iterable<Draft | null> {
  const { joints } = cycle.placed.compiled.rig;
  const deepest = new Map<string, { frame: number; depth: number }>();
  for (let i = 0; i < cycle.length; i++) {
    joints.forEach((joint, j) => {
      const depth = -cycle.lowest[i * joints.length + j] * 1000;
      const name = partName(cycle.placed, joint.id);
      // Of frames it is as deep in, but for arithmetic, the first is told.
      if (depth > tolerance && depth > (deepest.get(name)?.depth ?? 0) + 1e-6)
        deepest.set(name, { frame: cycle.first + i, depth });
    });
  }
  for (const [name, { frame, depth }] of deepest) {
    yield {
      member: cycle.feet.find((f) => watched.name(f.member) === name)?.member ?? cycle.rig,
      frame,
      value: depth,
      text: `${watched.name(cycle.rig)}: ${name} is ${depth.toFixed(1)} mm below the floor at ${frameText(frame)}.`,
    };
  }
  yield null;
}
