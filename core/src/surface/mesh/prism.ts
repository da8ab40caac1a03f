import earcut from 'earcut';
import { type Mesh, MeshBuilder } from './mesh.ts';

/**
 * An outline in x and y drawn out along z, its middle at 0, with flat sides and two lids.
 * @param outline counter-clockwise, seen from +Z; it may be hollow, not crossed
 */
export function prism(outline: readonly (readonly [x: number, y: number])[], depth: number): Mesh {
  const mesh = new MeshBuilder();
  const half = depth / 2;
  const lid = earcut(outline.flat());
  for (const z of [half, -half]) {
    const first = outline.map(([x, y]) => mesh.vertex([x, y, z], [0, 0, Math.sign(z)]))[0];
    for (let t = 0; t < lid.length; t += 3) {
      const [a, b, c] = [first + lid[t], first + lid[t + 1], first + lid[t + 2]];
      const ahead = turns(outline[lid[t]], outline[lid[t + 1]], outline[lid[t + 2]]) > 0;
      if (ahead === z > 0) mesh.triangle(a, b, c);
      else mesh.triangle(a, c, b);
    }
  }
  outline.forEach(([x0, y0], i) => {
    const [x1, y1] = outline[(i + 1) % outline.length];
    const length = Math.hypot(x1 - x0, y1 - y0) || 1;
    const normal = [(y1 - y0) / length, (x0 - x1) / length, 0] as const;
    const corners = [
      [x0, y0, half],
      [x0, y0, -half],
      [x1, y1, -half],
      [x1, y1, half],
    ] as const;
    const [a, b, c, d] = corners.map((at) => mesh.vertex(at, normal));
    mesh.quad(a, b, c, d);
  });
  return mesh.done();
}

/** Twice the area three points go round, positive counter-clockwise. */
const turns = (
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  [cx, cy]: readonly [number, number],
): number => (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
