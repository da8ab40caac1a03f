import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { transformPoint } from '../pose/affine.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import { MESH_UNIT, WHOLE_WEIGHT } from '../rig/definition.ts';
import type { PlacedRig } from '../rig/placed.ts';
import { jointOutlines } from './extent.ts';
import { isHeld } from './posing.ts';
import { restInverses } from './skin.ts';

/** How heavy each joint's part of the body is (its volume, m³) and where its middle is, in the joint's own space. */
export interface Masses {
  readonly mass: Float64Array;
  readonly middle: Float64Array;
}

const known = new WeakMap<CompiledRig, Masses>();

/**
 * The masses of a rig's joints, from the volume of its meshes at one density: each triangle stands for the tetrahedron between it
 * and the middle of its mesh (Mirtich 1996), given to the joints by the weights of its corners. The volume of a mesh is exact; how
 * a soft one is shared among its joints is as near as its form is to a star's.
 */
export function massesOf(compiled: CompiledRig): Masses {
  const there = known.get(compiled);
  if (there) return there;
  const { rig, jointAt } = compiled;
  const mass = new Float64Array(rig.joints.length);
  const middle = new Float64Array(rig.joints.length * 3);
  for (const { positions, triangles, skin } of rig.meshes) {
    const own = [0, 0, 0];
    for (let i = 0; i < positions.length; i++) own[i % 3] += (positions[i] * MESH_UNIT * 3) / positions.length;
    const at = (v: number, c: number) => positions[v * 3 + c] * MESH_UNIT - own[c];
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
      const volume =
        (at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) -
          at(a, 1) * (at(b, 0) * at(c, 2) - at(b, 2) * at(c, 0)) +
          at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0))) /
        6;
      for (const v of [a, b, c]) {
        for (let k = 0; k < 4; k++) {
          const id = skin.kind === 'rigid' ? skin.joint : skin.joints[skin.indices[v * 4 + k]];
          const share = skin.kind === 'rigid' ? (k === 0 ? 1 : 0) : skin.weights[v * 4 + k] / WHOLE_WEIGHT;
          if (share === 0) continue;
          const j = jointAt.get(id)!;
          const part = (volume * share) / 3;
          mass[j] += part;
          // The middle of a tetrahedron is a quarter of the sum of its corners.
          for (let r = 0; r < 3; r++) middle[j * 3 + r] += part * (own[r] + (at(a, r) + at(b, r) + at(c, r)) / 4);
        }
      }
    }
  }
  const inverse = restInverses(compiled);
  for (let j = 0; j < mass.length; j++) {
    if (mass[j] <= 0) continue;
    const [x, y, z] = [0, 1, 2].map((r) => middle[j * 3 + r] / mass[j]);
    transformPoint(middle, j * 3, inverse, j * 16, x, y, z);
  }
  const made = { mass, middle };
  known.set(compiled, made);
  return made;
}

const point = new Float64Array(3);

/** Writes where the centre of mass of a rig is in the world. @returns false for a rig without a body */
export function writeCentre(frame: Frame, placed: PlacedRig, out: Float64Array, at = 0): boolean {
  const { mass, middle } = massesOf(placed.compiled);
  let sum = 0;
  out[at] = 0;
  out[at + 1] = 0;
  out[at + 2] = 0;
  for (let j = 0; j < mass.length; j++) {
    if (mass[j] <= 0) continue;
    const m = (placed.joints + j) * 16;
    transformPoint(point, 0, frame.world, m, middle[j * 3], middle[j * 3 + 1], middle[j * 3 + 2]);
    for (let c = 0; c < 3; c++) out[at + c] += point[c] * mass[j];
    sum += mass[j];
  }
  if (sum <= 0) return false;
  for (let c = 0; c < 3; c++) out[at + c] /= sum;
  return true;
}

/** How high above the floor a part may be and still stand on it, metres. */
const STANDING = 0.012;

/**
 * The corners of the area a rig stands on, seen from above: `[x, z]`, counter-clockwise. It stands on parts that touch the floor
 * of the stage and on planted ones wherever they are. Empty where it stands on nothing.
 */
export function supportArea(shot: Shot, frame: Frame, placed: PlacedRig): [number, number][] {
  const { compiled, controls, joints } = placed;
  const outlines = jointOutlines(compiled);
  const points: [number, number][] = [];
  compiled.rig.controls.forEach((control, c) => {
    if (control.stands.length === 0) return;
    const planted = isHeld(shot.members.at(frame.layout.ids[controls[c]]), frame.at);
    const own: [number, number, number][] = [];
    for (const id of control.stands) {
      const j = compiled.jointAt.get(id)!;
      const outline = outlines[j];
      for (let p = 0; p < outline.length; p += 3) {
        transformPoint(point, 0, frame.world, (joints + j) * 16, outline[p], outline[p + 1], outline[p + 2]);
        own.push([point[0], point[1], point[2]]);
      }
    }
    const lowest = Math.min(...own.map((p) => p[1]));
    if (!planted && lowest > STANDING) return;
    for (const [x, y, z] of own) if (y <= lowest + STANDING) points.push([x, z]);
  });
  return hull(points);
}

/** The convex hull of points, counter-clockwise with z to the right of x turned about (Andrew 1979). */
export function hull(points: readonly (readonly [number, number])[]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  if (sorted.length < 3) return sorted.map(([x, z]) => [x, z]);
  const turn = (o: readonly number[], a: readonly number[], b: readonly number[]) =>
    (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
  const half = (list: readonly (readonly [number, number])[]) => {
    const out: [number, number][] = [];
    for (const [x, z] of list) {
      while (out.length >= 2 && turn(out[out.length - 2], out[out.length - 1], [x, z]) <= 0) out.pop();
      out.push([x, z]);
    }
    out.pop();
    return out;
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}

/** How far a place is outside an area, metres; below zero it is that far inside. */
export function outsideBy(area: readonly (readonly [number, number])[], x: number, z: number): number {
  if (area.length === 0) return Number.POSITIVE_INFINITY;
  let nearest = Number.POSITIVE_INFINITY;
  let inside = area.length > 2;
  for (let i = 0; i < area.length; i++) {
    const [ax, az] = area[i];
    const [bx, bz] = area[(i + 1) % area.length];
    const [dx, dz] = [bx - ax, bz - az];
    const length = dx * dx + dz * dz;
    const t = length > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (z - az) * dz) / length)) : 0;
    nearest = Math.min(nearest, Math.hypot(x - ax - dx * t, z - az - dz * t));
    if (dx * (z - az) - dz * (x - ax) < 0) inside = false;
  }
  return inside ? -nearest : nearest;
}
