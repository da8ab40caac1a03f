import { writeLocal } from '../evaluate/transform.ts';
import { compose, multiply, slerp, turnOf } from '../pose/affine.ts';
import type { Moment, Step } from './step.ts';

/** The steps that place single joints. */

const local = new Float64Array(16);
const turn = new Float64Array(4);
const still = Float64Array.of(0, 0, 0, 1);

/** A node that stands to another as it did at rest: a joint that just hangs on its parent, a copy with an offset. */
export class Follow implements Step {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly from: number;
  readonly offset: Float64Array;
  readonly #to: number;

  constructor(from: number, to: number, offset: Float64Array) {
    this.reads = [from];
    this.writes = [to];
    this.from = from;
    this.offset = offset;
    this.#to = to * 16;
  }

  run({ world }: Moment): void {
    multiply(world, this.#to, world, this.from * 16, this.offset, 0);
  }
}

/** A joint that takes a share of a control's turn upon itself, and so bends a chain along its length. */
export class Share implements Step {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #parent: number;
  readonly #joint: number;
  /** From the parent to the joint's place, square to the rig; and from there to how the joint is turned at rest. */
  readonly #before: Float64Array;
  readonly #after: Float64Array;
  readonly #share: number;
  readonly #values: number;
  readonly #slot: number;
  readonly #axes: Uint8Array;
  readonly #byOrientation: boolean;

  constructor(
    parent: number,
    joint: number,
    before: Float64Array,
    after: Float64Array,
    share: number,
    control: { readonly slot: number; readonly values: number; readonly axes: Uint8Array; readonly turns: boolean },
  ) {
    this.reads = [parent];
    this.writes = [joint];
    this.#parent = parent * 16;
    this.#joint = joint * 16;
    this.#before = before;
    this.#after = after;
    this.#share = share;
    this.#values = control.values;
    this.#slot = control.slot;
    this.#axes = control.axes;
    this.#byOrientation = control.turns;
  }

  run({ world, values, orientations }: Moment): void {
    const slot = this.#slot;
    writeLocal(values, this.#values, orientations, slot * 4, this.#byOrientation, this.#axes, slot * 4, local);
    turnOf(turn, 0, local, 0);
    slerp(turn, 0, still, 0, turn, 0, this.#share);
    compose(local, 0, turn, 0, 1, 0, 0, 0);
    multiply(world, this.#joint, world, this.#parent, this.#before, 0);
    multiply(world, this.#joint, world, this.#joint, local, 0);
    multiply(world, this.#joint, world, this.#joint, this.#after, 0);
  }
}

/** Where a driven joint's nine numbers stand in the values: move, turn and size; -1 where nothing drives one. */
export type DrivenPlaces = Int32Array;
const block = new Float64Array(12);
const angles = Uint8Array.of(2, 0, 1, 0);

/** A joint that dials move, turn (z, then x, then y) and size by formulas. */
export class DrivenJoint implements Step {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #parent: number;
  readonly #joint: number;
  readonly #before: Float64Array;
  readonly #after: Float64Array;
  readonly #places: DrivenPlaces;

  constructor(parent: number, joint: number, before: Float64Array, after: Float64Array, places: DrivenPlaces) {
    this.reads = [parent];
    this.writes = [joint];
    this.#parent = parent * 16;
    this.#joint = joint * 16;
    this.#before = before;
    this.#after = after;
    this.#places = places;
  }

  run({ world, values }: Moment): void {
    for (let i = 0; i < 9; i++) {
      const place = this.#places[i];
      block[i] = place < 0 ? (i < 6 ? 0 : 1) : values[place];
    }
    writeLocal(block, 0, still, 0, false, angles, 0, local);
    multiply(world, this.#joint, world, this.#parent, this.#before, 0);
    multiply(world, this.#joint, world, this.#joint, local, 0);
    multiply(world, this.#joint, world, this.#joint, this.#after, 0);
  }
}
