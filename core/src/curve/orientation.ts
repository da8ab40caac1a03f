import { quaternionBetween, quaternionExp, quaternionLog, quaternionMultiply } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { closedCurve } from './closed.ts';
import type { OrientationCurve } from './key.ts';
import { repeats } from './slopes.ts';

/**
 * A curve of orientations: a cubic Bézier on the sphere of unit quaternions, in the cumulative form
 * `q0 · exp(w1·B1) · exp(w2·B2) · exp(w3·B3)` (Kim, Kim & Shin, "A General Construction Scheme for Unit Quaternion
 * Curves with Simple High Order Derivatives", SIGGRAPH 1995). Neighbouring keys take the shortest way. A segment that
 * is linear or flat at both ends turns about one axis exactly, since then w1, w2 and w3 are parallel.
 */
export interface CompiledOrientation {
  readonly frames: Float64Array;
  /** Unit quaternions, four numbers a key. */
  readonly keys: Float64Array;
  /** w1, w2, w3 of each segment, nine numbers. A stepped segment has zeros. */
  readonly steps: Float64Array;
  readonly before: OrientationCurve['before'];
  readonly after: OrientationCurve['after'];
}

type Vector = [number, number, number];

export function compileOrientation(source: OrientationCurve): CompiledOrientation {
  const curve = closedCurve(source);
  const n = curve.keys.length;
  const keys = new Float64Array(n * 4);
  const turns: Vector[] = [];
  curve.keys.forEach((key, i) => {
    const length = Math.hypot(...key.value);
    let sign = 1;
    if (i > 0) {
      // The shortest way: of the two quaternions that are the same orientation, the one nearer to the last key.
      let dot = 0;
      for (let c = 0; c < 4; c++) dot += keys[i * 4 - 4 + c] * key.value[c];
      sign = dot < 0 ? -1 : 1;
    }
    for (let c = 0; c < 4; c++) keys[i * 4 + c] = (sign * key.value[c]) / length;
    if (i > 0) turns.push(logBetween(keys, (i - 1) * 4, i * 4));
  });

  const steps = new Float64Array(Math.max(0, n - 1) * 9);
  for (let i = 0; i + 1 < n; i++) {
    if (curve.keys[i].out.kind === 'stepped') continue;
    writeSteps(curve, turns, keys, i, steps);
  }
  return {
    frames: Float64Array.from(curve.keys, (k) => k.frame),
    keys,
    steps,
    before: curve.before,
    after: curve.after,
  };
}

/**
 * Turn per frame of a smooth key: the mean of the turns to its neighbours, weighted to the nearer; level at an end, but through
 * the seam of a cycle as anywhere.
 */
function smoothRate(curve: OrientationCurve, turns: readonly Vector[], index: number): Vector {
  const { keys } = curve;
  const last = keys.length - 1;
  const atEnd = index === 0 || index === last;
  if (atEnd && !(repeats(curve.before) && repeats(curve.after))) return [0, 0, 0];
  const from = index === 0 ? last - 1 : index - 1;
  const to = index === last ? 0 : index;
  if (last < 1 || keys[from].out.kind === 'stepped') return [0, 0, 0];
  const before = keys[from + 1].frame - keys[from].frame;
  const after = keys[to + 1].frame - keys[to].frame;
  const weight = after / (before + after);
  return turns[to].map((right, c) => weight * (turns[from][c] / before) + (1 - weight) * (right / after)) as Vector;
}

function writeSteps(
  curve: OrientationCurve,
  turns: readonly Vector[],
  keys: Float64Array,
  i: number,
  steps: Float64Array,
): void {
  const frames = curve.keys[i + 1].frame - curve.keys[i].frame;
  const handle = (index: number, kind: 'smooth' | 'flat' | 'linear' | 'stepped'): Vector => {
    if (kind === 'flat') return [0, 0, 0];
    if (kind === 'smooth') return smoothRate(curve, turns, index).map((r) => (r * frames) / 3) as Vector;
    return turns[i].map((t) => t / 3) as Vector;
  };
  const first = handle(i, curve.keys[i].out.kind);
  const third = handle(i + 1, curve.keys[i + 1].in.kind);
  // The middle step is what the outer two leave: exp(w2) = exp(-w1) · (q0⁻¹ q1) · exp(-w3).
  const whole = quaternionBetween(read(keys, i * 4), read(keys, i * 4 + 4));
  const back = (v: Vector): Vector => [-v[0], -v[1], -v[2]];
  const middle = quaternionLog(
    quaternionMultiply(quaternionMultiply(quaternionExp(back(first)), whole), quaternionExp(back(third))),
  );
  steps.set([...first, ...middle, ...third], i * 9);
}

const read = (from: Float64Array, at: number): Quaternion => [from[at], from[at + 1], from[at + 2], from[at + 3]];

const logBetween = (keys: Float64Array, a: number, b: number): Vector =>
  quaternionLog(quaternionBetween(read(keys, a), read(keys, b)));

/** Writes the orientation at `frame` to `out` at `at` as a unit quaternion. Allocates nothing. */
export function orientationAt(curve: CompiledOrientation, frame: number, out: Float64Array, at: number): void {
  const { frames, keys, steps } = curve;
  const last = frames.length - 1;
  const f = intoKeys(curve, frame);
  let i = 0;
  let high = last;
  while (high - i > 1) {
    const middle = (i + high) >> 1;
    if (frames[middle] <= f) i = middle;
    else high = middle;
  }
  if (f >= frames[last]) i = last;
  out[at] = keys[i * 4];
  out[at + 1] = keys[i * 4 + 1];
  out[at + 2] = keys[i * 4 + 2];
  out[at + 3] = keys[i * 4 + 3];
  if (i === last || f <= frames[i]) return;
  const u = (f - frames[i]) / (frames[i + 1] - frames[i]);
  const v = 1 - u;
  turnBy(out, at, steps, i * 9, 1 - v * v * v);
  turnBy(out, at, steps, i * 9 + 3, u * u * (3 - 2 * u));
  turnBy(out, at, steps, i * 9 + 6, u * u * u);
}

/** A frame beyond the keys, brought back among them as the extension says. */
function intoKeys(curve: CompiledOrientation, frame: number): number {
  const first = curve.frames[0];
  const end = curve.frames[curve.frames.length - 1];
  if (frame >= first && frame <= end) return frame;
  const extension = frame < first ? curve.before : curve.after;
  const length = end - first;
  if (length === 0 || extension === 'hold' || extension === 'slope') return Math.min(Math.max(frame, first), end);
  const round = Math.floor((frame - first) / length);
  const within = frame - round * length;
  return extension === 'swing' && round % 2 !== 0 ? first + end - within : within;
}

/** out := out · exp(share · w). A rotation vector is half the angle times the axis, as `quaternionLog` gives it. */
function turnBy(out: Float64Array, at: number, w: Float64Array, from: number, share: number): void {
  const wx = w[from] * share;
  const wy = w[from + 1] * share;
  const wz = w[from + 2] * share;
  const angle = Math.sqrt(wx * wx + wy * wy + wz * wz);
  if (angle === 0) return;
  const s = Math.sin(angle) / angle;
  const bx = wx * s;
  const by = wy * s;
  const bz = wz * s;
  const bw = Math.cos(angle);
  const ax = out[at];
  const ay = out[at + 1];
  const az = out[at + 2];
  const aw = out[at + 3];
  out[at] = aw * bx + ax * bw + ay * bz - az * by;
  out[at + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[at + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[at + 3] = aw * bw - ax * bx - ay * by - az * bz;
}
