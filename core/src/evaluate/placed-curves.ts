import { C1, C2, C3, type CompiledCurve, compileCurve, SEGMENT } from '../curve/compile.ts';
import type { NumberCurve, OrientationCurve } from '../curve/key.ts';
import { type CompiledOrientation, compileOrientation, orientationAt } from '../curve/orientation.ts';
import type { Seat, Seated } from './segments/block.ts';
import { Blocks } from './segments/blocks.ts';

/** A curve that is placed: what it was made of, and where it sits. One that never changes sits nowhere (-1): its value is enough. */
interface Placed extends Seat {
  source: NumberCurve;
  still: number;
}

/** A curve for a channel that has none yet. */
export interface NewCurve {
  readonly path: string;
  readonly source: NumberCurve;
  readonly target: number;
}

/**
 * The number curves of a shot. Each is put in, exchanged and taken out by itself, so that an edit costs what it changes. Those that
 * never change are not evaluated at all.
 */
export class PlacedCurves {
  readonly #blocks = new Blocks();
  readonly #placed = new Map<string, Placed>();

  run(time: number, values: Float64Array): void {
    this.#blocks.run(time, values);
  }

  /**
   * Puts a curve in for a channel, or in place of its last one.
   * @param target where it writes in the values
   * @returns the value it has at every time, where it has one: then nothing is written
   */
  put(path: string, source: NumberCurve, target: number): number | null {
    const there = this.#placed.get(path);
    if (there?.source === source) {
      if (there.index < 0) return there.still;
      this.#blocks.aim(there.index, target);
      return null;
    }
    const curve = compileCurve(source);
    const still = isStill(curve);
    const seat = there ?? this.#place(path, source, curve);
    seat.source = source;
    seat.still = curve.values[0];
    if (!still && seat.index >= 0) this.#blocks.replace(seat.index, curve, target);
    else if (!still) this.#blocks.add({ seat, curve, target });
    else this.#rise(seat);
    return still ? seat.still : null;
  }

  /** Puts in many curves of channels that have none here yet. */
  putAll(list: readonly NewCurve[], still: (target: number, value: number) => void): void {
    const added: Seated[] = [];
    for (const { path, source, target } of list) {
      const curve = compileCurve(source);
      const seat = this.#place(path, source, curve);
      if (isStill(curve)) still(target, seat.still);
      else added.push({ seat, curve, target });
    }
    // In the order of the values they write: a frame then goes through those from end to end.
    for (const seated of added.sort((a, b) => a.target - b.target)) this.#blocks.add(seated);
  }

  has(path: string): boolean {
    return this.#placed.has(path);
  }

  /** Takes a channel's curve out, if it has one here. */
  drop(path: string): void {
    const there = this.#placed.get(path);
    if (!there) return;
    this.#rise(there);
    this.#placed.delete(path);
  }

  /** The paths of all that are placed. */
  get paths(): Iterable<string> {
    return this.#placed.keys();
  }

  #place(path: string, source: NumberCurve, curve: CompiledCurve): Placed {
    const placed: Placed = { source, index: -1, still: curve.values[0] };
    this.#placed.set(path, placed);
    return placed;
  }

  /** Lets a curve leave its seat. */
  #rise(placed: Placed): void {
    if (placed.index >= 0) this.#blocks.remove(placed.index);
    placed.index = -1;
  }
}

/** Whether a curve has one value at every time, on its segments and beyond its keys. */
function isStill({ values, segments, slopeBefore, slopeAfter, before, after }: CompiledCurve): boolean {
  if ((before === 'slope' && slopeBefore !== 0) || (after === 'slope' && slopeAfter !== 0)) return false;
  for (let k = 1; k < values.length; k++) if (values[k] !== values[0]) return false;
  for (let s = 0; s < segments.length; s += SEGMENT) {
    if (segments[s + C1] !== 0 || segments[s + C2] !== 0 || segments[s + C3] !== 0) return false;
  }
  return true;
}

interface PlacedTurn {
  readonly path: string;
  index: number;
  slot: number;
  source: OrientationCurve;
  curve: CompiledOrientation;
}

/** The orientation curves of a shot. */
export class PlacedTurns {
  readonly #list: PlacedTurn[] = [];
  readonly #placed = new Map<string, PlacedTurn>();

  run(time: number, orientations: Float64Array): void {
    const list = this.#list;
    for (let i = 0; i < list.length; i++) orientationAt(list[i].curve, time, orientations, list[i].slot * 4);
  }

  put(path: string, source: OrientationCurve, slot: number): void {
    const there = this.#placed.get(path);
    if (!there) {
      const fresh = { path, index: this.#list.length, slot, source, curve: compileOrientation(source) };
      this.#list.push(fresh);
      this.#placed.set(path, fresh);
      return;
    }
    there.slot = slot;
    if (there.source !== source) there.curve = compileOrientation(source);
    there.source = source;
  }

  drop(path: string): void {
    const there = this.#placed.get(path);
    if (!there) return;
    this.#placed.delete(path);
    const last = this.#list.pop()!;
    if (last === there) return;
    this.#list[there.index] = last;
    last.index = there.index;
  }

  get paths(): Iterable<string> {
    return this.#placed.keys();
  }
}
