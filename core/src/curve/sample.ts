import { bezierParameter } from './bezier.ts';
import { closedCurve } from './closed.ts';
import {
  C0,
  C1,
  C2,
  C3,
  type CompiledCurve,
  compileCurve,
  EVEN,
  FramesOfKeys,
  GUESS,
  SEGMENT,
  writeSegment,
  X1,
  X2,
} from './compile.ts';
import { handleSlope } from './handles.ts';
import type { NumberCurve } from './key.ts';
import { type KeyFrames, type Stretch, Stretch as StretchOf, seek } from './seek.ts';

/** Reads a curve at any frame, cheapest when the frames come in order. */
export class CurveReader {
  readonly compiled: CompiledCurve;
  readonly #frames: KeyFrames;
  readonly #stretch = new StretchOf();

  constructor(curve: NumberCurve) {
    const compiled = compileCurve(curve);
    const { frames } = compiled;
    this.compiled = compiled;
    this.#frames = { count: frames.length, at: (i) => frames[i] };
  }

  at(frame: number): number {
    const { compiled } = this;
    const s = this.#stretch;
    if (!s.holds(frame)) seek(this.#frames, compiled, frame, Math.max(0, s.segment), s);
    const { values } = compiled;
    const last = values.length - 1;
    if (s.segment >= 0) {
      const gain = s.rounds === 0 ? 0 : s.rounds * (values[last] - values[0]);
      return gain + onSegment(compiled.segments, s.segment * SEGMENT, s, frame);
    }
    if (!s.sloping) return values[s.key];
    const slope = s.key === 0 && frame < compiled.frames[0] ? compiled.slopeBefore : compiled.slopeAfter;
    return values[s.key] + slope * (frame - compiled.frames[s.key]);
  }
}

/** The value of a segment at a frame of its stretch. */
export function onSegment(segments: Float64Array, at: number, s: Stretch, frame: number): number {
  const perFrame = 1 / (s.to - s.from);
  const share = (frame - s.from) * perFrame;
  let u = share;
  if (segments[at + X1] !== EVEN) {
    const g = at + GUESS;
    const more = ((segments[g + 3] * share + segments[g + 2]) * share + segments[g + 1]) * share + segments[g];
    const guess = share + share * (1 - share) * more;
    u = bezierParameter(segments[at + X1], segments[at + X2], share, (s.to - frame) * perFrame, guess);
  }
  return ((segments[at + C3] * u + segments[at + C2]) * u + segments[at + C1]) * u + segments[at + C0];
}

const one = new Float64Array(SEGMENT);
const found = new StretchOf();

/** The curve's value at one frame. Only the segment it falls on is worked out, however many keys there are. */
export function valueAt(source: NumberCurve, frame: number): number {
  const curve = closedCurve(source);
  const { keys } = curve;
  const last = keys.length - 1;
  seek(new FramesOfKeys(keys), curve, frame, 0, found);
  if (found.segment >= 0) {
    writeSegment(curve, found.segment, one, 0);
    const gain = found.rounds === 0 ? 0 : found.rounds * (keys[last].value - keys[0].value);
    return gain + onSegment(one, 0, found, frame);
  }
  const key = keys[found.key];
  if (!found.sloping) return key.value;
  const isBefore = frame < keys[0].frame;
  return key.value + handleSlope(curve, found.key, isBefore ? 'out' : 'in') * (frame - key.frame);
}
