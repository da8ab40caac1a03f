import type { NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { findChannel, splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { compiledFormula } from '../formula/compiled-formula.ts';
import { envOf } from '../formula/functions.ts';
import { withinBounds } from '../schema/numbers.ts';
import { type Source, sourceOf } from './source.ts';

/** Reads one channel at any moment, whatever moment the frame is of. */
export interface Reader {
  at(time: number): number;
}

/** Factor from a channel's unit in the core to the one animators see: radians to degrees, all else as it is. */
export function shownUnit(shot: Shot, path: string): number {
  const { member, channel } = splitPath(path);
  const found = shot.members.get(member) && findChannel(shot.members.at(member), channel, shot.rigs);
  return found?.unit === '°' ? 180 / Math.PI : 1;
}

/**
 * Readers for the channels of a shot, each made when it is first asked for. They compute what the program computes, in the core's
 * units: formulas of formulas included, which is why rings of formulas must be refused before. They hold while formulas and rate
 * stay the same; channels that change otherwise are told to `changed`.
 */
export class Elsewhere {
  #shot: Shot;
  readonly #readers = new Map<string, Reader>();
  readonly #keyed = new Map<string, KeyedReader>();

  constructor(shot: Shot) {
    this.#shot = shot;
  }

  /** Goes over to another version of the shot in which some channels may differ. */
  changed(shot: Shot, paths: Iterable<string>): void {
    this.#shot = shot;
    if (this.#keyed.size === 0) return;
    for (const path of paths) this.#keyed.get(path)?.read(sourceOf(shot, path));
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
    const source = sourceOf(this.#shot, path);
    const keyed = new KeyedReader(source);
    this.#keyed.set(path, keyed);
    if (!this.#shot.formulas.has(path)) return keyed;
    const formula = this.#shot.formulas.at(path);
    const made = compiledFormula(formula);
    if (!made.ok) return keyed;
    const { run } = made.formula;
    const scale = shownUnit(this.#shot, path);
    const readers = formula.inputs.map((i) => this.shown(i.path));
    const { rate, play } = this.#shot;
    const env = envOf({ rate, ...play }, readers);
    return {
      at(time) {
        const base = keyed.at(time);
        // What stands in is not computed.
        if (keyed.isOver) return base;
        for (let i = 0; i < readers.length; i++) env.values[i] = readers[i].at(time);
        env.frame = time;
        env.keyed = base * scale;
        return settled(run(env) / scale, base, formula.mode === 'add');
      },
    };
  }
}

/** What keys, stand-in or constant of a channel say, without its formula. */
class KeyedReader implements Reader {
  #curve: CurveReader | null = null;
  #source: NumberCurve | null = null;
  #value = 0;
  isOver = false;

  constructor(source: Source | undefined) {
    this.read(source);
  }

  read(source: Source | undefined): void {
    this.isOver = source?.is === 'over';
    const held = source?.is === 'formula' ? source.on : source;
    if (held?.is === 'keys' && held.curve.type === 'number') {
      if (held.curve !== this.#source) this.#curve = new CurveReader(held.curve);
      this.#source = held.curve;
      return;
    }
    this.#curve = this.#source = null;
    this.#value = held && held.is !== 'keys' && typeof held.value === 'number' ? held.value : 0;
  }

  at(time: number): number {
    return this.#curve ? this.#curve.at(time) : this.#value;
  }
}

/** What a channel holds whose keys say `base` and whose formula says `result`. No number leaves it as it was. */
export function settled(result: number, base: number, added: boolean): number {
  const value = added ? base + result : result;
  return Number.isFinite(value) ? withinBounds(value) : base;
}
