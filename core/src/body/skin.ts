import type { Frame } from '../evaluate/frame.ts';
import { deformPoints, isAffine, isDeformed, shapeMatrix } from '../evaluate/shape.ts';
import { invert, multiply } from '../pose/affine.ts';
import type { CompiledRig } from '../rig/compiled.ts';
import { MESH_UNIT, type RigMesh, WHOLE_WEIGHT } from '../rig/definition.ts';
import type { PlacedRig } from '../rig/placed.ts';

/** A mesh of a rig as flat arrays: what the graphics card is given, and what is computed with here. */
export interface Skin {
  readonly mesh: RigMesh;
  /** At rest in the rig's space, three numbers a vertex, metres. */
  readonly positions: Float32Array;
  readonly triangles: Uint32Array;
  /** Places among the rig's joints, four a vertex, with weights that sum to one. */
  readonly joints: Uint16Array;
  readonly weights: Float32Array;
  /** For each shape target the offset of every vertex, metres. */
  readonly targets: readonly Float32Array[];
}

const skins = new WeakMap<CompiledRig, readonly Skin[]>();

/** The meshes of a rig, made once. */
export function skinsOf(compiled: CompiledRig): readonly Skin[] {
  const made = skins.get(compiled) ?? compiled.rig.meshes.map((mesh) => skinOf(compiled, mesh));
  skins.set(compiled, made);
  return made;
}

function skinOf(compiled: CompiledRig, mesh: RigMesh): Skin {
  const count = mesh.positions.length / 3;
  const { skin } = mesh;
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  if (skin.kind === 'rigid') {
    const joint = compiled.jointAt.get(skin.joint)!;
    for (let v = 0; v < count; v++) {
      joints[v * 4] = joint;
      weights[v * 4] = 1;
    }
  } else {
    const places = skin.joints.map((id) => compiled.jointAt.get(id)!);
    for (let i = 0; i < count * 4; i++) {
      joints[i] = places[skin.indices[i]];
      weights[i] = skin.weights[i] / WHOLE_WEIGHT;
    }
  }
  const targets = mesh.targets.map((target) => {
    const offsets = new Float32Array(count * 3);
    target.vertices.forEach((v, i) => {
      for (let c = 0; c < 3; c++) offsets[v * 3 + c] += target.offsets[i * 3 + c] * MESH_UNIT;
    });
    return offsets;
  });
  return {
    mesh,
    positions: Float32Array.from(mesh.positions, (p) => p * MESH_UNIT),
    triangles: Uint32Array.from(mesh.triangles),
    joints,
    weights,
    targets,
  };
}

const inverses = new WeakMap<CompiledRig, Float64Array>();

/** What undoes each joint's rest, 16 numbers each. */
export function restInverses(compiled: CompiledRig): Float64Array {
  const known = inverses.get(compiled);
  if (known) return known;
  const made = new Float64Array(compiled.rests.length);
  for (let j = 0; j < made.length; j += 16) invert(made, j, compiled.rests, j);
  inverses.set(compiled, made);
  return made;
}

const shape = new Float64Array(16);
const undone = new Float64Array(16);

/**
 * Writes for each joint the matrix from the rig at rest to the world, the affine deformers of the rig included: what a vertex
 * that hangs on that joint alone goes through. Its own space instead of the world where it is bent point by point.
 */
export function writeSkinMatrices(frame: Frame, placed: PlacedRig, out: Float32Array | Float64Array): void {
  const { compiled, slot, root, joints } = placed;
  const rest = restInverses(compiled);
  const bent = isDeformed(frame, slot);
  if (bent) {
    invert(undone, 0, frame.world, root * 16);
    if (isAffine(frame, slot)) {
      shapeMatrix(frame, slot, shape, root);
      shape[15] = 1;
      multiply(undone, 0, shape, 0, undone, 0);
    }
  }
  for (let j = 0; j < compiled.rig.joints.length; j++) {
    multiply(shape, 0, frame.world, (joints + j) * 16, rest, j * 16);
    if (bent) multiply(shape, 0, undone, 0, shape, 0);
    for (let i = 0; i < 16; i++) out[j * 16 + i] = shape[i];
  }
}

/** Whether a rig is bent point by point, so that its points are made in its own space first. */
export const bendsByPoint = (frame: Frame, slot: number): boolean => isDeformed(frame, slot) && !isAffine(frame, slot);

/**
 * Writes where vertices are: shape targets first, then joints, then what bends the rig as a whole. In the world, or where
 * `bendsByPoint`, in the rig's own space.
 * @param matrices as `writeSkinMatrices` gives them
 * @param out three numbers a vertex of the mesh
 */
export function skinPoints(
  frame: Frame,
  placed: PlacedRig,
  mesh: number,
  matrices: ArrayLike<number>,
  out: Float64Array | Float32Array,
): void {
  const skin = skinsOf(placed.compiled)[mesh];
  const { positions, joints, weights, targets } = skin;
  const amounts = placed.targets[mesh];
  for (let v = 0, p = 0; p < positions.length; v += 4, p += 3) {
    let x = positions[p];
    let y = positions[p + 1];
    let z = positions[p + 2];
    for (let t = 0; t < targets.length; t++) {
      const amount = frame.values[amounts[t]];
      x += targets[t][p] * amount;
      y += targets[t][p + 1] * amount;
      z += targets[t][p + 2] * amount;
    }
    let ox = 0;
    let oy = 0;
    let oz = 0;
    for (let k = 0; k < 4; k++) {
      const w = weights[v + k];
      if (w === 0) continue;
      const m = joints[v + k] * 16;
      ox += w * (matrices[m] * x + matrices[m + 4] * y + matrices[m + 8] * z + matrices[m + 12]);
      oy += w * (matrices[m + 1] * x + matrices[m + 5] * y + matrices[m + 9] * z + matrices[m + 13]);
      oz += w * (matrices[m + 2] * x + matrices[m + 6] * y + matrices[m + 10] * z + matrices[m + 14]);
    }
    out[p] = ox;
    out[p + 1] = oy;
    out[p + 2] = oz;
  }
  if (bendsByPoint(frame, placed.slot)) deformPoints(frame, placed.slot, out);
}
