import { compose, isMove, multiply, multiplyMove, scaleOf, slerp, turnOf } from '../pose/affine.ts';
import { writeLocal } from '../pose/transform.ts';
import type { FrameNumbers, Operation } from './operation.ts';

/** The steps that place single joints. */

const local = new Float64Array(16);
const turn = new Float64Array(4);
const other = new Float64Array(4);
const still = Float64Array.of(0, 0, 0, 1);

/** A node that stands to another as it did at rest: a joint that just hangs on its parent, a copy with an offset. */
export class Follow implements Operation {
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

  run({ world }: FrameNumbers): void {
    multiply(world, this.#to, world, this.from * 16, this.offset, 0);
  }

  together(steps: readonly Follow[]): Operation {
    return new Follows(steps);
  }
}

/** Many of them, one after another. */
class Follows implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #from: Int32Array;
  readonly #to: Int32Array;
  readonly #offsets: Offsets;

  constructor(steps: readonly Follow[]) {
    this.reads = steps.flatMap((step) => step.reads);
    this.writes = steps.flatMap((step) => step.writes);
    this.#from = Int32Array.from(this.reads, (node) => node * 16);
    this.#to = Int32Array.from(this.writes, (node) => node * 16);
    this.#offsets = new Offsets(steps.map((step) => step.offset));
  }

  run({ world }: FrameNumbers): void {
    const from = this.#from;
    const to = this.#to;
    for (let i = 0; i < from.length; i++) this.#offsets.place(world, to[i], from[i], i);
  }
}

/** How nodes stand to others; nearly always they are only moved, and that is all that is kept then. */
class Offsets {
  readonly #moves: Float64Array;
  readonly #matrices: readonly (Float64Array | null)[] | null;

  constructor(matrices: readonly Float64Array[]) {
    this.#moves = Float64Array.from(matrices.flatMap((m) => [m[12], m[13], m[14]]));
    this.#matrices = matrices.every(isMove) ? null : matrices.map((m) => (isMove(m) ? null : m));
  }

  /** Places one of them: `world[to] = world[from] · offset`. */
  place(world: Float64Array, to: number, from: number, i: number): void {
    const matrix = this.#matrices?.[i];
    const moves = this.#moves;
    if (matrix) multiply(world, to, world, from, matrix, 0);
    else multiplyMove(world, to, world, from, moves[i * 3], moves[i * 3 + 1], moves[i * 3 + 2]);
  }
}

/** Toes: they go with the sole of a foot that is reached with, and with the joint before them where it is turned by hand. */
export class Toes implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #sole: number;
  readonly #soleOffset: Float64Array;
  readonly #parent: number;
  readonly #parentOffset: Float64Array;
  readonly #node: number;
  /** The place of the limb's `reach` in the values; -1 for a foot without a limb. */
  readonly #reach: number;

  constructor(
    sole: number,
    soleOffset: Float64Array,
    parent: number,
    parentOffset: Float64Array,
    node: number,
    reach: number,
  ) {
    this.reads = [sole, parent];
    this.writes = [node];
    this.#sole = sole * 16;
    this.#soleOffset = soleOffset;
    this.#parent = parent * 16;
    this.#parentOffset = parentOffset;
    this.#node = node * 16;
    this.#reach = reach;
  }

  run({ world, values }: FrameNumbers): void {
    const share = this.#reach < 0 ? 1 : Math.min(1, Math.max(0, values[this.#reach]));
    const node = this.#node;
    if (share > 0) multiply(world, node, world, this.#sole, this.#soleOffset, 0);
    if (share === 1) return;
    multiply(local, 0, world, this.#parent, this.#parentOffset, 0);
    if (share === 0) {
      for (let i = 0; i < 16; i++) world[node + i] = local[i];
      return;
    }
    turnOf(turn, 0, local, 0);
    turnOf(other, 0, world, node);
    slerp(turn, 0, turn, 0, other, 0, share);
    compose(world, node, turn, 0, scaleOf(local, 0), local[12], local[13], local[14]);
  }
}

/** A joint that takes a share of a control's turn upon itself, and so bends a chain along its length. */
export class Share implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #parent: number;
  readonly #joint: number;
  /** From the parent to the joint's place, square to the rig; and from there to how the joint is turned at rest, if it is. */
  readonly #before: Float64Array;
  readonly #after: Float64Array | null;
  readonly #share: number;
  readonly #values: number;
  readonly #slot: number;
  readonly #axes: Uint8Array;
  readonly #byOrientation: boolean;

  constructor(
    parent: number,
    joint: number,
    before: Float64Array,
    after: Float64Array | null,
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

  run({ world, values, orientations }: FrameNumbers): void {
    const slot = this.#slot;
    writeLocal(values, this.#values, orientations, slot * 4, this.#byOrientation, this.#axes, slot * 4, local);
    turnOf(turn, 0, local, 0);
    slerp(turn, 0, still, 0, turn, 0, this.#share);
    compose(local, 0, turn, 0, 1, 0, 0, 0);
    multiply(world, this.#joint, world, this.#parent, this.#before, 0);
    multiply(world, this.#joint, world, this.#joint, local, 0);
    if (this.#after) multiply(world, this.#joint, world, this.#joint, this.#after, 0);
  }
}

const block = new Float64Array(12);
const angles = Uint8Array.of(2, 0, 1, 0);

/** What a driven joint has in common in all rigs of a definition. */
export interface DrivenAtRest {
  /** From the parent to the joint's place, square to the rig; from there to how it is turned at rest; and both in one. */
  readonly before: Float64Array;
  readonly after: Float64Array | null;
  readonly still: Float64Array;
  /** Which of move, turn and size, nine numbers, are driven. */
  readonly which: Uint8Array;
}

/** A joint that dials move, turn (z, then x, then y) and size by formulas. */
export class DrivenJoint implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #parent: number;
  readonly #joint: number;
  readonly rest: DrivenAtRest;
  readonly first: number;

  /** @param first the place of the first of its driven numbers in the values; the others follow it */
  constructor(parent: number, joint: number, rest: DrivenAtRest, first: number) {
    this.reads = [parent];
    this.writes = [joint];
    this.#parent = parent * 16;
    this.#joint = joint * 16;
    this.rest = rest;
    this.first = first;
  }

  run({ world, values }: FrameNumbers): void {
    const { rest, first } = this;
    if (isDriven(values, first, rest.which)) drive(world, this.#joint, this.#parent, values, first, rest);
    else multiply(world, this.#joint, world, this.#parent, rest.still, 0);
  }

  together(steps: readonly DrivenJoint[]): Operation {
    return new DrivenJoints(steps);
  }
}

/** Many of them, one after another. */
class DrivenJoints implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #parents: Int32Array;
  readonly #joints: Int32Array;
  readonly #firsts: Int32Array;
  readonly #rests: readonly DrivenAtRest[];
  readonly #still: Offsets;

  constructor(steps: readonly DrivenJoint[]) {
    this.reads = steps.flatMap((step) => step.reads);
    this.writes = steps.flatMap((step) => step.writes);
    this.#parents = Int32Array.from(this.reads, (node) => node * 16);
    this.#joints = Int32Array.from(this.writes, (node) => node * 16);
    this.#firsts = Int32Array.from(steps, (step) => step.first);
    this.#rests = steps.map((step) => step.rest);
    this.#still = new Offsets(this.#rests.map((rest) => rest.still));
  }

  run({ world, values }: FrameNumbers): void {
    const parents = this.#parents;
    const joints = this.#joints;
    const firsts = this.#firsts;
    const rests = this.#rests;
    for (let i = 0; i < joints.length; i++) {
      if (isDriven(values, firsts[i], rests[i].which)) drive(world, joints[i], parents[i], values, firsts[i], rests[i]);
      else this.#still.place(world, joints[i], parents[i], i);
    }
  }
}

/** Whether a joint's driven numbers are others than at rest. */
function isDriven(values: Float64Array, first: number, which: Uint8Array): boolean {
  for (let i = 0; i < which.length; i++) if (values[first + i] !== (which[i] < 6 ? 0 : 1)) return true;
  return false;
}

/** Places a joint as its driven numbers say. */
function drive(
  world: Float64Array,
  joint: number,
  parent: number,
  values: Float64Array,
  first: number,
  { which, before, after }: DrivenAtRest,
): void {
  for (let i = 0; i < 9; i++) block[i] = i < 6 ? 0 : 1;
  for (let i = 0; i < which.length; i++) block[which[i]] = values[first + i];
  writeLocal(block, 0, still, 0, false, angles, 0, local);
  multiply(world, joint, world, parent, before, 0);
  multiply(world, joint, world, joint, local, 0);
  if (after) multiply(world, joint, world, joint, after, 0);
}
