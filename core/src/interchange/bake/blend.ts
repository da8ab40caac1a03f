/**
 * A value between two keys, as every player of tracks has it: on a Hermite curve, straight, or on the shortest way for turns.
 * @param u from 0 to 1 @param length from key to key, in what the rates are told by
 */
export function blend(
  out: Float64Array,
  bent: boolean,
  turns: boolean,
  u: number,
  length: number,
  a: ArrayLike<number>,
  rateOut: ArrayLike<number>,
  b: ArrayLike<number>,
  rateIn: ArrayLike<number>,
): void {
  let [wa, wb, wo, wi] = [1 - u, u, 0, 0];
  if (bent) {
    const [uu, uuu] = [u * u, u * u * u];
    wa = 2 * uuu - 3 * uu + 1;
    wb = 3 * uu - 2 * uuu;
    wo = (uuu - 2 * uu + u) * length;
    wi = (uuu - uu) * length;
  } else if (turns) {
    let cosine = 0;
    for (let c = 0; c < 4; c++) cosine += a[c] * b[c];
    const angle = Math.acos(Math.min(1, Math.abs(cosine)));
    if (angle > 1e-6) {
      wa = Math.sin((1 - u) * angle) / Math.sin(angle);
      wb = Math.sin(u * angle) / Math.sin(angle);
    }
    if (cosine < 0) wb = -wb;
  }
  for (let c = 0; c < out.length; c++) out[c] = wa * a[c] + wb * b[c] + (bent ? wo * rateOut[c] + wi * rateIn[c] : 0);
  if (turns) normalise(out);
}

function normalise(q: Float64Array): void {
  const length = Math.sqrt(q[0] * q[0] + q[1] * q[1] + q[2] * q[2] + q[3] * q[3]) || 1;
  for (let c = 0; c < 4; c++) q[c] /= length;
}
