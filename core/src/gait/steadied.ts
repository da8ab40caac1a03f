import { compose, invert, multiply, turnOf } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import type { RotationOrder } from '../pose/rotation-order.ts';

/** What is kept steady of a part: which way it faces, where it is, or both. */
export type Steadied = 'facing' | 'place' | 'both';

/** How a part stands in each frame of a cycle: 16 numbers a frame. */
export interface Motion {
  readonly frames: number;
  readonly world: Float64Array;
  /** The space its channels are measured from. */
  readonly space: Float64Array;
}

const inverse = new Float64Array(16);
const local = new Float64Array(16);
const q = new Float64Array(4);

/**
 * The channels a part must have in each frame so that it moves only by a share of what it does. Its mean place and mean facing over
 * the cycle stay what they are; the way from them is made shorter.
 * @param share of its movement that is left, from 0 to 1
 * @param facing what its mean facing is to become, radians; without it it stays
 * @returns move and turn, six numbers a frame, metres and radians; the turn in the given order
 */
export function steadied(
  motion: Motion,
  share: number,
  what: Steadied,
  order: RotationOrder,
  facing?: Readonly<Angles>,
): Float64Array {
  const { frames, world, space } = motion;
  const angles = new Float64Array(frames * 3);
  const mean = new Float64Array(6);
  let near: Angles = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    turnOf(q, 0, world, f * 16);
    near = quaternionToAngles([q[0], q[1], q[2], q[3]], order, near);
    angles.set(near, f * 3);
    for (let c = 0; c < 3; c++) {
      mean[c] += world[f * 16 + 12 + c] / frames;
      mean[c + 3] += near[c] / frames;
    }
  }
  const out = new Float64Array(frames * 6);
  const wanted = new Float64Array(16);
  near = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    const turn = [0, 1, 2].map((c) => {
      const own = angles[f * 3 + c];
      return what === 'place' ? own : (facing?.[c] ?? mean[c + 3]) + (own - mean[c + 3]) * share;
    }) as Angles;
    const place = [0, 1, 2].map((c) => {
      const own = world[f * 16 + 12 + c];
      return what === 'facing' ? own : mean[c] + (own - mean[c]) * share;
    });
    q.set(anglesToQuaternion(turn, order));
    compose(wanted, 0, q, 0, 1, place[0], place[1], place[2]);
    invert(inverse, 0, space, f * 16);
    multiply(local, 0, inverse, 0, wanted, 0);
    turnOf(q, 0, local, 0);
    near = quaternionToAngles([q[0], q[1], q[2], q[3]], order, near);
    out.set([local[12], local[13], local[14], ...near], f * 6);
  }
  return out;
}
