import { compileCurve } from '../curve/compile.ts';
import { seek } from '../curve/seek.ts';
import { Windows } from '../curve/window.ts';
import { findChannel, splitPath } from '../document/channels.ts';
import { withinBounds } from '../document/numbers.ts';
import type { Shot } from '../document/shot.ts';
import { compiledFormula } from '../formula/compiled-formula.ts';
import { envOf } from '../formula/functions.ts';

/** Reads one channel at any moment, whatever moment the frame is of. */
export interface Reader {
  at(time: number): number;
}

/** Factor from a channel's unit in the core to the one animators see: radians to degrees, all else as it is. */
export function shownUnit(shot: Shot, path: string): number {
  const { member, channel } = splitPath(path);
  const found = shot.members[member] && findChannel(shot.members[member], channel);
  return found?.unit === '°' ? 180 / Math.PI : 1;
}

/**
 * Readers for the channels of one version of a shot, each made when it is first asked for. They compute what the program
 * computes, in the core's units: formulas of formulas included, which is why rings of formulas must be refused before.
 */
export class Elsewhere {
  readonly #shot: Shot;
  readonly #readers = new Map<string, Reader>();

  constructor(shot: Shot) {
    this.#shot = shot;
  }

  of(path: string): Reader {
    const known = this.#readers.get(path);
    if (known) return known;
    const made = this.#make(path);
    this.#readers.set(path, made);
    return made;
  }

  /** The same, in the units animators see. */
  shown(path: string): Reader {
    const reader = this.of(path);
    const scale = shownUnit(this.#shot, path);
    return scale === 1 ? reader : { at: (time) => reader.at(time) * scale };
  }

  #make(path: string): Reader {
    const keyed = this.#keyed(path);
    const formula = Object.hasOwn(this.#shot.formulas, path) ? this.#shot.formulas[path] : undefined;
    const made = formula && compiledFormula(formula);
    if (!formula || !made?.ok || path in this.#shot.loose) return keyed;
    const { run } = made.formula;
    const scale = shownUnit(this.#shot, path);
    const readers = formula.inputs.map((i) => this.shown(i.path));
    const { rate, play } = this.#shot;
    const env = envOf({ rate, ...play }, readers);
    return {
      at(time) {
        const base = keyed.at(time);
        for (let i = 0; i < readers.length; i++) env.values[i] = readers[i].at(time);
        env.frame = time;
        env.keyed = base * scale;
        return settled(run(env) / scale, base, formula.mode === 'add');
      },
    };
  }

  /** What keys, loose value or constant say, without the formula. */
  #keyed(path: string): Reader {
    const { member: id, channel } = splitPath(path);
    const loose = this.#shot.loose[path];
    const curve = this.#shot.curves[path];
    if (typeof loose !== 'number' && curve?.type === 'number') {
      const compiled = compileCurve(curve);
      const window = new Windows(1);
      return {
        at(time) {
          if (!window.holds(0, time)) seek(compiled, time, window, 0);
          return window.value(0, time);
        },
      };
    }
    const member = this.#shot.members[id];
    const found = member && findChannel(member, channel);
    const value = typeof loose === 'number' ? loose : (member?.values[channel] ?? found?.initial ?? 0);
    return { at: () => value };
  }
}

/** What a channel holds whose keys say `base` and whose formula says `result`. No number leaves it as it was. */
export function settled(result: number, base: number, added: boolean): number {
  const value = added ? base + result : result;
  return Number.isFinite(value) ? withinBounds(value) : base;
}
