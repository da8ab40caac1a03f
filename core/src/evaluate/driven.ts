import type { Shot } from '../document/shot.ts';
import { compiledFormula } from '../formula/compiled-formula.ts';
import { envOf, type FormulaEnv, type Term } from '../formula/functions.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { settled } from './elsewhere.ts';
import type { Layout } from './layout.ts';

const DEGREES = 180 / Math.PI;

/** What rigs work out from their dials: one number driving many joints. Run after the channels, it writes behind them. */
export class DrivenNumbers {
  readonly #runs: Term[] = [];
  readonly #places: number[] = [];
  readonly #units: number[] = [];
  readonly #from: number[] = [];
  readonly #env: FormulaEnv;

  /** Null where no rig of the cast drives anything. */
  static of(shot: Shot, layout: Layout): DrivenNumbers | null {
    return layout.rigs.some((rig) => rig.driven.length > 0) ? new DrivenNumbers(shot, layout) : null;
  }

  private constructor(shot: Shot, layout: Layout) {
    const sources: number[] = [];
    const scales: number[] = [];
    for (const rig of layout.rigs) {
      for (const { place, driven, unit } of rig.driven) {
        const made = compiledFormula(driven);
        if (!made.ok) continue;
        this.#runs.push(made.formula.run);
        this.#places.push(place);
        this.#units.push(unit);
        this.#from.push(sources.length);
        for (const input of driven.inputs) {
          const { at, scale } = sourceOf(layout, rig, input.path);
          sources.push(at);
          scales.push(scale);
        }
      }
    }
    this.#env = {
      ...envOf({ rate: shot.rate, ...shot.play }, []),
      sources: Int32Array.from(sources),
      scales: Float64Array.from(scales),
    };
  }

  run(time: number, values: Float64Array): void {
    const env = this.#env;
    env.frame = time;
    env.values = values;
    for (let d = 0; d < this.#runs.length; d++) {
      env.from = this.#from[d];
      values[this.#places[d]] = settled(this.#runs[d](env) * this.#units[d], 0, false);
    }
  }
}

/** Where an input, `control.channel` of the same rig, stands in the values, and what makes its unit the interface's. */
function sourceOf(layout: Layout, rig: PlacedRig, path: string): { at: number; scale: number } {
  const dot = path.indexOf('.');
  const { compiled, controls } = rig;
  const index = compiled.controlAt.get(path.slice(0, dot))!;
  const channel = path.slice(dot + 1);
  const slot = controls[index];
  const dial = compiled.rig.controls[index].dials.find((d) => d.id === channel);
  const isAngle = dial ? dial.unit === '°' : channel.startsWith('turn.');
  return { at: layout.base[slot] + layout.channelAt[slot].get(channel)!, scale: isAngle ? DEGREES : 1 };
}
