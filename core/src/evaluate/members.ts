import { multiply } from '../pose/affine.ts';
import { placeTurned, writeLocal } from '../pose/transform.ts';
import type { Moment, Step } from '../rig/step.ts';

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

/** Members, each placed in its parent's space, in an order in which parents come first. */
export class Members implements Step {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #of: Slots;
  readonly #slots: Int32Array;

  constructor(of: Slots, slots: readonly number[]) {
    this.#of = of;
    this.#slots = Int32Array.from(slots);
    this.writes = slots;
    this.reads = slots.map((slot) => of.parent[slot]).filter((node) => node >= 0);
  }

  together(steps: readonly Step[]): Step {
    return new Members(
      this.#of,
      steps.flatMap((step) => step.writes),
    );
  }

  run({ values, orientations, world }: Moment): void {
    const { base, byOrientation, turnAxes, parent } = this.#of;
    const slots = this.#slots;
    for (let s = 0; s < slots.length; s++) {
      const slot = slots[s];
      const at = slot * 16;
      const byAngles = byOrientation[slot] === 0;
      if (byAngles && placeTurned(values, base[slot], turnAxes, slot * 4, world, at, parent[slot] * 16)) continue;
      writeLocal(values, base[slot], orientations, slot * 4, !byAngles, turnAxes, slot * 4, local);
      if (parent[slot] >= 0) multiply(world, at, world, parent[slot] * 16, local, 0);
      else for (let i = 0; i < 15; i++) world[at + i] = local[i];
    }
  }
}
