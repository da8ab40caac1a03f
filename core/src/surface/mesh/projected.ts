import type { Mesh } from './mesh.ts';

/** Which vertices a mesh has that is projected from three sides: each of the old ones once for each side that its triangles look to. */
export interface FromSides {
  /** The old vertex of each new one. */
  readonly from: readonly number[];
  readonly triangles: Uint32Array;
  /** Two numbers a new vertex. */
  readonly places: Float32Array;
}

/**
 * Projects a mesh from three sides: each triangle from the side it looks to most, so that nothing is unwrapped and nothing is stretched by more
 * than the root of three. Where sides meet vertices are there twice.
 * @param middle where the mesh was in the whole it is a piece of
 * @param scale how many metres the picture is wide @param aspect how many times as high as wide it is
 */
export function fromSides(
  positions: ArrayLike<number>,
  triangles: ArrayLike<number>,
  scale: number,
  aspect: number,
  middle: readonly [number, number, number] = [0, 0, 0],
): FromSides {
  const known = new Map<number, number>();
  const from: number[] = [];
  const sides: number[] = [];
  const out = new Uint32Array(triangles.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const side = sideOf(positions, triangles[t], triangles[t + 1], triangles[t + 2]);
    for (let c = 0; c < 3; c++) {
      const v = triangles[t + c];
      const name = v * 6 + side;
      const there = known.get(name) ?? from.length;
      if (there === from.length) {
        known.set(name, there);
        from.push(v);
        sides.push(side);
      }
      out[t + c] = there;
    }
  }
  const places = new Float32Array(from.length * 2);
  from.forEach((v, i) => {
    const { across, acrossSign, down, downSign } = views[sides[i]];
    places[i * 2] = (acrossSign * (positions[v * 3 + across] + middle[across])) / scale;
    places[i * 2 + 1] = (downSign * (positions[v * 3 + down] + middle[down])) / (scale * aspect);
  });
  return { from, triangles: out, places };
}

/** A mesh with places on a picture, projected from three sides. */
export function projected(
  mesh: Mesh,
  scale: number,
  aspect: number,
  middle: readonly [number, number, number] = [0, 0, 0],
): Mesh & { readonly places: Float32Array } {
  const { positions, normals, colours } = mesh;
  const { from, triangles, places } = fromSides(positions, mesh.triangles, scale, aspect, middle);
  const three = (source: Float32Array): Float32Array => {
    const copy = new Float32Array(from.length * 3);
    from.forEach((v, i) => {
      copy.set(source.subarray(v * 3, v * 3 + 3), i * 3);
    });
    return copy;
  };
  return {
    positions: three(positions),
    normals: three(normals),
    triangles,
    places,
    ...(colours ? { colours: three(colours) } : {}),
  };
}

/** How a picture lies seen from each side (+x, -x, +y, -y, +z, -z): what goes to its right, and what goes down it. */
const views = [
  { across: 2, acrossSign: -1, down: 1, downSign: -1 },
  { across: 2, acrossSign: 1, down: 1, downSign: -1 },
  { across: 0, acrossSign: 1, down: 2, downSign: 1 },
  { across: 0, acrossSign: 1, down: 2, downSign: -1 },
  { across: 0, acrossSign: 1, down: 1, downSign: -1 },
  { across: 0, acrossSign: -1, down: 1, downSign: -1 },
] as const;

/** The side a triangle looks to most. */
function sideOf(p: ArrayLike<number>, a: number, b: number, c: number): number {
  const edge = (to: number, axis: number) => p[to * 3 + axis] - p[a * 3 + axis];
  const n = [0, 1, 2].map((k) => {
    const [i, j] = [(k + 1) % 3, (k + 2) % 3];
    return edge(b, i) * edge(c, j) - edge(b, j) * edge(c, i);
  });
  // What looks upwards as much as aside is a floor: of equals the one that comes first here.
  let most = 1;
  for (const axis of [2, 0]) if (Math.abs(n[axis]) > Math.abs(n[most]) * (1 + 1e-6)) most = axis;
  return most * 2 + (n[most] < 0 ? 1 : 0);
}
