import { invert, multiply } from '../pose/affine.ts';
import type { FrameNumbers, Operation } from '../rig/operation.ts';

/** The space a member lives in goes with its parent again, or stays on the stage, instead of going with a node. */
export const OWN = -1;
export const STAGE = -2;

interface Turn {
  readonly frame: number;
  readonly node: number;
  /** How the space stands to its carrier: worked out at its frame, or said for the stage. */
  readonly offset: Float64Array;
}

const inverse = new Float64Array(16);

/** The space of a member whose carrier changes over time. */
export class HeldSpace implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #space: number;
  readonly #own: number;
  readonly #offset: Float64Array;
  readonly #turns: readonly Turn[];
  /** How many of its turns are known yet. */
  #known = 0;

  /**
   * @param own the node of its usual carrier, `STAGE` for none; `offset`: how the space stands to that
   * @param turns by frame; nodes, or `OWN`, or `STAGE` with the place there
   */
  constructor(
    space: number,
    own: number,
    offset: Float64Array,
    turns: readonly { readonly frame: number; readonly node: number; readonly at?: Float64Array }[],
  ) {
    this.#space = space;
    this.#own = own;
    this.#offset = offset;
    this.#turns = turns.map(({ frame, node, at }) => ({ frame, node, offset: at ?? new Float64Array(16) }));
    this.reads = [...new Set([own, ...turns.map((t) => t.node)])].filter((node) => node >= 0);
    this.writes = [space];
  }

  get frames(): readonly number[] {
    return this.#turns.map((t) => t.frame);
  }

  /** Forgets what its turns were worked out to. */
  forget(): void {
    this.#known = 0;
  }

  /** Works out the turn at a frame from where everything is just before it. */
  learn({ world, at }: FrameNumbers): void {
    const turn = this.#turns[this.#known];
    if (turn?.frame !== at) return;
    const space = this.#space * 16;
    if (turn.node === STAGE) {
      this.#known++;
      return;
    }
    if (turn.node >= 0) invert(inverse, 0, world, turn.node * 16);
    else {
      this.#usual(world);
      invert(inverse, 0, world, space);
      // The usual space was written over what the member is in: bring that back.
      this.run({ world, at } as FrameNumbers);
    }
    multiply(turn.offset, 0, inverse, 0, world, space);
    this.#known++;
  }

  run({ world, at }: FrameNumbers): void {
    let last = -1;
    for (let t = 0; t < this.#known && this.#turns[t].frame <= at; t++) last = t;
    if (last < 0) {
      this.#usual(world);
      return;
    }
    const { node, offset } = this.#turns[last];
    const space = this.#space * 16;
    if (node >= 0) multiply(world, space, world, node * 16, offset, 0);
    else if (node === STAGE) for (let i = 0; i < 16; i++) world[space + i] = offset[i];
    else {
      this.#usual(world);
      multiply(world, space, world, space, offset, 0);
    }
  }

  #usual(world: Float64Array): void {
    const space = this.#space * 16;
    if (this.#own >= 0) multiply(world, space, world, this.#own * 16, this.#offset, 0);
    else for (let i = 0; i < 16; i++) world[space + i] = this.#offset[i];
  }
}
