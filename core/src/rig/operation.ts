/** The numbers of a frame that operations read and write. */
export interface FrameNumbers {
  /** Matrices, 16 a node: members first, then the joints of rigs and what helps to place them. */
  readonly world: Float64Array;
  readonly values: Float64Array;
  readonly orientations: Float64Array;
  /** The frame it is of. */
  readonly at: number;
}

/** One piece of working out where things are. Those it reads come before it. */
export interface Operation {
  /** Nodes whose matrices it needs. */
  readonly reads: readonly number[];
  /** Nodes whose matrices it makes, or makes anew. */
  readonly writes: readonly number[];
  run(now: FrameNumbers): void;
  /**
   * One operation that does what several of the kind do, of which this is the first, one after another: its loop has all their numbers side
   * by side, where thousands of operations would each be called, and lie all over memory.
   */
  together?(operations: readonly Operation[]): Operation;
}
