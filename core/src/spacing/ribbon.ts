import type { CurveReader } from '../curve/sample.ts';

/**
 * Spacing: how far a channel goes from each frame to the next.
 * @param first the first whole frame
 * @param out how far it goes from `first + i` to `first + i + 1`, never negative; its length says how many
 * @returns the largest of them
 */
export function spacing(curve: CurveReader, first: number, out: Float64Array): number {
  let most = 0;
  let here = curve.at(first);
  for (let i = 0; i < out.length; i++) {
    const next = curve.at(first + i + 1);
    out[i] = Math.abs(next - here);
    if (out[i] > most) most = out[i];
    here = next;
  }
  return most;
}
