import type { Extension } from './key.ts';

/** The frames of a curve's keys, wherever they lie. */
export interface KeyFrames {
  readonly count: number;
  at(index: number): number;
}

/** What there is to know of a curve to find one's place on it. */
export interface Ends {
  readonly before: Extension;
  readonly after: Extension;
}

/**
 * A stretch of time over which a curve is one polynomial. It holds for `low <= frame < high`. On a segment the parameter is 0 at
 * frame `from` and 1 at frame `to`, which in a swing comes before it.
 */
export class Stretch {
  low = Number.NaN;
  high = Number.NaN;
  /** The segment, between two keys; -1 where the curve holds the value of `key`, or goes on from it at a slope. */
  segment = -1;
  key = 0;
  sloping = false;
  from = 0;
  to = 1;
  /** How many cycles there are before it: each has added what a cycle gains, where the extension travels. */
  rounds = 0;

  holds(frame: number): boolean {
    return frame >= this.low && frame < this.high;
  }
}

/**
 * Finds the stretch of a curve that holds a frame. A frame on a key belongs to the stretch after it, but for the last key, which
 * still shows its own value where a cycle begins again. Allocates nothing.
 * @param hint the segment it was on before: while time goes on the next one is found at once
 */
export function seek(frames: KeyFrames, ends: Ends, frame: number, hint: number, out: Stretch): void {
  const last = frames.count - 1;
  const end = frames.at(last);
  out.rounds = 0;
  if (frame < frames.at(0)) beyond(frames, ends.before, frame, 0, hint, out);
  else if (frame > end) beyond(frames, ends.after, frame, last, hint, out);
  else if (frame === end) hold(out, last, end, following(end));
  else onSegment(frames, segmentAt(frames, frame, hint), out);
}

/** The index of the key at or before a frame; the frame must lie within the keys. The hint and what follows it are tried first. */
export function segmentAt(frames: KeyFrames, frame: number, hint = 0): number {
  for (let i = hint; i < hint + 2 && i + 1 < frames.count; i++)
    if (frames.at(i) <= frame && frame < frames.at(i + 1)) return i;
  let low = 0;
  let high = frames.count - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (frames.at(middle) <= frame) low = middle;
    else high = middle;
  }
  return low;
}

/** The next number after `frame` that a stretch can tell from it. */
const following = (frame: number) => frame + Math.max(Math.abs(frame), 1) * Number.EPSILON;

function hold(out: Stretch, key: number, low: number, high: number): void {
  out.segment = -1;
  out.key = key;
  out.sloping = false;
  out.low = low;
  out.high = high;
}

function onSegment(frames: KeyFrames, segment: number, out: Stretch): void {
  out.segment = segment;
  out.low = out.from = frames.at(segment);
  out.high = out.to = frames.at(segment + 1);
}

function beyond(frames: KeyFrames, extension: Extension, frame: number, key: number, hint: number, out: Stretch): void {
  const last = frames.count - 1;
  const first = frames.at(0);
  const end = frames.at(last);
  if (extension === 'hold' || extension === 'slope' || last === 0) {
    const isBefore = frame < first;
    hold(out, key, isBefore ? Number.NEGATIVE_INFINITY : following(end), isBefore ? first : Number.POSITIVE_INFINITY);
    out.sloping = extension === 'slope';
    return;
  }
  const length = end - first;
  const round = Math.floor((frame - first) / length);
  const shift = round * length;
  // Rounding may put the frame a hair outside its round; it belongs to the nearest end then.
  const within = Math.min(Math.max(frame - shift, first), end);
  if (extension === 'swing' && round % 2 !== 0) {
    onSegment(frames, segmentAt(frames, first + end - within, hint), out);
    const turn = first + end + shift;
    out.from = turn - out.from;
    out.to = turn - out.to;
    out.low = out.to;
    out.high = out.from;
    return;
  }
  onSegment(frames, segmentAt(frames, within, hint), out);
  out.from += shift;
  out.to += shift;
  out.low = out.from;
  out.high = out.to;
  out.rounds = extension === 'travel' ? round : 0;
}
