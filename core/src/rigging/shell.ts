import { MESH_UNIT, type RigMesh } from '../rig/definition.ts';

/**
 * The skin of a body as one surface, whatever meshes it was drawn as: corners at one place are one point, so that what goes along it does not
 * stop where a picture or a shade has its seam.
 */
export interface Shell {
  /** Three numbers a point, metres. */
  readonly positions: Float64Array;
  /** Three points each; none without an area. */
  readonly triangles: Uint32Array;
  /** For each mesh the point of each of its vertices. */
  readonly of: readonly Uint32Array[];
}

/** The shell of some meshes together. Places are whole numbers of their unit, so that being at one place is no matter of tolerance. */
export function shellOf(meshes: readonly Pick<RigMesh, 'positions' | 'triangles'>[]): Shell {
  const points = new Map<string, number>();
  const positions: number[] = [];
  const triangles: number[] = [];
  const of = meshes.map((mesh) => {
    const own = new Uint32Array(mesh.positions.length / 3);
    for (let v = 0; v < own.length; v++) {
      const [x, y, z] = [mesh.positions[v * 3], mesh.positions[v * 3 + 1], mesh.positions[v * 3 + 2]];
      const key = `${x} ${y} ${z}`;
      let point = points.get(key);
      if (point === undefined) {
        point = points.size;
        points.set(key, point);
        positions.push(x * MESH_UNIT, y * MESH_UNIT, z * MESH_UNIT);
      }
      own[v] = point;
    }
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      const [a, b, c] = [own[mesh.triangles[t]], own[mesh.triangles[t + 1]], own[mesh.triangles[t + 2]]];
      if (a !== b && b !== c && c !== a) triangles.push(a, b, c);
    }
    return own;
  });
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles), of };
}

/** For each point which way is out: the mean of its triangles' normals, by their area; of length one, or zero where they cancel. */
export function outwards({ positions, triangles }: Shell): Float64Array {
  const out = new Float64Array(positions.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t] * 3, triangles[t + 1] * 3, triangles[t + 2] * 3];
    const [ux, uy, uz] = [0, 1, 2].map((i) => positions[b + i] - positions[a + i]);
    const [vx, vy, vz] = [0, 1, 2].map((i) => positions[c + i] - positions[a + i]);
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    for (const point of [a, b, c]) for (let i = 0; i < 3; i++) out[point + i] += normal[i];
  }
  for (let p = 0; p < out.length; p += 3) {
    const length = Math.hypot(out[p], out[p + 1], out[p + 2]);
    if (length > 0) for (let i = 0; i < 3; i++) out[p + i] /= length;
  }
  return out;
}
