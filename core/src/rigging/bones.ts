import { apart, direction, minus, plus, times, type Vector } from '../pose/vectors.ts';
import type { RigJoint } from '../rig/definition.ts';
import type { TriangleTree } from './triangle-tree.ts';

/** What of a joint a body hangs on: the straight way to each joint it carries, or on into the body where it carries none. */
export interface Bone {
  /** The joint's place in the list. */
  readonly joint: number;
  readonly from: Vector;
  readonly to: Vector;
}

/** How much of the body before it a last joint's bone takes, so that a hand is the hand's and not the forearm's. */
const ON = 0.85;
/** How long it is where no body says it, as a share of the bone before. */
const STUB = 0.4;

/** The bones of joints that stand in a body. */
export function bonesOf(joints: readonly Pick<RigJoint, 'id' | 'parent' | 'place'>[], tree: TriangleTree): Bone[] {
  const at = new Map(joints.map((joint, j) => [joint.id, j]));
  const carried = joints.map((): number[] => []);
  joints.forEach(({ parent }, j) => {
    if (parent !== null) carried[at.get(parent)!].push(j);
  });
  return joints.flatMap((joint, j): Bone[] => {
    const from = joint.place;
    if (carried[j].length > 0) return carried[j].map((child) => ({ joint: j, from, to: joints[child].place }));
    return [
      { joint: j, from, to: joint.parent === null ? from : onFrom(joints[at.get(joint.parent)!].place, from, tree) },
    ];
  });
}

/** Where the bone of a last joint ends: on from the joint before, shortly before it would leave the body. */
function onFrom(before: Vector, at: Vector, tree: TriangleTree): Vector {
  const long = apart(before, at);
  if (long < 1e-6) return at;
  const way = direction(minus(at, before), [0, 1, 0]);
  tree.hits(...at, ...way);
  let leaves = Number.POSITIVE_INFINITY;
  tree.at.forEach((t, i) => {
    if (tree.sign[i] > 0 && t < leaves) leaves = t;
  });
  return plus(at, times(way, Number.isFinite(leaves) && leaves < 3 * long ? leaves * ON : long * STUB));
}

/** How far along a bone, from 0 to 1, the place nearest to another is. */
export function nearestOn({ from, to }: Bone, x: number, y: number, z: number): number {
  const [dx, dy, dz] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const long = dx * dx + dy * dy + dz * dz;
  if (long < 1e-18) return 0;
  return Math.min(1, Math.max(0, ((x - from[0]) * dx + (y - from[1]) * dy + (z - from[2]) * dz) / long));
}
