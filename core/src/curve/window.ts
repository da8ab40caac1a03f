import { bezierParameter } from './bezier.ts';

/**
 * A *window* is one stretch of a curve, ready to be evaluated: twelve numbers in a row. A program keeps one window a
 * curve, all in one array, so that while playing every curve is a straight read of memory; only when the playhead
 * leaves the stretch is the next one looked up (`seek`).
 *
 * The stretch holds for `LOW <= frame < HIGH`. Its parameter runs from 0 at frame `FROM` to 1 at frame `TO` (backwards
 * in a swing). `X1` and `X2` are the handles' frames as shares of the way; `X1 = EVEN` says that the parameter is
 * simply the share of the way, as it is whenever both handles reach a third. `C0`…`C3` are the value's polynomial.
 */
export const WINDOW = 12;
export const LOW = 0;
export const HIGH = 1;
export const FROM = 2;
export const TO = 3;
/** 1 / (TO - FROM); 0 where the value does not change. */
export const PER_FRAME = 4;
export const X1 = 5;
export const X2 = 6;
export const C0 = 7;
export const C1 = 8;
export const C2 = 9;
export const C3 = 10;
export const EVEN = -1;

/** The value at `frame` of the window that begins at `at`. The frame must lie within it. */
export function windowValue(windows: Float64Array, at: number, frame: number): number {
  const perFrame = windows[at + PER_FRAME];
  const s = (frame - windows[at + FROM]) * perFrame;
  const x1 = windows[at + X1];
  const u = x1 === EVEN ? s : bezierParameter(x1, windows[at + X2], s, (windows[at + TO] - frame) * perFrame);
  return ((windows[at + C3] * u + windows[at + C2]) * u + windows[at + C1]) * u + windows[at + C0];
}

/** Whether the window answers for this frame. An empty window (all zeros) answers for none. */
export const inWindow = (windows: Float64Array, at: number, frame: number): boolean =>
  frame >= windows[at + LOW] && frame < windows[at + HIGH];
