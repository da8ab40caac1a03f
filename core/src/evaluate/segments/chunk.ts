import type { CompiledCurve } from '../../curve/compile.ts';
import type { Stretch } from '../../curve/seek.ts';
import {
  IS_EVEN,
  IS_GENTLE,
  IS_HARD,
  IS_TAME,
  runEven,
  runGentle,
  runHard,
  runTame,
  type Sort,
  sortOf,
  WIDTH,
  writeRow,
} from './rows.ts';

/** So many curves are evaluated and looked after together. */
export const BLOCK = 64;

type PerSort = [even: number, gentle: number, tame: number, hard: number];

/** Stretches of the curves of a block, one sort after another: their rows, and where in the frame's values each writes. */
export class Chunk {
  protected readonly counts: PerSort = [0, 0, 0, 0];
  protected readonly rows: Float64Array;
  protected readonly targets: Int32Array;
  /** Where the rows of each sort begin, and their targets. */
  protected readonly rowsAt: PerSort = [0, 0, 0, 0];
  protected readonly targetsAt: PerSort = [0, 0, 0, 0];

  /** @param rooms for how many of each sort there is room */
  constructor(rooms: Readonly<PerSort>) {
    let width = 0;
    let count = 0;
    for (const sort of SORTS) {
      this.rowsAt[sort] = width;
      this.targetsAt[sort] = count;
      width += rooms[sort] * WIDTH[sort];
      count += rooms[sort];
    }
    this.rows = new Float64Array(width);
    this.targets = new Int32Array(count);
  }

  /** Writes the values of a moment to their places. */
  run(time: number, values: Float64Array): void {
    const { counts, rows, targets, rowsAt, targetsAt } = this;
    if (counts[0] > 0) runEven(rows, rowsAt[0], targets, targetsAt[0], counts[0], time, values);
    if (counts[1] > 0) runGentle(rows, rowsAt[1], targets, targetsAt[1], counts[1], time, values);
    if (counts[2] > 0) runTame(rows, rowsAt[2], targets, targetsAt[2], counts[2], time, values);
    if (counts[3] > 0) runHard(rows, rowsAt[3], targets, targetsAt[3], counts[3], time, values);
  }
}

const SORTS = [IS_EVEN, IS_GENTLE, IS_TAME, IS_HARD] as const;

/** A chunk whose stretches come and go one by one. */
export class Gathering extends Chunk {
  /** Of each curve of the block its sort and its place among those of the sort, and of each place whose it is. */
  readonly #sorts = new Uint8Array(BLOCK).fill(NONE);
  readonly #places = new Uint8Array(BLOCK);
  readonly #whose = new Uint8Array(BLOCK * SORTS.length);

  constructor() {
    super([BLOCK, BLOCK, BLOCK, BLOCK]);
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
    this.targets[this.targetsAt[sort] + place] = target;
    writeRow(this.rows, this.rowsAt[sort] + place * WIDTH[sort], sort, compiled, stretch);
  }

  /** The same stretches in as little room as they take. */
  packed(): Chunk {
    return new Packed(this.counts, this.rows, this.rowsAt, this.targets, this.targetsAt);
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
    targets[this.targetsAt[sort] + place] = targets[this.targetsAt[sort] + last];
    this.#seat(this.#whose[sort * BLOCK + last], sort as Sort, place);
  }

  #seat(curve: number, sort: Sort, place: number): void {
    this.#places[curve] = place;
    this.#whose[sort * BLOCK + place] = curve;
  }
}

/** The sort of a curve that has no stretch yet. */
const NONE = 255;

class Packed extends Chunk {
  constructor(
    counts: Readonly<PerSort>,
    rows: Float64Array,
    rowsAt: Readonly<PerSort>,
    targets: Int32Array,
    targetsAt: Readonly<PerSort>,
  ) {
    super(counts);
    for (const sort of SORTS) {
      const [row, target] = [rowsAt[sort], targetsAt[sort]];
      this.counts[sort] = counts[sort];
      this.rows.set(rows.subarray(row, row + counts[sort] * WIDTH[sort]), this.rowsAt[sort]);
      this.targets.set(targets.subarray(target, target + counts[sort]), this.targetsAt[sort]);
    }
  }
}
