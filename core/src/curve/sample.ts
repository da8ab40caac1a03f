import { type CompiledCurve, compileCurve } from './compile.ts';
import type { NumberCurve } from './key.ts';
import { seek } from './seek.ts';
import { inWindow, WINDOW, windowValue } from './window.ts';

/** Reads a curve at any frame, cheapest when the frames come in order. Not a second evaluator: it keeps one window. */
export class CurveReader {
  readonly compiled: CompiledCurve;
  readonly #window = new Float64Array(WINDOW);

  constructor(curve: NumberCurve) {
    this.compiled = compileCurve(curve);
  }

  at(frame: number): number {
    if (!inWindow(this.#window, 0, frame)) seek(this.compiled, frame, this.#window, 0);
    return windowValue(this.#window, 0, frame);
  }
}

/** The curve's value at one frame. */
export const valueAt = (curve: NumberCurve, frame: number): number => new CurveReader(curve).at(frame);
