import { bezierParameter } from '../../curve/bezier.ts';
import { C0, C1, C2, C3, type CompiledCurve, EVEN, GUESS, SEGMENT, X1, X2 } from '../../curve/compile.ts';
import type { Stretch } from '../../curve/seek.ts';

/**
 * Stretches of curves as rows of numbers, by their sorts, and the loops over them: the hottest of the program, with no call and no
 * branch but where there must be.
 *
 * - *Even*: the value is a cubic straight in frames. Most segments are, and so is all that lies beyond a curve's keys.
 * - *Gentle*: the value is a cubic in the Bézier's parameter. One of Householder's steps of the fifth order from the segment's guess finds
 *   it (Householder 1970; for a cubic all derivatives are at hand).
 * - *Tame*: time slows down more, but never nearly stands still. Two of Halley's steps find the parameter, always two. With either it is
 *   within 5e-11, as a test over all such handles shows.
 * - *Hard*: the others. Their parameter is solved for.
 */
export type Sort = typeof IS_EVEN | typeof IS_GENTLE | typeof IS_TAME | typeof IS_HARD;
export const IS_EVEN = 0;
export const IS_GENTLE = 1;
export const IS_TAME = 2;
export const IS_HARD = 3;

/** A row: the frame it is measured from, the coefficients of the value, and what it takes to find the parameter. */
const FROM = 0;
const V0 = 1;
const PER_FRAME = 5;
const G0 = 6;
/** Of a gentle or tame one: time's cubic without its first coefficient, which is 1 less these. */
const B = 10;
const C = 11;
/** Of a hard one: where its handles stand, and the frame it ends at. */
const HANDLES = 10;
const TO = 12;
/** Numbers in a row of each sort. */
export const WIDTH: readonly [number, number, number, number] = [5, 12, 12, 13];
const [EVEN_ROW, GENTLE_ROW, TAME_ROW, HARD_ROW] = WIDTH;

/** The handles that are gentle, and those that are tame, as shares of their segment's way. */
const GENTLE = [0.16, 0.5] as const;
const TAME = [0.08, 0.6] as const;

/** The sort of a stretch. */
export function sortOf({ segments }: CompiledCurve, { segment }: Stretch): Sort {
  const s = segment * SEGMENT;
  if (segment < 0 || segments[s + X1] === EVEN) return IS_EVEN;
  const leave = segments[s + X1];
  const arrive = 1 - segments[s + X2];
  const least = Math.min(leave, arrive);
  const most = Math.max(leave, arrive);
  if (least >= GENTLE[0] && most <= GENTLE[1]) return IS_GENTLE;
  return least >= TAME[0] && most <= TAME[1] ? IS_TAME : IS_HARD;
}

/** Writes the row of a stretch. */
export function writeRow(out: Float64Array, at: number, sort: Sort, curve: CompiledCurve, stretch: Stretch): void {
  if (stretch.segment < 0) {
    writeBeyond(out, at, curve, stretch);
    return;
  }
  const { segments, values } = curve;
  const s = stretch.segment * SEGMENT;
  // Where a curve swings back this is less than nothing, and all that follows runs backwards by itself.
  const perFrame = 1 / (stretch.to - stretch.from);
  const unit = sort === IS_EVEN ? perFrame : 1;
  const gain = stretch.rounds === 0 ? 0 : stretch.rounds * (values[values.length - 1] - values[0]);
  out[at + FROM] = stretch.from;
  out[at + V0] = segments[s + C0] + gain;
  out[at + V0 + 1] = segments[s + C1] * unit;
  out[at + V0 + 2] = segments[s + C2] * unit * unit;
  out[at + V0 + 3] = segments[s + C3] * unit * unit * unit;
  if (sort === IS_EVEN) return;
  const x1 = segments[s + X1];
  const x2 = segments[s + X2];
  out[at + PER_FRAME] = perFrame;
  out[at + G0] = segments[s + GUESS];
  out[at + G0 + 1] = segments[s + GUESS + 1];
  out[at + G0 + 2] = segments[s + GUESS + 2];
  out[at + G0 + 3] = segments[s + GUESS + 3];
  if (sort !== IS_HARD) {
    out[at + B] = 3 * x2 - 6 * x1;
    out[at + C] = 3 * x1;
  } else {
    out[at + HANDLES] = x1;
    out[at + HANDLES + 1] = x2;
    out[at + TO] = stretch.to;
  }
}

/** Beyond its keys a curve goes straight. */
function writeBeyond(out: Float64Array, at: number, curve: CompiledCurve, { key, sloping, low }: Stretch): void {
  const isBefore = low < curve.frames[0];
  out[at + FROM] = curve.frames[key];
  out[at + V0] = curve.values[key];
  out[at + V0 + 1] = sloping ? (isBefore ? curve.slopeBefore : curve.slopeAfter) : 0;
  out[at + V0 + 2] = out[at + V0 + 3] = 0;
}

/** Writes the values of even rows. @param at where the first row is @param from where in `targets` the first place is */
export function runEven(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += EVEN_ROW) {
    const x = time - rows[at + FROM];
    values[targets[k]] = ((rows[at + V0 + 3] * x + rows[at + V0 + 2]) * x + rows[at + V0 + 1]) * x + rows[at + V0];
  }
}

/** Writes the values of gentle rows, as `runEven` does. */
export function runGentle(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += GENTLE_ROW) {
    const s = (time - rows[at + FROM]) * rows[at + PER_FRAME];
    const b = rows[at + B];
    const c = rows[at + C];
    const a = 1 - b - c;
    const g = ((rows[at + G0 + 3] * s + rows[at + G0 + 2]) * s + rows[at + G0 + 1]) * s + rows[at + G0];
    let u = s + s * (1 - s) * g;
    const miss = ((a * u + b) * u + c) * u - s;
    const bend = 3 * a * u + b;
    const slope = (bend + b) * u + c;
    const q = slope * slope;
    const m = miss * bend;
    const r = a * miss * miss;
    u -= (miss * (slope * (q - 2 * m) + r)) / (q * (q - 3 * m) + m * m + 2 * slope * r);
    values[targets[k]] = ((rows[at + V0 + 3] * u + rows[at + V0 + 2]) * u + rows[at + V0 + 1]) * u + rows[at + V0];
  }
}

/** Writes the values of tame rows, as `runEven` does. */
export function runTame(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += TAME_ROW) {
    const s = (time - rows[at + FROM]) * rows[at + PER_FRAME];
    const b = rows[at + B];
    const c = rows[at + C];
    const a = 1 - b - c;
    const g = ((rows[at + G0 + 3] * s + rows[at + G0 + 2]) * s + rows[at + G0 + 1]) * s + rows[at + G0];
    let u = s + s * (1 - s) * g;
    const a3 = 3 * a;
    const b2 = 2 * b;
    let miss = ((a * u + b) * u + c) * u - s;
    let slope = (a3 * u + b2) * u + c;
    u -= (miss * slope) / (slope * slope - miss * (a3 * u + b));
    miss = ((a * u + b) * u + c) * u - s;
    slope = (a3 * u + b2) * u + c;
    u -= (miss * slope) / (slope * slope - miss * (a3 * u + b));
    values[targets[k]] = ((rows[at + V0 + 3] * u + rows[at + V0 + 2]) * u + rows[at + V0 + 1]) * u + rows[at + V0];
  }
}

/** Writes the values of hard rows, as `runEven` does. */
export function runHard(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += HARD_ROW) {
    const perFrame = rows[at + PER_FRAME];
    const s = (time - rows[at + FROM]) * perFrame;
    const g = ((rows[at + G0 + 3] * s + rows[at + G0 + 2]) * s + rows[at + G0 + 1]) * s + rows[at + G0];
    const rest = (rows[at + TO] - time) * perFrame;
    const u = bezierParameter(rows[at + HANDLES], rows[at + HANDLES + 1], s, rest, s + s * (1 - s) * g);
    values[targets[k]] = ((rows[at + V0 + 3] * u + rows[at + V0 + 2]) * u + rows[at + V0 + 1]) * u + rows[at + V0];
  }
}
