import { type Curve, SAME_FRAME } from '../../curve/key.ts';
import { findChannel, splitPath } from '../../document/channels.ts';
import { withoutLoose } from '../../document/loose.ts';
import { channelWords } from '../../document/words.ts';
import { defineCommand } from '../edit.ts';
import { type Performed, type PerformedHow, performedCurve } from '../performed.ts';
import { isShut } from './change.ts';

/** How a performance becomes keys, lengths and turns each in their own measure. */
export interface PerformHow {
  readonly smooth: number;
  /** Metres, and radians; plain numbers have that of metres. */
  readonly metres: number;
  readonly radians: number;
}

/** Puts down what a hand did while the shot played: plain keys, in place of those that stood on its frames. */
export const putPerformed = defineCommand<{ performed: Readonly<Record<string, Performed>>; how: PerformHow }>({
  name: 'key.perform',
  label: ({ performed }, shot) => `perform ${channelWords(shot, Object.keys(performed))}`,
  apply(shot, { performed, how }) {
    const curves = shot.curves.edit();
    let loose = shot.loose;
    for (const [path, list] of Object.entries(performed)) {
      const { member: id, channel } = splitPath(path);
      const member = shot.members.get(id);
      if (!member || isShut(shot, path)) continue;
      const found = findChannel(member, channel, shot.rigs);
      const turning = found?.unit === '°' || typeof list[0]?.value !== 'number';
      const own: PerformedHow = { smooth: how.smooth, tolerance: turning ? how.radians : how.metres };
      const made = performedCurve(list, own);
      if (!made) continue;
      curves.set(path, over(shot.curves.get(path), made));
      loose = withoutLoose(loose, path);
    }
    return { ...shot, curves: curves.done(), loose };
  },
});

/** A curve with another in place of what it has on that one's frames. */
function over(old: Curve | undefined, made: Curve): Curve {
  const [first, last] = [made.keys[0].frame, made.keys[made.keys.length - 1].frame];
  const beside = <K extends { readonly frame: number }>(keys: readonly K[], put: readonly K[]): K[] => [
    ...keys.filter((k) => k.frame < first - SAME_FRAME),
    ...put,
    ...keys.filter((k) => k.frame > last + SAME_FRAME),
  ];
  if (old?.type === 'number' && made.type === 'number') return { ...old, keys: beside(old.keys, made.keys) };
  if (old?.type === 'orientation' && made.type === 'orientation') return { ...old, keys: beside(old.keys, made.keys) };
  return made;
}
