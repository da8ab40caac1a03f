import { type Check, type Draft, frameText } from './check.ts';

export const limbReach: Check = {
  id: 'limbReach',
  name: 'Limb near full reach',
  why: 'An arm or leg drawn out straight looks like a stick, and snaps when it bends again. Bring the body nearer, or the hand.',
  unit: '%',
  tolerance: 99.5,
  most: 100,
  step: 0.1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of watched.bodies) {
      for (const [l, limb] of body.limbs.entries()) {
        const share = (i: number) => body.reach[i * body.limbs.length + l] * 100;
        for (const [from, to] of body.runs(watched.frames, (i) => share(i) > tolerance + 1e-6)) {
          let worst = from;
          for (let i = from; i <= to; i++) if (share(i) > share(worst)) worst = i;
          yield {
            member: body.member(watched.frame, limb.dials),
            frame: watched.first + worst,
            until: watched.first + to,
            value: share(worst),
            text: `${watched.name(body.rig)}: ${limb.name} is at ${share(worst).toFixed(1)} % of its reach at ${frameText(watched.first + worst)}.`,
          };
        }
        yield null;
      }
    }
  },
};
