import { multiply } from '../pose/affine.ts';
import { placeTurned, writeLocal } from '../pose/transform.ts';
import type { FrameNumbers, Operation } from '../rig/operation.ts';

const local = new Float64Array(16);
local[15] = 1;

/** How the slots of members are laid out. */
export interface Slots {
  readonly base: Int32Array;
  readonly byOrientation: Uint8Array;
  readonly turnAxes: Uint8Array;
  /** The node each is measured from; -1 is the stage. */
  readonly space: Int32Array;
}

/** Members, each placed in its parent's space, in an order in which parents come first. */
export class Members implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #of: Slots;
  readonly #slots: Int32Array;

  constructor(of: Slots, slots: readonly number[]) {
    this.#of = of;
    this.#slots = Int32Array.from(slots);
    this.writes = slots;
    this.reads = slots.map((slot) => of.space[slot]).filter((node) => node >= 0);
  }

  together(steps: readonly Operation[]): Operation {
    return new Members(
      this.#of,
      steps.flatMap((step) => step.writes),
    );
  }

  run({ values, orientations, world }: FrameNumbers): void {
    const { base, byOrientation, turnAxes, space } = this.#of;
    const slots = this.#slots;
    for (let s = 0; s < slots.length; s++) {
      const slot = slots[s];
      const at = slot * 16;
      const byAngles = byOrientation[slot] === 0;
      if (byAngles && placeTurned(values, base[slot], turnAxes, slot * 4, world, at, space[slot] * 16)) continue;
      writeLocal(values, base[slot], orientations, slot * 4, !byAngles, turnAxes, slot * 4, local);
      if (space[slot] >= 0) multiply(world, at, world, space[slot] * 16, local, 0);
      else for (let i = 0; i < 15; i++) world[at + i] = local[i];
    }
  }
}
