import { type Check, type Draft, frameText, metresText } from './check.ts';

/** Out of balance for fewer frames than this is falling on purpose, or a step. */
const LASTS = 8;
/** Faster than this, metres a second, a body is on its way, and balance is where it will be. */
const ON_ITS_WAY = 0.35;

export const outOfBalance: Check = {
  id: 'outOfBalance',
  name: 'Out of balance',
  why: 'Standing still, the middle of the weight is over the feet. Where it is not, the figure seems to hang on a string.',
  unit: 'mm',
  tolerance: 20,
  most: 1000,
  step: 5,
  weight: 'hint',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const body of watched.bodies) {
      const { centre, outside } = body;
      const speed = (i: number) => {
        const [a, b] = [Math.max(0, i - 1) * 3, Math.min(watched.frames - 1, i + 1) * 3];
        const seconds = (b - a) / 3 / watched.shot.rate || 1;
        return Math.hypot(centre[b] - centre[a], centre[b + 2] - centre[a + 2]) / seconds;
      };
      const off = (i: number) => Number.isFinite(outside[i]) && outside[i] * 1000 > tolerance && speed(i) < ON_ITS_WAY;
      for (const [from, to] of body.runs(watched.frames, off)) {
        if (to - from + 1 < LASTS) continue;
        let worst = from;
        for (let i = from; i <= to; i++) if (outside[i] > outside[worst]) worst = i;
        yield {
          member: body.rig,
          frame: watched.first + worst,
          until: watched.first + to,
          value: outside[worst] * 1000,
          text: `${watched.name(body.rig)}: the weight is ${metresText(outside[worst])} outside what it stands on, from ${frameText(watched.first + from)} to ${frameText(watched.first + to)}.`,
        };
      }
      yield null;
    }
  },
};
