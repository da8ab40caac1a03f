import type { CompiledCurve } from '../../curve/compile.ts';
import type { Stretch } from '../../curve/seek.ts';
import { Chunk, type PerSort } from './chunk.ts';
import {
  CLOCK,
  evenAt,
  gentleAt,
  hardAt,
  restOf,
  shareOf,
  sortOf,
  tameAt,
  WIDTH,
  writeClock,
  writeRow,
} from './rows.ts';

const [EVEN_ROW, GENTLE_ROW, TAME_ROW, HARD_ROW] = WIDTH;

/** Stretches that begin and end together: time is as far on all of them. */
export class Together extends Chunk {
  readonly #clock = new Float64Array(CLOCK);

  /** @param count so many of the curves there are @param targets where each of them writes */
  constructor(curves: readonly CompiledCurve[], targets: Int32Array, count: number, stretch: Stretch) {
    super(countsOf(curves, count, stretch));
    writeClock(this.#clock, 0, curves[0], stretch);
    for (let i = 0; i < count; i++) {
      const sort = sortOf(curves[i], stretch);
      const place = this.counts[sort]++;
      this.targets[this.targetsAt[sort] + place] = targets[i];
      writeRow(this.rows, this.rowsAt[sort] + place * WIDTH[sort], sort, curves[i], stretch);
    }
  }

  run(time: number, values: Float64Array): void {
    const { counts, rows, targets, rowsAt, targetsAt } = this;
    const clock = this.#clock;
    const s = shareOf(clock, 0, time);
    if (counts[0] > 0) runEven(rows, rowsAt[0], targets, targetsAt[0], counts[0], s, values);
    if (counts[1] > 0) runGentle(rows, rowsAt[1], targets, targetsAt[1], counts[1], s, values);
    if (counts[2] > 0) runTame(rows, rowsAt[2], targets, targetsAt[2], counts[2], s, values);
    if (counts[3] > 0) runHard(rows, rowsAt[3], targets, targetsAt[3], counts[3], s, restOf(clock, 0, time), values);
  }
}

function countsOf(curves: readonly CompiledCurve[], count: number, stretch: Stretch): PerSort {
  const counts: PerSort = [0, 0, 0, 0];
  for (let i = 0; i < count; i++) counts[sortOf(curves[i], stretch)]++;
  return counts;
}

/** Writes the values of rows of a sort. @param at where their first row is @param from where in `targets` their first place is */
function runEven(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  s: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += EVEN_ROW) values[targets[k]] = evenAt(rows, at, s);
}

function runGentle(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  s: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += GENTLE_ROW) values[targets[k]] = gentleAt(rows, at, s);
}

function runTame(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  s: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += TAME_ROW) values[targets[k]] = tameAt(rows, at, s);
}

function runHard(
  rows: Float64Array,
  at: number,
  targets: Int32Array,
  from: number,
  count: number,
  s: number,
  rest: number,
  values: Float64Array,
): void {
  for (let k = from, end = from + count; k < end; k++, at += HARD_ROW) values[targets[k]] = hardAt(rows, at, s, rest);
}
