import { bezierParameter } from './bezier.ts';

/**
 * A *window* is one stretch of a curve, ready to be evaluated. A program keeps one window a curve, all in one array, so
 * that while playing every curve is a straight read of one cache line; only when the playhead leaves the stretch is the
 * next one looked up (`seek`).
 *
 * The stretch holds for `LOW <= frame < HIGH`. Its parameter is 0 at frame `FROM`, which is one of the two, and runs to 1
 * at the other (backwards in a swing); `PER_FRAME` is how much of it goes by in a frame. `C0`…`C3` are the value's
 * polynomial in the parameter.
 */
export const WINDOW = 8;
export const LOW = 0;
export const HIGH = 1;
export const FROM = 2;
/** 0 where the value does not change. */
export const PER_FRAME = 3;
export const C0 = 4;
export const C1 = 5;
export const C2 = 6;
export const C3 = 7;

/**
 * Beside each window stand its handles: `X1` and `X2`, their frames as shares of the way, and `G0` and `G1`, which make
 * the first guess at the parameter. An *even* window needs none of them: both handles reach a third, and the parameter
 * is simply the share of the way. In a segment `X1 = EVEN` says so; windows have a byte for it, so that even ones are
 * evaluated without reading their handles.
 */
export const HANDLES = 4;
export const X1 = 0;
export const X2 = 1;
export const G0 = 2;
export const G1 = 3;
export const EVEN = -1;

/** Room for some windows and their handles, all empty: an empty window answers for no frame. */
export class Windows {
  readonly spans: Float64Array;
  readonly handles: Float64Array;
  /** 1 where the handles matter. */
  readonly uneven: Uint8Array;

  constructor(count: number) {
    this.spans = new Float64Array(count * WINDOW);
    this.handles = new Float64Array(count * HANDLES);
    this.uneven = new Uint8Array(count);
  }

  /** Empties a window, so that it is looked up again. */
  clear(index: number): void {
    this.spans.fill(0, index * WINDOW, (index + 1) * WINDOW);
  }

  holds(index: number, frame: number): boolean {
    const at = index * WINDOW;
    return frame >= this.spans[at + LOW] && frame < this.spans[at + HIGH];
  }

  /** The value at `frame`, which must lie within the window. */
  value(index: number, frame: number): number {
    const w = this.spans;
    const at = index * WINDOW;
    const share = (frame - w[at + FROM]) * w[at + PER_FRAME];
    const u = this.uneven[index] === 1 ? this.parameter(index, frame, share) : share;
    return ((w[at + C3] * u + w[at + C2]) * u + w[at + C1]) * u + w[at + C0];
  }

  /** The parameter of an uneven window at `frame`, of whose way `share` is gone. */
  parameter(index: number, frame: number, share: number): number {
    const at = index * WINDOW;
    const h = index * HANDLES;
    const { spans, handles } = this;
    const perFrame = spans[at + PER_FRAME];
    const end = perFrame > 0 ? spans[at + HIGH] : spans[at + LOW];
    const guess = share + share * (1 - share) * (handles[h + G0] + handles[h + G1] * share);
    return bezierParameter(handles[h + X1], handles[h + X2], share, (end - frame) * perFrame, guess);
  }
}
