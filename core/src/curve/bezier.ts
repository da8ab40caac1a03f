/**
 * The parameter of a cubic Bézier in time: where along the segment (0 to 1) it is `s` of the way through its frames.
 *
 * The segment's frames are scaled so that its keys stand at 0 and 1, its handles at `x1` and `x2`. Both must lie in
 * [0, 1]; then time never runs backwards and there is exactly one answer.
 *
 * Newton's method, kept inside a bracket that shrinks at every step and halved where Newton would leave it, so it
 * neither fails nor circles. The half nearer to its key is solved from that key, because the time left to the key is
 * known exactly there while `s` near 1 is not: with a handle of no length the parameter goes with the square root of it.
 *
 * @param s share of the segment's frames gone, 0 to 1
 * @param rest share still to go, `1 - s`, computed by the caller from the segment's end to keep its precision
 */
export function bezierParameter(x1: number, x2: number, s: number, rest: number): number {
  return s <= 0.5 ? solve(x1, x2, s) : 1 - solve(1 - x2, 1 - x1, rest);
}

const MAX_STEPS = 60;

function solve(x1: number, x2: number, s: number): number {
  if (s <= 0) return 0;
  // x(u) = ((a·u + b)·u + c)·u
  const c = 3 * x1;
  const b = 3 * (x2 - x1) - c;
  const a = 1 - c - b;
  let low = 0;
  let high = 1;
  let u = s;
  for (let step = 0; step < MAX_STEPS; step++) {
    const miss = ((a * u + b) * u + c) * u - s;
    if (miss === 0) return u;
    if (miss > 0) high = u;
    else low = u;
    const slope = (3 * a * u + 2 * b) * u + c;
    let next = u - miss / slope;
    // Also true when the slope is zero and the quotient is not a number.
    if (!(next > low && next < high)) next = (low + high) / 2;
    if (Math.abs(next - u) <= 1e-16 * u) return next;
    u = next;
  }
  return u;
}
