import type { Shot } from '../document/shot.ts';
import { compiledFormula } from '../formula/compiled-formula.ts';
import type { FormulaEnv, Term } from '../formula/functions.ts';
import { formulaOrder } from '../formula/order.ts';
import { type Elsewhere, type Reader, settled, shownUnit } from './elsewhere.ts';
import { type Layout, placeOf } from './layout.ts';
import { sourceOf } from './source.ts';

/** A shot's formulas in an order in which each comes after those it reads, laid out in flat arrays. */
export class PlacedFormulas {
  readonly #runs: Term[] = [];
  readonly #readers: (readonly Reader[])[] = [];
  readonly #added: Uint8Array;
  /** Where each writes in the values, and its unit. */
  readonly #targets: Int32Array;
  readonly #units: Float64Array;
  /** Where each one's inputs begin in the list of all inputs. */
  readonly #from: Int32Array;
  readonly #env: FormulaEnv;

  constructor(shot: Shot, layout: Layout, elsewhere: Elsewhere) {
    const order = formulaOrder(shot.formulas);
    if ('loop' in order) throw new Error(`Formulas go round in a circle: ${order.loop.join(', ')}.`);
    const placed = order.order.filter(
      (path) =>
        compiledFormula(shot.formulas.at(path)).ok &&
        placeOf(layout, path) >= 0 &&
        sourceOf(shot, path)?.is === 'formula',
    );
    const inputs = placed.flatMap((path) => shot.formulas.at(path).inputs.map((i) => i.path));
    this.#targets = Int32Array.from(placed, (path) => placeOf(layout, path));
    this.#units = Float64Array.from(placed, (path) => shownUnit(shot, path));
    this.#added = Uint8Array.from(placed, (path) => (shot.formulas.at(path).mode === 'add' ? 1 : 0));
    this.#from = new Int32Array(placed.length);
    let from = 0;
    placed.forEach((path, f) => {
      const made = compiledFormula(shot.formulas.at(path));
      if (!made.ok) return;
      this.#runs.push(made.formula.run);
      this.#readers.push(shot.formulas.at(path).inputs.map((i) => elsewhere.shown(i.path)));
      this.#from[f] = from;
      from += shot.formulas.at(path).inputs.length;
    });
    this.#env = {
      frame: 1,
      rate: shot.rate,
      ...shot.play,
      keyed: 0,
      values: new Float64Array(0),
      // An input that is not there any more reads the first value, times nothing.
      sources: Int32Array.from(inputs, (path) => Math.max(0, placeOf(layout, path))),
      scales: Float64Array.from(inputs, (path) => (placeOf(layout, path) < 0 ? 0 : shownUnit(shot, path))),
      from: 0,
      readers: [],
    };
  }

  /** Computes all formulas of a moment into its values. */
  run(time: number, values: Float64Array): void {
    const env = this.#env;
    const runs = this.#runs;
    env.frame = time;
    env.values = values;
    for (let f = 0; f < runs.length; f++) {
      const target = this.#targets[f];
      const unit = this.#units[f];
      const base = values[target];
      env.from = this.#from[f];
      env.readers = this.#readers[f];
      env.keyed = base * unit;
      values[target] = settled(runs[f](env) / unit, base, this.#added[f] === 1);
    }
  }
}
