import { C1, C2, C3, type CompiledCurve, compileCurve, SEGMENT } from '../curve/compile.ts';
import type { NumberCurve, OrientationCurve } from '../curve/key.ts';
import { type CompiledOrientation, compileOrientation, orientationAt } from '../curve/orientation.ts';
import { EvenLane, isEven } from './lanes/even.ts';
import { HardLane } from './lanes/hard.ts';
import type { Lane, Seat } from './lanes/lane.ts';
import { isTame, TameLane } from './lanes/tame.ts';

/** A curve that is placed: what it was made of, and where it sits. One that never changes sits nowhere: its value is enough. */
interface Placed extends Seat {
  source: NumberCurve | null;
  still: number;
}

/** A curve for a channel that has none yet. */
export interface NewCurve {
  readonly path: string;
  readonly source: NumberCurve;
  readonly target: number;
}

/**
 * The number curves of a shot, sorted by what it takes to evaluate them. Each is put in, exchanged and taken out by itself, so that
 * an edit costs what it changes.
 */
export class PlacedCurves {
  readonly #lanes = { even: new EvenLane(), tame: new TameLane(), hard: new HardLane() };
  readonly #placed = new Map<string, Placed>();

  run(time: number, values: Float64Array): void {
    this.#lanes.even.run(time, values);
    this.#lanes.tame.run(time, values);
    this.#lanes.hard.run(time, values);
  }

  /**
   * Puts a curve in for a channel, or in place of its last one.
   * @param target where it writes in the values
   * @returns the value it has at every time, where it has one: then nothing is written
   */
  put(path: string, source: NumberCurve, target: number): number | null {
    const there = this.#placed.get(path);
    if (there?.source === source) {
      there.lane?.aim(there.index, target);
      return there.lane ? null : there.still;
    }
    const curve = compileCurve(source);
    const lane = this.#laneOf(curve);
    const placed = there ?? this.#place(path);
    placed.source = source;
    placed.still = curve.values[0];
    if (lane && lane === placed.lane) {
      lane.replace(placed.index, curve);
      lane.aim(placed.index, target);
    } else {
      placed.lane?.remove(placed.index);
      placed.lane = null;
      lane?.add(placed, curve, target);
    }
    return lane ? null : placed.still;
  }

  /** Puts in many curves of channels that have none here yet. */
  putAll(list: readonly NewCurve[], still: (target: number, value: number) => void): void {
    const added = new Map<Lane, { seat: Placed; curve: CompiledCurve; target: number }[]>();
    for (const { path, source, target } of list) {
      const curve = compileCurve(source);
      const lane = this.#laneOf(curve);
      const seat = this.#place(path);
      seat.source = source;
      seat.still = curve.values[0];
      if (!lane) {
        still(target, seat.still);
        continue;
      }
      const own = added.get(lane) ?? [];
      own.push({ seat, curve, target });
      added.set(lane, own);
    }
    for (const [lane, own] of added) lane.addAll(own.sort((a, b) => a.target - b.target));
  }

  has(path: string): boolean {
    return this.#placed.has(path);
  }

  #place(path: string): Placed {
    const placed: Placed = { source: null, lane: null, index: -1, still: 0 };
    this.#placed.set(path, placed);
    return placed;
  }

  /** Takes a channel's curve out, if it has one here. */
  drop(path: string): void {
    const there = this.#placed.get(path);
    if (!there) return;
    there.lane?.remove(there.index);
    this.#placed.delete(path);
  }

  /** The paths of all that are placed. */
  get paths(): Iterable<string> {
    return this.#placed.keys();
  }

  /** The sort of a curve; null for one that never changes. */
  #laneOf(curve: CompiledCurve): Lane | null {
    if (isStill(curve)) return null;
    if (isEven(curve)) return this.#lanes.even;
    return isTame(curve) ? this.#lanes.tame : this.#lanes.hard;
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
