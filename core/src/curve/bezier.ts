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

/** Where the guess is right: nearer to the keys than to one another, as the parameter bends most there. */
const [S0, S1, S2, S3] = [0.1, 0.37, 0.63, 0.9];

/**
 * Writes the four coefficients of a first guess `s + s·(1 - s)·(g0 + g1·s + g2·s² + g3·s³)` at the parameter, right at four places: the
 * cubic through four points, by Newton's divided differences.
 */
export function writeGuess(x1: number, x2: number, out: Float64Array, at: number): void {
  const need = (s: number) => (bezierParameter(x1, x2, s, 1 - s) - s) / (s * (1 - s));
  const y0 = need(S0);
  const y1 = need(S1);
  const y2 = need(S2);
  const y3 = need(S3);
  const d01 = (y1 - y0) / (S1 - S0);
  const d12 = (y2 - y1) / (S2 - S1);
  const d23 = (y3 - y2) / (S3 - S2);
  const d012 = (d12 - d01) / (S2 - S0);
  const d123 = (d23 - d12) / (S3 - S1);
  const d = (d123 - d012) / (S3 - S0);
  // y0 + (s - S0)·(d01 + (s - S1)·(d012 + (s - S2)·d)), multiplied out.
  const c2 = d012 - d * S2;
  out[at + 3] = d;
  out[at + 2] = c2 - d * (S0 + S1);
  out[at + 1] = d01 - c2 * (S0 + S1) + d * S0 * S1;
  out[at] = y0 - d01 * S0 + c2 * S0 * S1;
}
