import { guessCoefficients } from './bezier.ts';
import { closedCurve } from './closed.ts';
import { handleReach, handleSlope } from './handles.ts';
import type { Extension, NumberCurve } from './key.ts';
import { EVEN } from './window.ts';

/** One segment's numbers in `CompiledCurve.segments`: X1, X2, G0, G1, then C0 to C3, as in a window. */
export const SEGMENT = 8;

/** A curve made ready: everything about its handles worked out, in flat arrays. */
export interface CompiledCurve {
  readonly frames: Float64Array;
  readonly values: Float64Array;
  readonly segments: Float64Array;
  readonly before: Extension;
  readonly after: Extension;
  /** Slope before the first and after the last key, for the `slope` extension; value per frame. */
  readonly slopeBefore: number;
  readonly slopeAfter: number;
}

export function compileCurve(source: NumberCurve): CompiledCurve {
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

function writeSegment(curve: NumberCurve, index: number, out: Float64Array, at: number): void {
  const a = curve.keys[index];
  const b = curve.keys[index + 1];
  const leave = handleReach(curve, index, 'out');
  const arrive = handleReach(curve, index + 1, 'in');
  if (!leave || !arrive) {
    out[at] = EVEN;
    out[at + 4] = a.value;
    return;
  }
  const way = b.frame - a.frame;
  const even = a.out.kind !== 'free' && b.in.kind !== 'free';
  out[at] = EVEN;
  if (!even) {
    out[at] = leave.frames / way;
    out[at + 1] = 1 - arrive.frames / way;
    [out[at + 2], out[at + 3]] = guessCoefficients(out[at], out[at + 1]);
  }
  out[at + 4] = a.value;
  out[at + 5] = 3 * leave.rise;
  // From differences, not from absolute heights: far from zero the differences keep their digits.
  const last = b.value - a.value + arrive.rise;
  out[at + 6] = 3 * (last - 2 * leave.rise);
  out[at + 7] = b.value - a.value - 3 * (last - leave.rise);
}

/**
 * Writes the two inner control points of a segment's Bézier to `out`, as frame, value, frame, value. A stepped segment is
 * written as level at its first value: it jumps at its end.
 */
export function writeControlPoints({ frames, segments }: CompiledCurve, index: number, out: Float64Array): void {
  const s = index * SEGMENT;
  const first = frames[index];
  const way = frames[index + 1] - first;
  const even = segments[s] === EVEN;
  const c0 = segments[s + 4];
  const c1 = segments[s + 5];
  const c2 = segments[s + 6];
  out[0] = first + way * (even ? 1 / 3 : segments[s]);
  out[1] = c0 + c1 / 3;
  out[2] = first + way * (even ? 2 / 3 : segments[s + 1]);
  out[3] = c0 + (2 * c1 + c2) / 3;
}
