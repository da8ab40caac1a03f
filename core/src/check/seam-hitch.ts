import { closedCurve } from '../curve/closed.ts';
import { handleSlope } from '../curve/handles.ts';
import type { NumberCurve } from '../curve/key.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { channelWords } from '../document/words.ts';
import { setHandleKind } from '../edit/commands/keys.ts';
import { type Check, type Draft, frameText } from './check.ts';
import { curvesOf } from './seam-key.ts';

/** A jump from the end to the next beginning, as a share of the channel's range, that is only arithmetic. */
const SAME = 1e-6;

/** What a curve does at its seam, as shares of how far its values go: how far it jumps, and how much its speed a frame. */
export function seamOf(curve: NumberCurve): { jump: number; hitch: number } | null {
  const closed = closedCurve(curve);
  const { keys } = closed;
  const values = keys.map((k) => k.value);
  const range = Math.max(...values) - Math.min(...values);
  const last = keys.length - 1;
  if (range < 1e-6 || keys[last - 1].out.kind === 'stepped' || keys[0].out.kind === 'stepped') return null;
  const gained = closed.after === 'travel' ? values[last] - values[0] : 0;
  return {
    jump: Math.abs(values[last] - values[0] - gained) / range,
    hitch: Math.abs(handleSlope(closed, last, 'in') - handleSlope(closed, 0, 'out')) / range,
  };
}

export const seamHitch: Check = {
  id: 'seamHitch',
  name: 'Hitch at the seam',
  why: 'Where a cycle begins again, place and speed must go on as they were. A jump is a pop, a change of speed is a jerk, once every round.',
  unit: '%',
  tolerance: 0.1,
  most: 100,
  step: 0.1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of watched.wholeCycles) {
      for (const [path, curve] of curvesOf(watched.shot, cycle)) {
        if (curve.type !== 'number' || curve.keys.length < 2 || curve.after === 'hold') continue;
        const seam = seamOf(curve);
        if (!seam) continue;
        const frame = closedCurve(curve).keys.at(-1)!.frame;
        const words = channelWords(watched.shot, [path]);
        const common = { member: splitPath(path).member, path, frame };
        if (seam.jump > SAME)
          yield {
            ...common,
            value: seam.jump * 100,
            unfixable: true,
            text: `${words} jumps by ${(seam.jump * 100).toFixed(1)} % of its range at the seam, ${frameText(frame)}.`,
          };
        else if (seam.hitch * 100 > tolerance)
          yield {
            ...common,
            value: seam.hitch * 100,
            text: `The speed of ${words} changes by ${(seam.hitch * 100).toFixed(1)} % of its range a frame at the seam, ${frameText(frame)}.`,
          };
      }
      yield null;
    }
  },
  fix: {
    words: 'smooth it',
    apply(shot, { path }): Shot {
      const keys = path === null ? undefined : shot.curves.get(path)?.keys;
      if (!path || !keys) return shot;
      const ends = [keys[0].frame, keys[keys.length - 1].frame];
      return setHandleKind.apply(shot, { keys: { [path]: ends }, side: 'both', kind: 'smooth' });
    },
  },
};
