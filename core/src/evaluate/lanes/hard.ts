import { bezierParameter } from '../../curve/bezier.ts';
import { C0, C1, C2, C3, EVEN, G0, G1, SEGMENT, X1, X2 } from '../../curve/compile.ts';
import { Lane, TO } from './lane.ts';

const FROM = 0;
const PER_FRAME = 2;
/** From here on a row has the numbers of its segment, as they are compiled. */
const NUMBERS = 3;
const WIDTH = NUMBERS + SEGMENT;

/** Curves with handles so short or so long that time nearly stands still: their parameter is solved for, as exactly as numbers go. */
export class HardLane extends Lane {
  readonly width = WIDTH;
  readonly start = NUMBERS + C0;

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
      const perFrame = rows[at + PER_FRAME];
      const n = at + NUMBERS;
      let u = (time - rows[at + FROM]) * perFrame;
      if (rows[n + X1] !== EVEN) {
        const guess = u + u * (1 - u) * (rows[n + G0] + rows[n + G1] * u);
        u = bezierParameter(rows[n + X1], rows[n + X2], u, (rows[at + TO] - time) * perFrame, guess);
      }
      values[targets[i]] = ((rows[n + C3] * u + rows[n + C2]) * u + rows[n + C1]) * u + rows[n + C0];
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
    out[at + FROM] = from;
    out[at + TO] = to;
    out[at + PER_FRAME] = 1 / (to - from);
    for (let k = 0; k < SEGMENT; k++) out[at + NUMBERS + k] = segments[s + k];
  }

  protected writeStraight(out: Float64Array, at: number, frame: number, value: number, slope: number): void {
    for (let k = 0; k < WIDTH; k++) out[at + k] = 0;
    out[at + FROM] = out[at + TO] = frame;
    out[at + PER_FRAME] = 1;
    out[at + NUMBERS + X1] = EVEN;
    out[at + NUMBERS + C0] = value;
    out[at + NUMBERS + C1] = slope;
  }

  protected copy(from: Float64Array, row: number, to: Float64Array, at: number): void {
    to[at] = from[row];
    to[at + 1] = from[row + 1];
    to[at + 2] = from[row + 2];
    to[at + 3] = from[row + 3];
    to[at + 4] = from[row + 4];
    to[at + 5] = from[row + 5];
    to[at + 6] = from[row + 6];
    to[at + 7] = from[row + 7];
    to[at + 8] = from[row + 8];
    to[at + 9] = from[row + 9];
    to[at + 10] = from[row + 10];
  }

  protected turnBack(out: Float64Array, at: number): void {
    out[at + PER_FRAME] = -out[at + PER_FRAME];
  }
}
