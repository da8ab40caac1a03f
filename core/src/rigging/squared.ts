import type { Vector } from '../pose/vectors.ts';
import { MESH_UNIT } from '../rig/definition.ts';
import { type Build, carriedBy } from './build.ts';
import { boxOf, turnedBy } from './standing.ts';

/** So many points of a body are looked at, where there are no joints to go by. */
const LOOKED_AT = 160;
const COARSE = (3 * Math.PI) / 180;

/**
 * Puts a body square: its mirror plane in the middle, its face to the front, its feet on the floor. It goes by where joints (or points of the skin)
 * have counterparts on the other side; the front is where the head is, or the toes.
 */
export function squared(build: Build): Build {
  const points = build.joints.length > 2 ? build.joints.map((j) => j.place) : skinPoints(build);
  if (points.length < 3) return build;
  let [best, least] = [0, Number.POSITIVE_INFINITY];
  for (let yaw = 0; yaw < Math.PI; yaw += COARSE) {
    const off = unevenness(points, yaw);
    if (off < least) [best, least] = [yaw, off];
  }
  for (let step = COARSE / 2; step > 1e-5; step /= 2)
    for (const yaw of [best - step, best + step]) {
      const off = unevenness(points, yaw);
      if (off < least) [best, least] = [yaw, off];
    }
  const even = placedAt(build, best);
  return facesBack(even) ? placedAt(build, best + Math.PI) : even;
}

/** Turned by an angle about the upright, with its middle in the middle and its feet on the floor. */
function placedAt(build: Build, yaw: number): Build {
  const points = build.joints.length > 2 ? build.joints.map((j) => j.place) : skinPoints(build);
  const { x, z } = middleOf(points, yaw);
  return turnedBy(build, yaw, [-x, -boxOf(build).min[1], -z]);
}

/** Where the middle of some points is after a turn: from side to side by their mean, from front to back by their ends. */
function middleOf(points: readonly Vector[], yaw: number): { readonly x: number; readonly z: number } {
  const turned = points.map((p) => turn(p, yaw));
  const xs = turned.reduce((sum, p) => sum + p[0], 0) / turned.length;
  const zs = turned.map((p) => p[2]);
  return { x: xs, z: (Math.min(...zs) + Math.max(...zs)) / 2 };
}

const turn = ([x, y, z]: Vector, yaw: number): Vector => {
  const [c, s] = [Math.cos(yaw), Math.sin(yaw)];
  return [c * x + s * z, y, c * z - s * x];
};

/** How far points are from having counterparts, on average, after a turn. Points of one line in the middle have themselves. */
function unevenness(points: readonly Vector[], yaw: number): number {
  const { x: middle } = middleOf(points, yaw);
  const turned = points.map((p) => turn(p, yaw));
  let sum = 0;
  for (const [x, y, z] of turned) {
    let near = Number.POSITIVE_INFINITY;
    for (const other of turned) {
      const far = (x + other[0] - 2 * middle) ** 2 + (y - other[1]) ** 2 + (z - other[2]) ** 2;
      if (far < near) near = far;
    }
    sum += Math.sqrt(near);
  }
  return sum / points.length;
}

/** Whether a body that stands square looks away: its head or its toes are behind. */
function facesBack(build: Build): boolean {
  const { joints } = build;
  const named = (pattern: RegExp) => joints.filter((j) => pattern.test(j.name));
  const mean = (list: readonly { readonly place: Vector }[]) =>
    list.reduce((sum, j) => sum + j.place[2], 0) / Math.max(1, list.length);
  const [heads, hips] = [named(/head|jaw|nose|eye/i), named(/hips?$|pelvis|tail/i)];
  if (heads.length > 0 && hips.length > 0 && Math.abs(mean(heads) - mean(hips)) > 0.05 * sizeOf(build))
    return mean(heads) < mean(hips);
  // Toes are last joints near the floor: they point where it looks.
  const toes = joints.filter(
    (j) => j.parent !== null && carriedBy(build, j.id).length === 0 && j.place[1] < 0.15 * sizeOf(build),
  );
  const ahead = toes.reduce((sum, toe) => sum + toe.place[2] - joints.find((j) => j.id === toe.parent)!.place[2], 0);
  if (toes.length > 1 && Math.abs(ahead) > 0.01 * sizeOf(build)) return ahead < 0;
  const highest = joints.reduce<(typeof joints)[number] | null>(
    (best, j) => (!best || j.place[1] > best.place[1] ? j : best),
    null,
  );
  return highest !== null && highest.place[2] < -0.05 * sizeOf(build);
}

const sizeOf = (build: Build): number => {
  const { min, max } = boxOf(build);
  return Math.max(...max.map((v, i) => v - min[i]), 1e-6);
};

function skinPoints({ meshes }: Build): Vector[] {
  const count = meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
  const every = Math.max(1, Math.floor(count / LOOKED_AT));
  const out: Vector[] = [];
  let n = 0;
  for (const { positions } of meshes)
    for (let v = 0; v < positions.length; v += 3)
      if (n++ % every === 0)
        out.push([positions[v] * MESH_UNIT, positions[v + 1] * MESH_UNIT, positions[v + 2] * MESH_UNIT]);
  return out;
}
