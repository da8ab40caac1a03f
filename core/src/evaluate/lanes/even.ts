import { C0, C1, C2, C3, type CompiledCurve, EVEN, SEGMENT, X1 } from '../../curve/compile.ts';
import { Lane, TO } from './lane.ts';

export function isEven({ segments }: CompiledCurve): boolean {
  for (let s = 0; s < segments.length; s += SEGMENT) if (segments[s + X1] !== EVEN) return false;
  return true;
}

/** A row: where it begins and ends, then the cubic of the frames gone since. */
const WIDTH = 6;
const START = 2;

/** Curves of even segments: the value is a cubic straight in frames. */
export class EvenLane extends Lane {
  readonly width = WIDTH;
  readonly start = START;

  protected evaluate(
    rows: Float64Array,
    from: number,
    first: number,
    end: number,
    time: number,
    values: Float64Array,
  ): void {
    const { targets } = this;
    for (let i = first, at = from; i < end; i++, at += WIDTH) {
      const x = time - rows[at];
      values[targets[i]] =
        ((rows[at + START + 3] * x + rows[at + START + 2]) * x + rows[at + START + 1]) * x + rows[at + START];
    }
  }

  protected writeSegment(
    out: Float64Array,
    at: number,
    from: number,
    to: number,
    segments: Float64Array,
    s: number,
  ): void {
    const perFrame = 1 / (to - from);
    out[at] = from;
    out[at + TO] = to;
    out[at + START] = segments[s + C0];
    out[at + START + 1] = segments[s + C1] * perFrame;
    out[at + START + 2] = segments[s + C2] * perFrame * perFrame;
    out[at + START + 3] = segments[s + C3] * perFrame * perFrame * perFrame;
  }

  protected writeStraight(out: Float64Array, at: number, frame: number, value: number, slope: number): void {
    out[at] = out[at + TO] = frame;
    out[at + START] = value;
    out[at + START + 1] = slope;
    out[at + START + 2] = out[at + START + 3] = 0;
  }

  protected copy(from: Float64Array, row: number, to: Float64Array, at: number): void {
    to[at] = from[row];
    to[at + 1] = from[row + 1];
    to[at + 2] = from[row + 2];
    to[at + 3] = from[row + 3];
    to[at + 4] = from[row + 4];
    to[at + 5] = from[row + 5];
  }

  protected turnBack(out: Float64Array, at: number): void {
    out[at + START + 1] = -out[at + START + 1];
    out[at + START + 3] = -out[at + START + 3];
  }
}
