import { type Mesh, MeshBuilder, type Point3, unit } from './mesh.ts';

/** The faces of a cube: the axis each looks along and its sign. The next two axes in turn run across it. */
const faces = [
  [0, 1],
  [0, -1],
  [1, 1],
  [1, -1],
  [2, 1],
  [2, -1],
] as const;

/**
 * A box about a middle, its edges and corners rounded.
 * @param half half its size each way, metres @param radius of the rounding, at most the smallest half
 * @param segments how many pieces half a rounding is made of
 */
export function roundedBox(half: Point3, radius: number, segments: number, middle: Point3 = [0, 0, 0]): Mesh {
  const mesh = new MeshBuilder();
  const last = 2 * segments + 1;
  // Across a face: round one edge, over the flat, round the other.
  const lines = Array.from({ length: last + 1 }, (_, i) =>
    i <= segments ? { side: -1, lean: i / segments - 1 } : { side: 1, lean: (i - segments - 1) / segments },
  );
  for (const [axis, sign] of faces) {
    const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
    const vertices = lines.map((across) =>
      lines.map((along) => {
        const lean = [0, 0, 0];
        [lean[axis], lean[u], lean[v]] = [sign, across.lean, along.lean];
        const normal = unit(lean[0], lean[1], lean[2]);
        const side = [0, 0, 0];
        [side[axis], side[u], side[v]] = [sign, across.side, along.side];
        const at = side.map((s, c) => middle[c] + s * (half[c] - radius) + normal[c] * radius);
        return mesh.vertex([at[0], at[1], at[2]], normal);
      }),
    );
    for (let i = 0; i < last; i++) {
      for (let j = 0; j < last; j++) {
        const corners = [vertices[i][j], vertices[i + 1][j], vertices[i + 1][j + 1], vertices[i][j + 1]] as const;
        const [a, b, c, d] = corners;
        if (sign > 0) mesh.quad(a, b, c, d);
        else mesh.quad(d, c, b, a);
      }
    }
  }
  return mesh.done();
}
