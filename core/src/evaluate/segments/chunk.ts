import { IS_EVEN, IS_GENTLE, IS_HARD, IS_TAME, WIDTH } from './rows.ts';

/** So many curves are evaluated and looked after together. */
export const BLOCK = 128;

export type PerSort = [even: number, gentle: number, tame: number, hard: number];
export const SORTS = [IS_EVEN, IS_GENTLE, IS_TAME, IS_HARD] as const;

/** Stretches of the curves of a block, one sort after another: their rows, and where in the frame's values each writes. */
export abstract class Chunk {
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
  abstract run(time: number, values: Float64Array): void;
}
