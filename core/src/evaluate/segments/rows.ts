import { bezierParameter } from '../../curve/bezier.ts';
import { C0, C1, C2, C3, type CompiledCurve, EVEN, GUESS, SEGMENT, X1, X2 } from '../../curve/compile.ts';
import type { Stretch } from '../../curve/seek.ts';

/**
 * Stretches of curves as rows of numbers, by their sorts, and the value each has: the hottest of the program, with no branch but where
 * there must be.
 *
 * - *Even*: the value is a cubic straight in time. Most segments are, and so is all that lies beyond a curve's keys.
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

/** When a stretch is: the frame it is measured from, what of it goes by in a frame, and the frame it ends at. */
export const CLOCK = 3;
const FROM = 0;
const PER_FRAME = 1;
const TO = 2;

/** A row: the coefficients of the value, and what it takes to find the parameter. */
const V0 = 0;
const V1 = 1;
const V2 = 2;
const V3 = 3;
const G0 = 4;
const G1 = 5;
const G2 = 6;
const G3 = 7;
/** Of a gentle or tame one: time's cubic without its first coefficient, which is 1 less these. */
const B = 8;
const C = 9;
/** Of a hard one: where its handles stand. */
const HANDLES = 8;
/** Numbers in a row of each sort. */
export const WIDTH: readonly [number, number, number, number] = [4, 10, 10, 10];

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

/** Writes when a stretch is. */
export function writeClock(out: Float64Array, at: number, curve: CompiledCurve, stretch: Stretch): void {
  if (stretch.segment < 0) {
    // Beyond its keys a curve goes straight, by frames.
    out[at + FROM] = curve.frames[stretch.key];
    out[at + PER_FRAME] = 1;
    return;
  }
  out[at + FROM] = stretch.from;
  // Where a curve swings back this is less than nothing, and all that follows runs backwards by itself.
  out[at + PER_FRAME] = 1 / (stretch.to - stretch.from);
  out[at + TO] = stretch.to;
}

/** How much of a stretch has gone by at a time, of 1. */
export const shareOf = (clocks: Float64Array, at: number, time: number): number =>
  (time - clocks[at + FROM]) * clocks[at + PER_FRAME];

/** How much of it is left. */
export const restOf = (clocks: Float64Array, at: number, time: number): number =>
  (clocks[at + TO] - time) * clocks[at + PER_FRAME];

/** Writes the row of a stretch. */
export function writeRow(out: Float64Array, at: number, sort: Sort, curve: CompiledCurve, stretch: Stretch): void {
  if (stretch.segment < 0) {
    writeBeyond(out, at, curve, stretch);
    return;
  }
  const { segments, values } = curve;
  const s = stretch.segment * SEGMENT;
  const gain = stretch.rounds === 0 ? 0 : stretch.rounds * (values[values.length - 1] - values[0]);
  out[at + V0] = segments[s + C0] + gain;
  out[at + V1] = segments[s + C1];
  out[at + V2] = segments[s + C2];
  out[at + V3] = segments[s + C3];
  if (sort === IS_EVEN) return;
  const x1 = segments[s + X1];
  const x2 = segments[s + X2];
  out[at + G0] = segments[s + GUESS];
  out[at + G1] = segments[s + GUESS + 1];
  out[at + G2] = segments[s + GUESS + 2];
  out[at + G3] = segments[s + GUESS + 3];
  if (sort !== IS_HARD) {
    out[at + B] = 3 * x2 - 6 * x1;
    out[at + C] = 3 * x1;
  } else {
    out[at + HANDLES] = x1;
    out[at + HANDLES + 1] = x2;
  }
}

function writeBeyond(out: Float64Array, at: number, curve: CompiledCurve, { key, sloping, low }: Stretch): void {
  const isBefore = low < curve.frames[0];
  out[at + V0] = curve.values[key];
  out[at + V1] = sloping ? (isBefore ? curve.slopeBefore : curve.slopeAfter) : 0;
  out[at + V2] = out[at + V3] = 0;
}

/**
 * Of a place that is known to be no more than this, sums are reckoned without asking each time whether they overflow. It stands in this
 * file because only then does the compiler see a number.
 */
const KNOWN_SMALL = 0x3fffffff;

/**
 * The value of an even row. Its cubic and all others here are summed in pairs (Estrin 1960): half of it is worked out while the other
 * half is.
 * @param s how much of the stretch has gone by, of 1
 */
export function evenAt(rows: Float64Array, place: number, s: number): number {
  const at = place & KNOWN_SMALL;
  return rows[at + V0] + rows[at + V1] * s + s * s * (rows[at + V2] + rows[at + V3] * s);
}

/** The parameter's first guess. */
const guessAt = (rows: Float64Array, at: number, s: number): number => {
  const ss = s * s;
  return s + (s - ss) * (rows[at + G0] + rows[at + G1] * s + ss * (rows[at + G2] + rows[at + G3] * s));
};

/** The value of a gentle row. */
export function gentleAt(rows: Float64Array, place: number, s: number): number {
  const at = place & KNOWN_SMALL;
  const u = guessAt(rows, at, s);
  const b = rows[at + B];
  const c = rows[at + C];
  const a = 1 - b - c;
  const uu = u * u;
  const miss = c * u - s + uu * (b + a * u);
  const bend = b + 3 * a * u;
  const slope = c + 2 * b * u + 3 * a * uu;
  const q = slope * slope;
  const m = miss * bend;
  const r = a * (miss * miss);
  const step = (miss * (slope * (q - 2 * m) + r)) / (q * (q - 3 * m) + (m * m + 2 * slope * r));
  return evenAt(rows, at, u - step);
}

/** The value of a tame row. */
export function tameAt(rows: Float64Array, place: number, s: number): number {
  const at = place & KNOWN_SMALL;
  const b = rows[at + B];
  const c = rows[at + C];
  const a = 1 - b - c;
  const once = halley(a, b, c, s, guessAt(rows, at, s));
  return evenAt(rows, at, halley(a, b, c, s, once));
}

/** A parameter nearer to where time is at `s`. */
function halley(a: number, b: number, c: number, s: number, u: number): number {
  const uu = u * u;
  const miss = c * u - s + uu * (b + a * u);
  const slope = c + 2 * b * u + 3 * a * uu;
  return u - (miss * slope) / (slope * slope - miss * (b + 3 * a * u));
}

/** The value of a hard row. @param rest how much of the stretch is left, of 1: near the end it is the exacter one */
export function hardAt(rows: Float64Array, at: number, s: number, rest: number): number {
  const u = bezierParameter(rows[at + HANDLES], rows[at + HANDLES + 1], s, rest, guessAt(rows, at, s));
  return evenAt(rows, at, u);
}
