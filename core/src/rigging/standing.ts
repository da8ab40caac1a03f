import { turnTimes } from '../pose/affine.ts';
import type { Vector } from '../pose/vectors.ts';
import { MESH_UNIT, type RigMesh } from '../rig/definition.ts';
import { Refused } from '../schema/refused.ts';
import type { Build } from './build.ts';

/** How a body is put: all of it goes along, joints and shape targets too. */

/** Turns a body to its left by a quarter, about the middle of the floor: until it faces +Z. */
export const turnedLeft = (build: Build): Build => {
  const turn: [number, number, number, number] = [0, Math.SQRT1_2, 0, Math.SQRT1_2];
  return placed(build, ([x, y, z]) => [z, y, -x || 0], turn);
};

/** Turns a body about the upright by an angle, radians, and moves it then. */
export function turnedBy(build: Build, yaw: number, by: Vector): Build {
  const [c, s] = [Math.cos(yaw), Math.sin(yaw)];
  const map = ([x, y, z]: Vector): Vector => [c * x + s * z + by[0], y + by[1], c * z - s * x + by[2]];
  return placed(build, map, [0, Math.sin(yaw / 2), 0, Math.cos(yaw / 2)]);
}

/** Lays a body that lies on its back up on its feet, by a quarter about x. */
export const turnedUp = (build: Build): Build => {
  const turn: [number, number, number, number] = [-Math.SQRT1_2, 0, 0, Math.SQRT1_2];
  return placed(build, ([x, y, z]) => [x, z, -y || 0], turn);
};

/** The box round a body, metres. */
export function boxOf({ meshes, joints }: Build): { readonly min: Vector; readonly max: Vector } {
  const min = [1, 1, 1].map(() => Number.POSITIVE_INFINITY);
  const max = [1, 1, 1].map(() => Number.NEGATIVE_INFINITY);
  const take = (v: number, c: number) => {
    min[c] = Math.min(min[c], v);
    max[c] = Math.max(max[c], v);
  };
  for (const { positions } of meshes) for (let i = 0; i < positions.length; i++) take(positions[i] * MESH_UNIT, i % 3);
  if (meshes.length === 0) for (const { place } of joints) place.forEach(take);
  const at = (v: number[]): Vector => [v[0], v[1], v[2]];
  return { min: at(min), max: at(max) };
}

/** Stands a body on the floor. */
export function stood(build: Build): Build {
  const { min } = boxOf(build);
  return placed(build, ([x, y, z]) => [x, y - min[1], z]);
}

/** Puts the middle of a body from side to side at nought, where its mirror is. */
export function centred(build: Build): Build {
  const { min, max } = boxOf(build);
  const middle = (min[0] + max[0]) / 2;
  return placed(build, ([x, y, z]) => [x - middle, y, z]);
}

/**
 * Stands a body on the floor, and brings one that stands aside to its middle. What reaches the middle stays where it is: the half of something
 * lies along its mirror there.
 * @returns it, and how far it was from where it is now
 */
export function broughtHome(build: Build): { readonly build: Build; readonly from: Vector } {
  const { min, max } = boxOf(build);
  const off = (c: 0 | 2) => (min[c] <= MIRROR && max[c] >= -MIRROR ? 0 : round((min[c] + max[c]) / 2));
  const from: Vector = [off(0), round(min[1]), off(2)];
  return { build: placed(build, ([x, y, z]) => [x - from[0], y - from[1], z - from[2]]), from };
}

/** How far from its mirror something may end that is half of a whole, metres. */
const MIRROR = 2e-3;

/** Sizes a body to a height, from the floor. @throws Refused where it would be too large to tell or too small to see */
export function sized(build: Build, height: number): Build {
  const { min, max } = boxOf(build);
  const by = height / (max[1] - min[1]);
  if (!Number.isFinite(by) || by <= 0)
    throw new Refused('A height is a number above 0, and of something that has one.');
  const largest = by * Math.max(...min.map(Math.abs), ...max.map(Math.abs));
  if (largest > 1_000 || largest < 0.005)
    throw new Refused(
      `It would be ${largest < 1 ? 'under a centimetre' : 'over a kilometre'} large: choose another height.`,
    );
  return placed(build, ([x, y, z]) => [x * by, y * by, z * by]);
}

/** Moves, turns or sizes all of a build alike. @param turn what joints are turned by, where they are */
function placed(build: Build, map: (at: Vector) => Vector, turn: readonly number[] = [0, 0, 0, 1]): Build {
  const [ox, oy, oz] = map([0, 0, 0]);
  const numbers = (list: readonly number[], offset: readonly [number, number, number]) => {
    const out = new Array<number>(list.length);
    for (let i = 0; i < list.length; i += 3) {
      const at = map([list[i] * MESH_UNIT, list[i + 1] * MESH_UNIT, list[i + 2] * MESH_UNIT]);
      for (let c = 0; c < 3; c++) out[i + c] = Math.round((at[c] - offset[c]) / MESH_UNIT) || 0;
    }
    return out;
  };
  const q = new Float64Array(4);
  return {
    ...build,
    joints: build.joints.map((joint) => {
      q.set(joint.turn);
      turnTimes(q, 0, Float64Array.from(turn), 0, q, 0);
      const [x, y, z] = map(joint.place);
      return { ...joint, place: [round(x), round(y), round(z)], turn: [q[0], q[1], q[2], q[3]] };
    }),
    meshes: build.meshes.map(
      (mesh): RigMesh => ({
        ...mesh,
        positions: numbers(mesh.positions, [0, 0, 0]),
        targets: mesh.targets.map((target) => ({ ...target, offsets: numbers(target.offsets, [ox, oy, oz]) })),
      }),
    ),
  };
}

/** To a micrometre, so that what mirrors goes on mirroring. */
const round = (v: number) => Math.round(v * 1e6) / 1e6 || 0;
