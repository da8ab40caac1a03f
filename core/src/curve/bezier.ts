/**
 * The parameter of a cubic Bézier in time: where along the segment (0 to 1) it is `s` of the way through its frames.
 *
 * The segment's frames are scaled so that its keys stand at 0 and 1, its handles at `x1` and `x2`. Both must lie in
 * [0, 1]; then time never runs backwards and there is exactly one answer.
 *
 * Halley's method, kept inside a bracket that shrinks at every step and halved where a step would leave it, so it
 * neither fails nor circles. The half nearer to its key is solved from that key, because the time left to the key is
 * known exactly there while `s` near 1 is not: with a handle of no length the parameter goes with the square root of it.
 *
 * @param s share of the segment's frames gone, 0 to 1
 * @param rest share still to go, `1 - s`, computed by the caller from the segment's end to keep its precision
 * @param guess where to begin; a good one saves steps, a bad one costs nothing but them
 */
export function bezierParameter(x1: number, x2: number, s: number, rest: number, guess = s): number {
  return s <= 0.5 ? solve(x1, x2, s, guess) : 1 - solve(1 - x2, 1 - x1, rest, 1 - guess);
}

const MAX_STEPS = 60;

function solve(x1: number, x2: number, s: number, guess: number): number {
  if (s <= 0) return 0;
  // x(u) = ((a·u + b)·u + c)·u
  const c = 3 * x1;
  const b = 3 * (x2 - x1) - c;
  const a = 1 - c - b;
  let low = 0;
  let high = 1;
  let u = guess > 0 && guess < 1 ? guess : s;
  for (let step = 0; step < MAX_STEPS; step++) {
    const miss = ((a * u + b) * u + c) * u - s;
    if (miss === 0) return u;
    if (miss > 0) high = u;
    else low = u;
    const slope = (3 * a * u + 2 * b) * u + c;
    const bend = 3 * a * u + b;
    let next = u - (miss * slope) / (slope * slope - miss * bend);
    // Also true when the quotient is not a number.
    if (!(next > low && next < high)) next = (low + high) / 2;
    const gone = Math.abs(next - u);
    // Steps shrink with their cube, the faster the less time bends here: what is left after these is below 1e-11.
    if ((gone <= 3e-5 && slope > 0.5) || (gone <= 1e-6 && slope > 0.01) || gone <= 1e-16 * u) return next;
    u = next;
  }
  return u;
}

/**
 * Coefficients of a first guess `s + s·(1 - s)·(g0 + g1·s)` at the parameter, right at a third and at two thirds of the
 * way.
 */
export function guessCoefficients(x1: number, x2: number): [g0: number, g1: number] {
  const third = (bezierParameter(x1, x2, 1 / 3, 2 / 3) - 1 / 3) * 4.5;
  const twoThirds = (bezierParameter(x1, x2, 2 / 3, 1 / 3) - 2 / 3) * 4.5;
  const g1 = 3 * (twoThirds - third);
  return [third - g1 / 3, g1];
}
