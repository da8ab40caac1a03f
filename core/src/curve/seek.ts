import { type CompiledCurve, SEGMENT } from './compile.ts';
import { C0, C1, C2, C3, EVEN, FROM, HIGH, LOW, PER_FRAME, TO, WINDOW, X1, X2 } from './window.ts';

/**
 * Fills the window at `at` with the stretch of the curve that holds `frame`. A frame on a key belongs to the stretch
 * after it, but for the last key, which still shows its own value where a cycle begins again.
 */
export function seek(curve: CompiledCurve, frame: number, windows: Float64Array, at: number): void {
  const { frames, values } = curve;
  const last = frames.length - 1;
  const first = frames[0];
  const end = frames[last];
  if (frame < first) {
    seekBeyond(curve, frame, 'before', windows, at);
    return;
  }
  if (frame > end) {
    seekBeyond(curve, frame, 'after', windows, at);
    return;
  }
  if (frame === end) {
    constant(windows, at, end, following(end), values[last]);
    return;
  }
  segmentWindow(curve, segmentAt(frames, frame), windows, at);
}

/** The index of the key at or before `frame`, by bisection; the frame must lie within the keys. */
export function segmentAt(frames: Float64Array, frame: number): number {
  let low = 0;
  let high = frames.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (frames[middle] <= frame) low = middle;
    else high = middle;
  }
  return low;
}

/** The next number after `frame` that a window can tell from it. */
const following = (frame: number) => frame + Math.max(Math.abs(frame), 1) * Number.EPSILON;

function constant(windows: Float64Array, at: number, low: number, high: number, value: number): void {
  windows.fill(0, at, at + WINDOW);
  windows[at + LOW] = low;
  windows[at + HIGH] = high;
  windows[at + X1] = EVEN;
  windows[at + C0] = value;
}

function segmentWindow(curve: CompiledCurve, index: number, windows: Float64Array, at: number): void {
  const { frames, segments } = curve;
  const s = index * SEGMENT;
  windows[at + LOW] = frames[index];
  windows[at + HIGH] = frames[index + 1];
  windows[at + FROM] = frames[index];
  windows[at + TO] = frames[index + 1];
  windows[at + PER_FRAME] = 1 / (frames[index + 1] - frames[index]);
  windows[at + X1] = segments[s];
  windows[at + X2] = segments[s + 1];
  windows[at + C0] = segments[s + 2];
  windows[at + C1] = segments[s + 3];
  windows[at + C2] = segments[s + 4];
  windows[at + C3] = segments[s + 5];
}

function seekBeyond(
  curve: CompiledCurve,
  frame: number,
  side: 'before' | 'after',
  windows: Float64Array,
  at: number,
): void {
  const { frames, values } = curve;
  const last = frames.length - 1;
  const first = frames[0];
  const end = frames[last];
  const low = side === 'before' ? Number.NEGATIVE_INFINITY : following(end);
  const high = side === 'before' ? first : Number.POSITIVE_INFINITY;
  const key = side === 'before' ? 0 : last;
  const extension = curve[side];
  if (extension === 'hold' || last === 0) {
    constant(windows, at, low, high, values[key]);
    return;
  }
  if (extension === 'slope') {
    constant(windows, at, low, high, values[key]);
    windows[at + FROM] = frames[key];
    windows[at + TO] = frames[key] + 1;
    windows[at + PER_FRAME] = 1;
    windows[at + C1] = side === 'before' ? curve.slopeBefore : curve.slopeAfter;
    return;
  }
  const length = end - first;
  const round = Math.floor((frame - first) / length);
  const shift = round * length;
  // Rounding may put the frame a hair outside its round; it belongs to the nearest end then.
  const within = Math.min(Math.max(frame - shift, first), end);
  if (extension === 'swing' && round % 2 !== 0) {
    const mirrored = first + end - within;
    segmentWindow(curve, segmentAt(frames, mirrored), windows, at);
    const turn = first + end + shift;
    const from = turn - windows[at + FROM];
    const to = turn - windows[at + TO];
    place(windows, at, from, to);
    return;
  }
  segmentWindow(curve, segmentAt(frames, within), windows, at);
  place(windows, at, windows[at + FROM] + shift, windows[at + TO] + shift);
  if (extension === 'travel') windows[at + C0] += round * (values[last] - values[0]);
}

/** Lets a window's parameter run from one frame to another, and the window hold between them. */
function place(windows: Float64Array, at: number, from: number, to: number): void {
  windows[at + FROM] = from;
  windows[at + TO] = to;
  windows[at + LOW] = Math.min(from, to);
  windows[at + HIGH] = Math.max(from, to);
  windows[at + PER_FRAME] = 1 / (to - from);
}
