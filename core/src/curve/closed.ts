import { type Curve, SAME_FRAME } from './key.ts';

/**
 * A curve of a cycle with its seam closed: where no key stands at the end of its period, the first one stands there again. So the
 * way from the last key leads into the next repeat as any other way between two keys.
 * @returns the curve itself where there is nothing to close
 */
export function closedCurve<C extends Curve>(curve: C): C {
  const { keys, period } = curve as Curve;
  if (period === undefined || keys.length < 2 || curve.after !== 'cycle') return curve;
  const end = keys[0].frame + period;
  if (keys[keys.length - 1].frame > end - SAME_FRAME) return curve;
  return { ...curve, keys: [...keys, { ...keys[0], frame: end }] };
}
