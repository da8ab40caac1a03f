import { quaternionBetween, quaternionExp, quaternionLog, quaternionMultiply } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';
import type { OrientationCurve } from './key.ts';
import { farthest } from './thin.ts';

/** An even turn goes no further, radians: by half a round it could go either way. */
const FURTHEST = 0.9 * Math.PI;

/**
 * As few keys of turns given key by key as keep each of them within a tolerance, joined by even turns the shortest way: from each key
 * the furthest next one is taken, as far as it is found by doubling and halving. First and last key stay.
 *
 * @param curve whose keys are linear
 * @param tolerance radians, above 0
 */
export function thinnedTurns(curve: OrientationCurve, tolerance: number): OrientationCurve {
  const { keys } = curve;
  const kept = [keys[0]];
  for (let from = 0; from + 1 < keys.length; ) {
    from = farthest(from, keys.length - 1, (to) => (isOnTheWay(curve, from, to, tolerance) ? to : null)) ?? from + 1;
    kept.push(keys[from]);
  }
  return { ...curve, keys: kept };
}

/** Whether one even turn passes all keys between two of them. */
function isOnTheWay({ keys }: OrientationCurve, from: number, to: number, tolerance: number): boolean {
  const [a, b] = [keys[from], keys[to]];
  const whole = quaternionLog(shortest(quaternionBetween(a.value, b.value)));
  if (2 * Math.hypot(...whole) > FURTHEST) return false;
  for (let k = from + 1; k < to; k++) {
    const share = (keys[k].frame - a.frame) / (b.frame - a.frame);
    const there = quaternionMultiply(a.value, quaternionExp([whole[0] * share, whole[1] * share, whole[2] * share]));
    if (angleBetween(there, keys[k].value) > tolerance) return false;
  }
  return true;
}

const shortest = (q: Quaternion): Quaternion => (q[3] < 0 ? [-q[0], -q[1], -q[2], -q[3]] : q);

const angleBetween = (a: Quaternion, b: Quaternion): number => {
  const [x, y, z, w] = quaternionBetween(a, b);
  return 2 * Math.atan2(Math.hypot(x, y, z), Math.abs(w));
};
