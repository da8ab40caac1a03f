import { runsOf } from './bodies.ts';
import { type Check, type Draft, frameText } from './check.ts';

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
    for (const body of watched.bodies) {
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
          text: `${watched.name(body.rig)}: ${joints[joint].id} is ${depth(worst, joint).toFixed(1)} mm below the floor at ${frameText(watched.first + worst)}.`,
        };
      }
      yield null;
    }
  },
};
