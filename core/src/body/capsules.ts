import type { Frame } from '../evaluate/frame.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { jointOutlines } from './extent.ts';

/** What a joint's body fills for certain: all that is near a line, in the joint's own space. Metres. */
export interface JointCapsule {
  /** Which joint of the rig, counted from 0. */
  readonly joint: number;
  readonly from: readonly [number, number, number];
  readonly to: readonly [number, number, number];
  readonly radius: number;
}

/** Thinner than this is a strap or a brim: nothing goes deep into it. */
const THINNEST = 0.02;

const known = new WeakMap<CompiledRig, readonly JointCapsule[]>();

/**
 * A capsule for each joint: along the longest side of its outline, as thick as its thinnest one, so that what is in it is in the body. Of a slice, which
 * is thinnest along the bone because the body goes on there (a spine has many), the next thinnest side counts.
 */
export function jointCapsules(compiled: CompiledRig): readonly JointCapsule[] {
  const there = known.get(compiled);
  if (there) return there;
  const made = jointOutlines(compiled).flatMap((points, joint): JointCapsule[] => {
    if (points.length < 12) return [];
    const low = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
    const high = low.map((v) => -v);
    points.forEach((v, i) => {
      low[i % 3] = Math.min(low[i % 3], v);
      high[i % 3] = Math.max(high[i % 3], v);
    });
    const sides = high.map((v, i) => v - low[i]);
    const along = boneAxis(compiled, joint);
    const thick = sides.map((side, i) => (i === along ? Number.POSITIVE_INFINITY : side));
    const radius = Math.min(...(along !== null && sides[along] === Math.min(...sides) ? thick : sides)) / 2;
    if (radius < THINNEST / 2) return [];
    const long = sides.indexOf(Math.max(...sides));
    const half = Math.max(0, sides[long] / 2 - radius);
    const end = (by: number): [number, number, number] => {
      const middle = high.map((v, i) => (v + low[i]) / 2);
      middle[long] += by * half;
      return [middle[0], middle[1], middle[2]];
    };
    return [{ joint, from: end(-1), to: end(1), radius }];
  });
  known.set(compiled, made);
  return made;
}

/** The axis of its own space along which a joint's first child lies; null where it has none. */
function boneAxis({ rig, rests, jointAt }: CompiledRig, joint: number): 0 | 1 | 2 | null {
  const child = rig.joints.find((j) => j.parent === rig.joints[joint].id);
  if (!child) return null;
  const [own, to] = [joint * 16, jointAt.get(child.id)! * 16 + 12];
  const d = [0, 1, 2].map((r) => rests[to + r] - rests[own + 12 + r]);
  const parts = ([0, 1, 2] as const).map((a) =>
    Math.abs(d[0] * rests[own + a * 4] + d[1] * rests[own + a * 4 + 1] + d[2] * rests[own + a * 4 + 2]),
  );
  return ([0, 1, 2] as const).reduce<0 | 1 | 2>((best, a) => (parts[a] > parts[best] ? a : best), 0);
}

/** The capsules of a rig as they stand at a moment, in the world. */
export class StandingCapsules {
  readonly #placed: PlacedRig;
  readonly #capsules: readonly JointCapsule[];
  /** Of each: where it begins, the way to its end, the square of its length, its radius. */
  readonly #numbers: Float64Array;
  /** The box around all of them. */
  readonly #box = new Float64Array(6);

  constructor(placed: PlacedRig) {
    this.#placed = placed;
    this.#capsules = jointCapsules(placed.compiled);
    this.#numbers = new Float64Array(this.#capsules.length * 8);
  }

  /** Brings them to where the rig is in a frame. */
  stand({ world }: Pick<Frame, 'world'>): void {
    const [n, box] = [this.#numbers, this.#box];
    box.fill(Number.POSITIVE_INFINITY, 0, 3);
    box.fill(Number.NEGATIVE_INFINITY, 3, 6);
    for (let c = 0; c < this.#capsules.length; c++) {
      const { joint, from, to, radius } = this.#capsules[c];
      const at = (this.#placed.joints + joint) * 16;
      const k = c * 8;
      n[k + 6] = 0;
      n[k + 7] = radius * smallest(world, at);
      for (let r = 0; r < 3; r++) {
        const begins = world[at + r] * from[0] + world[at + 4 + r] * from[1] + world[at + 8 + r] * from[2];
        const ends = world[at + r] * to[0] + world[at + 4 + r] * to[1] + world[at + 8 + r] * to[2];
        n[k + r] = begins + world[at + 12 + r];
        n[k + 3 + r] = ends - begins;
        n[k + 6] += (ends - begins) ** 2;
        box[r] = Math.min(box[r], n[k + r] + Math.min(0, ends - begins) - n[k + 7]);
        box[3 + r] = Math.max(box[3 + r], n[k + r] + Math.max(0, ends - begins) + n[k + 7]);
      }
    }
  }

  /** How deep a place of the world is in any of them, metres; below nothing where it is outside of all. */
  depth(x: number, y: number, z: number): number {
    const [n, box] = [this.#numbers, this.#box];
    const outside = x < box[0] || y < box[1] || z < box[2] || x > box[3] || y > box[4] || z > box[5];
    let deepest = Number.NEGATIVE_INFINITY;
    if (outside) return deepest;
    for (let k = 0; k < n.length; k += 8) {
      const px = x - n[k];
      const py = y - n[k + 1];
      const pz = z - n[k + 2];
      const along = n[k + 6] > 0 ? (px * n[k + 3] + py * n[k + 4] + pz * n[k + 5]) / n[k + 6] : 0;
      const share = along < 0 ? 0 : along > 1 ? 1 : along;
      const qx = px - share * n[k + 3];
      const qy = py - share * n[k + 4];
      const qz = pz - share * n[k + 5];
      const depth = n[k + 7] - Math.sqrt(qx * qx + qy * qy + qz * qz);
      if (depth > deepest) deepest = depth;
    }
    return deepest;
  }
}

/** The smallest of the three sizes of a matrix. */
const smallest = (m: Float64Array, at: number): number =>
  Math.sqrt(
    Math.min(
      m[at] ** 2 + m[at + 1] ** 2 + m[at + 2] ** 2,
      m[at + 4] ** 2 + m[at + 5] ** 2 + m[at + 6] ** 2,
      m[at + 8] ** 2 + m[at + 9] ** 2 + m[at + 10] ** 2,
    ),
  );
