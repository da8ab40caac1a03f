import { type CompiledCurve, SEGMENT } from './compile.ts';
import { C0, C1, EVEN, FROM, HANDLES, HIGH, LOW, PER_FRAME, WINDOW, type Windows, X1 } from './window.ts';

/**
 * Fills a window with the stretch of the curve that holds `frame`. A frame on a key belongs to the stretch after it, but
 * for the last key, which still shows its own value where a cycle begins again.
 */
export function seek(curve: CompiledCurve, frame: number, windows: Windows, index: number): void {
  const { frames, values } = curve;
  const last = frames.length - 1;
  const end = frames[last];
  if (frame < frames[0]) seekBeyond(curve, frame, 'before', windows, index);
  else if (frame > end) seekBeyond(curve, frame, 'after', windows, index);
  else if (frame === end) constant(windows, index, end, following(end), values[last]);
  else segmentWindow(curve, segmentAt(frames, frame), windows, index);
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

function constant(windows: Windows, index: number, low: number, high: number, value: number): void {
  const at = index * WINDOW;
  windows.spans.fill(0, at, at + WINDOW);
  windows.spans[at + LOW] = low;
  windows.spans[at + HIGH] = high;
  windows.spans[at + C0] = value;
  windows.uneven[index] = 0;
}

function segmentWindow(curve: CompiledCurve, segment: number, windows: Windows, index: number): void {
  const { frames, segments } = curve;
  const s = segment * SEGMENT;
  const at = index * WINDOW;
  windows.spans[at + LOW] = frames[segment];
  windows.spans[at + HIGH] = frames[segment + 1];
  windows.spans[at + FROM] = frames[segment];
  windows.spans[at + PER_FRAME] = 1 / (frames[segment + 1] - frames[segment]);
  windows.uneven[index] = segments[s + X1] === EVEN ? 0 : 1;
  for (let i = 0; i < 4; i++) {
    windows.handles[index * HANDLES + i] = segments[s + i];
    windows.spans[at + C0 + i] = segments[s + 4 + i];
  }
}

function seekBeyond(
  curve: CompiledCurve,
  frame: number,
  side: 'before' | 'after',
  windows: Windows,
  index: number,
): void {
  const { frames, values } = curve;
  const { spans } = windows;
  const at = index * WINDOW;
  const last = frames.length - 1;
  const first = frames[0];
  const end = frames[last];
  const key = side === 'before' ? 0 : last;
  const extension = curve[side];
  if (extension === 'hold' || extension === 'slope' || last === 0) {
    const low = side === 'before' ? Number.NEGATIVE_INFINITY : following(end);
    const high = side === 'before' ? first : Number.POSITIVE_INFINITY;
    constant(windows, index, low, high, values[key]);
    if (extension !== 'slope') return;
    spans[at + FROM] = frames[key];
    spans[at + PER_FRAME] = 1;
    spans[at + C1] = side === 'before' ? curve.slopeBefore : curve.slopeAfter;
    return;
  }
  const length = end - first;
  const round = Math.floor((frame - first) / length);
  const shift = round * length;
  // Rounding may put the frame a hair outside its round; it belongs to the nearest end then.
  const within = Math.min(Math.max(frame - shift, first), end);
  if (extension === 'swing' && round % 2 !== 0) {
    segmentWindow(curve, segmentAt(frames, first + end - within), windows, index);
    const turn = first + end + shift;
    place(spans, at, turn - spans[at + LOW], turn - spans[at + HIGH]);
    return;
  }
  segmentWindow(curve, segmentAt(frames, within), windows, index);
  place(spans, at, spans[at + LOW] + shift, spans[at + HIGH] + shift);
  if (extension === 'travel') spans[at + C0] += round * (values[last] - values[0]);
}

/** Lets a window's parameter run from one frame to another, and the window hold between them. */
function place(spans: Float64Array, at: number, from: number, to: number): void {
  spans[at + FROM] = from;
  spans[at + LOW] = Math.min(from, to);
  spans[at + HIGH] = Math.max(from, to);
  spans[at + PER_FRAME] = 1 / (to - from);
}
