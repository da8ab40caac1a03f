import { multiply } from '../pose/affine.ts';
import type { Moment, Step } from '../rig/step.ts';
import { writeLocal } from './transform.ts';

const local = new Float64Array(16);
local[15] = 1;

/** How the slots of members are laid out. */
export interface Slots {
  readonly base: Int32Array;
  readonly byOrientation: Uint8Array;
  readonly turnAxes: Uint8Array;
  /** The node each is measured from; -1 is the stage. */
  readonly parent: Int32Array;
}

/** Members that follow one another in the cast, each placed in its parent's space. */
export class Members implements Step {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #slots: Slots;
  readonly #first: number;
  readonly #last: number;

  constructor(slots: Slots, first: number, last: number) {
    this.#slots = slots;
    this.#first = first;
    this.#last = last;
    const own = Array.from({ length: last - first + 1 }, (_, i) => first + i);
    this.writes = own;
    this.reads = own.map((slot) => slots.parent[slot]).filter((node) => node >= 0);
  }

  run({ values, orientations, world }: Moment): void {
    const { base, byOrientation, turnAxes, parent } = this.#slots;
    for (let slot = this.#first; slot <= this.#last; slot++) {
      writeLocal(values, base[slot], orientations, slot * 4, byOrientation[slot] === 1, turnAxes, slot * 4, local);
      const at = slot * 16;
      if (parent[slot] >= 0) multiply(world, at, world, parent[slot] * 16, local, 0);
      else for (let i = 0; i < 15; i++) world[at + i] = local[i];
    }
  }
}
