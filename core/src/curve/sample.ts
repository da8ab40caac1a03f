import { type CompiledCurve, compileCurve } from './compile.ts';
import type { NumberCurve } from './key.ts';
import { seek } from './seek.ts';
import { Windows } from './window.ts';

/** Reads a curve at any frame, cheapest when the frames come in order. Not a second evaluator: it keeps one window. */
export class CurveReader {
  readonly compiled: CompiledCurve;
  readonly #window = new Windows(1);

  constructor(curve: NumberCurve) {
    this.compiled = compileCurve(curve);
  }

  at(frame: number): number {
    if (!this.#window.holds(0, frame)) seek(this.compiled, frame, this.#window, 0);
    return this.#window.value(0, frame);
  }
}

/** The curve's value at one frame. */
export const valueAt = (curve: NumberCurve, frame: number): number => new CurveReader(curve).at(frame);
