import { writeGuess } from './bezier.ts';
import { closedCurve } from './closed.ts';
import { handleReach, handleSlope } from './handles.ts';
import type { Extension, Key, NumberCurve } from './key.ts';
import type { KeyFrames } from './seek.ts';

/**
 * One segment's numbers: `X1` and `X2`, the frames of its handles as shares of the way; four from `GUESS` on, which make the first
 * guess at the parameter (see `writeGuess`); and `C0` to `C3`, the value's polynomial in it. In an *even* segment both handles reach a third, so the parameter
 * is simply the share of the way: `X1 = EVEN` says so, and the next five numbers say nothing.
 */
export const SEGMENT = 10;
export const X1 = 0;
export const X2 = 1;
export const GUESS = 2;
export const C0 = 6;
export const C1 = 7;
export const C2 = 8;
export const C3 = 9;
export const EVEN = -1;

/** A curve made ready: everything about its handles worked out, in flat arrays. */
export interface CompiledCurve {
  readonly frames: Float64Array<ArrayBuffer>;
  readonly values: Float64Array;
  readonly segments: Float64Array;
  readonly before: Extension;
  readonly after: Extension;
  /** Slope before the first and after the last key, for the `slope` extension; value per frame. */
  readonly slopeBefore: number;
  readonly slopeAfter: number;
}

const ready = new WeakMap<NumberCurve, CompiledCurve>();

/** A curve made ready; done once for each curve, since none of them ever changes: programs, checks and readers have the same. */
export function compileCurve(source: NumberCurve): CompiledCurve {
  const known = ready.get(source);
  if (known) return known;
  const made = compiled(source);
  ready.set(source, made);
  return made;
}

function compiled(source: NumberCurve): CompiledCurve {
  const curve = closedCurve(source);
  const { keys } = curve;
  const n = keys.length;
  const segments = new Float64Array(Math.max(0, n - 1) * SEGMENT);
  for (let i = 0; i + 1 < n; i++) writeSegment(curve, i, segments, i * SEGMENT);
  return {
    frames: Float64Array.from(keys, (k) => k.frame),
    values: Float64Array.from(keys, (k) => k.value),
    segments,
    before: curve.before,
    after: curve.after,
    slopeBefore: handleSlope(curve, 0, 'out'),
    slopeAfter: handleSlope(curve, n - 1, 'in'),
  };
}

/** The frames of keys as a document has them. */
export class FramesOfKeys implements KeyFrames {
  readonly #keys: readonly Key[];

  constructor(keys: readonly Key[]) {
    this.#keys = keys;
  }

  get count(): number {
    return this.#keys.length;
  }

  at(index: number): number {
    return this.#keys[index].frame;
  }
}

/** Writes the numbers of one segment of a curve whose seam is closed. */
export function writeSegment(curve: NumberCurve, index: number, out: Float64Array, at: number): void {
  const a = curve.keys[index];
  const b = curve.keys[index + 1];
  const leave = handleReach(curve, index, 'out');
  const arrive = handleReach(curve, index + 1, 'in');
  out[at + X1] = EVEN;
  out[at + C0] = a.value;
  if (!leave || !arrive) {
    out[at + C1] = out[at + C2] = out[at + C3] = 0;
    return;
  }
  const duration = b.frame - a.frame;
  if (a.out.kind === 'free' || b.in.kind === 'free') {
    out[at + X1] = leave.frames / duration;
    out[at + X2] = 1 - arrive.frames / duration;
    writeGuess(out[at + X1], out[at + X2], out, at + GUESS);
  }
  out[at + C1] = 3 * leave.rise;
  // From differences, not from absolute heights: far from zero the differences keep their digits.
  const last = b.value - a.value + arrive.rise;
  out[at + C2] = 3 * (last - 2 * leave.rise);
  out[at + C3] = b.value - a.value - 3 * (last - leave.rise);
}

/**
 * Writes the two inner control points of a segment's Bézier to `out`, as frame, value, frame, value. A stepped segment is
 * written as level at its first value: it jumps at its end.
 */
export function writeControlPoints({ frames, segments }: CompiledCurve, index: number, out: Float64Array): void {
  const s = index * SEGMENT;
  const first = frames[index];
  const duration = frames[index + 1] - first;
  const even = segments[s + X1] === EVEN;
  const c0 = segments[s + C0];
  const c1 = segments[s + C1];
  const c2 = segments[s + C2];
  out[0] = first + duration * (even ? 1 / 3 : segments[s + X1]);
  out[1] = c0 + c1 / 3;
  out[2] = first + duration * (even ? 2 / 3 : segments[s + X2]);
  out[3] = c0 + (2 * c1 + c2) / 3;
}
