/**
 * Sine and cosine of one angle together, which costs half of asking for each: from a table of whole steps of a turn and the first
 * terms of their series for what is left, which is at most half a step (the method of Tang, ACM TOMS 15, 1989). A step is taken off
 * in two parts, the first of 33 bits, so that nothing is lost (Cody & Waite 1980). Within two units in the last place of 1 for angles
 * up to `MOST`; larger ones are left to the language.
 */
const STEPS = 512;
const MOST = 1e4;
const PER_RADIAN = STEPS / (2 * Math.PI);
const STEP_HIGH = 1.5707963267341256 / (STEPS / 4);
const STEP_LOW = 6.077100506506192e-11 / (STEPS / 4);

const table = new Float64Array(2 * STEPS);
const QUARTER = STEPS / 4;
// Of the first quarter turn, and the others from it: so that quarter turns are exact.
for (let i = 0; i < QUARTER; i++) {
  const sine = Math.sin((i * 2 * Math.PI) / STEPS);
  const cosine = Math.cos((i * 2 * Math.PI) / STEPS);
  table.set([sine, cosine], 2 * i);
  table.set([cosine, -sine], 2 * (i + QUARTER));
  table.set([-sine, -cosine], 2 * (i + 2 * QUARTER));
  table.set([-cosine, sine], 2 * (i + 3 * QUARTER));
}

/** Writes the sine to `out[at]` and the cosine to `out[at + 1]`. */
export function sinCos(x: number, out: Float64Array, at: number): void {
  // Also true where it is not a number.
  if (!(x < MOST && x > -MOST)) {
    out[at] = Math.sin(x);
    out[at + 1] = Math.cos(x);
    return;
  }
  const n = Math.floor(x * PER_RADIAN + 0.5);
  const d = x - n * STEP_HIGH - n * STEP_LOW;
  const z = d * d;
  const s = d - d * z * (1 / 6 - z * (1 / 120));
  const less = z * (0.5 - z * (1 / 24 - z * (1 / 720)));
  const i = (n & (STEPS - 1)) << 1;
  const sine = table[i];
  const cosine = table[i + 1];
  out[at] = sine + (cosine * s - sine * less);
  out[at + 1] = cosine - (sine * s + cosine * less);
}
