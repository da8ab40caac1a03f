/** The numbers of a moment that steps read and write. */
export interface Moment {
  /** Matrices, 16 a node: members first, then the joints of rigs and what helps to place them. */
  readonly world: Float64Array;
  readonly values: Float64Array;
  readonly orientations: Float64Array;
  /** The frame it is of. */
  readonly at: number;
}

/** One piece of working out where things are. Those it reads come before it. */
export interface Step {
  /** Nodes whose matrices it needs. */
  readonly reads: readonly number[];
  /** Nodes whose matrices it makes, or makes anew. */
  readonly writes: readonly number[];
  run(now: Moment): void;
  /**
   * One step that does what several of the kind do, of which this is the first, one after another: its loop has all their numbers side
   * by side, where thousands of steps would each be called, and lie all over memory.
   */
  together?(steps: readonly Step[]): Step;
}
