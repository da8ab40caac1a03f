import type { Extension, Key, NumberCurve } from './key.ts';

/**
 * The slope a *smooth* handle takes at each key, in value per frame.
 *
 * Between two neighbours it is the weighted harmonic mean of the slopes to them, and level where they disagree in
 * sign; with handles of a third of the way this never overshoots a key (Fritsch & Butland, "A method for constructing
 * local monotone piecewise cubic interpolants", SIAM J. Sci. Stat. Comput. 5, 1984).
 * At the curve's ends smooth means smooth with what lies beyond: level before a hold or a swing, straight on into a
 * slope, and through the seam of a cycle as if the next repeat were drawn out.
 */
export function smoothSlope(curve: NumberCurve, index: number): number {
  const last = curve.keys.length - 1;
  if (last < 1) return 0;
  const { left, right } = secantsAt(curve, index);
  if (left === null && right === null) return 0;
  if (left === null) return index === 0 && curve.before === 'slope' ? right!.slope : 0;
  if (right === null) return index === last && curve.after === 'slope' ? left.slope : 0;
  if (left.slope * right.slope <= 0) return 0;
  const w1 = 2 * right.frames + left.frames;
  const w2 = right.frames + 2 * left.frames;
  return (w1 + w2) / (w1 / left.slope + w2 / right.slope);
}

interface Secant {
  /** Value per frame. */
  readonly slope: number;
  readonly frames: number;
}

/** The straight ways to a key's neighbours, through the seam of a cycle too; null where there is none. */
export function secantsAt(curve: NumberCurve, index: number): { left: Secant | null; right: Secant | null } {
  const { keys } = curve;
  const last = keys.length - 1;
  if (last < 1) return { left: null, right: null };
  const cyclic = repeats(curve.before) && repeats(curve.after);
  const left = index > 0 ? secant(keys[index - 1], keys[index]) : cyclic ? secant(keys[last - 1], keys[last]) : null;
  const right = index < last ? secant(keys[index], keys[index + 1]) : cyclic ? secant(keys[0], keys[1]) : null;
  return { left, right };
}

/** Whether what lies beyond is the curve again. */
export const repeats = (extension: Extension) => extension === 'cycle' || extension === 'travel';

/** Slope and length of the way from one key to the next; a stepped way has no slope to be smooth with. */
function secant(from: Key, to: Key): Secant | null {
  if (from.out.kind === 'stepped') return null;
  const frames = to.frame - from.frame;
  return { slope: (to.value - from.value) / frames, frames };
}
