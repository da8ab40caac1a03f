import type { CompiledCurve } from '../../curve/compile.ts';
import type { Stretch } from '../../curve/seek.ts';
import { BLOCK, Chunk, SORTS } from './chunk.ts';
import {
  CLOCK,
  evenAt,
  gentleAt,
  hardAt,
  restOf,
  type Sort,
  shareOf,
  sortOf,
  tameAt,
  WIDTH,
  writeClock,
  writeRow,
} from './rows.ts';

const [EVEN_ROW, GENTLE_ROW, TAME_ROW, HARD_ROW] = WIDTH;

/** Stretches that come and go one by one. */
export class Gathering extends Chunk {
  /** When each is, in the order of the targets. */
  readonly #clocks = new Float64Array(BLOCK * SORTS.length * CLOCK);
  /** Of each curve of the block its sort and its place among those of the sort, and of each place whose it is. */
  readonly #sorts = new Uint8Array(BLOCK).fill(NONE);
  readonly #places = new Uint8Array(BLOCK);
  readonly #whose = new Uint8Array(BLOCK * SORTS.length);

  constructor() {
    super([BLOCK, BLOCK, BLOCK, BLOCK]);
  }

  run(time: number, values: Float64Array): void {
    const { counts, rows, targets, rowsAt, targetsAt } = this;
    const clocks = this.#clocks;
    if (counts[0] > 0) runEven(rows, rowsAt[0], targets, targetsAt[0], counts[0], clocks, time, values);
    if (counts[1] > 0) runGentle(rows, rowsAt[1], targets, targetsAt[1], counts[1], clocks, time, values);
    if (counts[2] > 0) runTame(rows, rowsAt[2], targets, targetsAt[2], counts[2], clocks, time, values);
    if (counts[3] > 0) runHard(rows, rowsAt[3], targets, targetsAt[3], counts[3], clocks, time, values);
  }

  clear(): void {
    this.#sorts.fill(NONE);
    this.counts.fill(0);
  }

  /** Puts in the stretch that a curve of the block is on, in place of its last one. */
  put(curve: number, target: number, compiled: CompiledCurve, stretch: Stretch): void {
    const sort = sortOf(compiled, stretch);
    if (this.#sorts[curve] !== sort) {
      this.take(curve);
      this.#sorts[curve] = sort;
      this.#seat(curve, sort, this.counts[sort]++);
    }
    const place = this.#places[curve];
    const k = this.targetsAt[sort] + place;
    this.targets[k] = target;
    writeClock(this.#clocks, k * CLOCK, compiled, stretch);
    writeRow(this.rows, this.rowsAt[sort] + place * WIDTH[sort], sort, compiled, stretch);
  }

  /** Takes a curve's stretch out, if it has one here; the last one of its sort comes in its place. */
  take(curve: number): void {
    const sort = this.#sorts[curve];
    if (sort === NONE) return;
    this.#sorts[curve] = NONE;
    const last = --this.counts[sort as Sort];
    const place = this.#places[curve];
    if (place === last) return;
    const { rows, targets } = this;
    const width = WIDTH[sort];
    const at = this.rowsAt[sort];
    rows.copyWithin(at + place * width, at + last * width, at + (last + 1) * width);
    const [to, from] = [this.targetsAt[sort] + place, this.targetsAt[sort] + last];
    targets[to] = targets[from];
    this.#clocks.copyWithin(to * CLOCK, from * CLOCK, (from + 1) * CLOCK);
    this.#seat(this.#whose[sort * BLOCK + last], sort as Sort, place);
  }

  #seat(curve: number, sort: Sort, place: number): void {
    this.#places[curve] = place;
    this.#whose[sort * BLOCK + place] = curve;
  }
}

/** The sort of a curve that has no stretch yet. */
const NONE = 255;

/** Writes the values of rows of a sort. @param at where their first row is @param from where in `targets` their first place is */
function runEven(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  clocks: Float64Array,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += EVEN_ROW)
    values[targets[k]] = evenAt(rows, at, shareOf(clocks, k * CLOCK, time));
}

function runGentle(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  clocks: Float64Array,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += GENTLE_ROW)
    values[targets[k]] = gentleAt(rows, at, shareOf(clocks, k * CLOCK, time));
}

function runTame(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  clocks: Float64Array,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += TAME_ROW)
    values[targets[k]] = tameAt(rows, at, shareOf(clocks, k * CLOCK, time));
}

function runHard(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  clocks: Float64Array,
  time: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += HARD_ROW)
    values[targets[k]] = hardAt(rows, at, shareOf(clocks, k * CLOCK, time), restOf(clocks, k * CLOCK, time));
}
