import { type Mesh, MeshBuilder, type Point3, unit } from './mesh.ts';

export interface Plank {
  readonly length: number;
  readonly width: number;
  readonly thickness: number;
  readonly bow: number;
  readonly rounding: number;
}

/** How finely a bowed board is bent. */
const BENDS = 16;

/** How high the underside of a board is at a place along it, from the ground. */
export const bowAt = ({ length, bow }: Plank, x: number): number => {
  const out = ((2 * x) / length) ** 2;
  return bow >= 0 ? bow * (1 - out) : -bow * out;
};

/** Where a board is cut into straight pieces along its length. */
export const bendsOf = (plank: Plank): number[] => {
  const count = plank.bow === 0 ? 1 : BENDS;
  return Array.from({ length: count + 1 }, (_, i) => plank.length * (i / count - 0.5));
};

/** The outline of a board's end, its edges taken off, against the clock seen from +X. */
export function endOf({ width, thickness, rounding }: Plank): (readonly [z: number, y: number])[] {
  const [z, r] = [width / 2, Math.min(rounding, width / 2.2, thickness / 2.2)];
  if (r <= 0)
    return [
      [z, 0],
      [-z, 0],
      [-z, thickness],
      [z, thickness],
    ].map(([a, b]) => [a, b] as const);
  return [
    [z, r],
    [z - r, 0],
    [r - z, 0],
    [-z, r],
    [-z, thickness - r],
    [r - z, thickness],
    [z - r, thickness],
    [z, thickness - r],
  ].map(([a, b]) => [a, b] as const);
}

/** A board along X, each of its sides flat. */
export function plankMesh(plank: Plank): Mesh {
  const mesh = new MeshBuilder();
  const end = endOf(plank);
  const stations = bendsOf(plank);
  const at = (x: number, [z, y]: readonly [number, number]): Point3 => [x, y + bowAt(plank, x), z];
  end.forEach((a, i) => {
    const b = end[(i + 1) % end.length];
    for (let s = 0; s + 1 < stations.length; s++) {
      const [x0, x1] = [stations[s], stations[s + 1]];
      const corners = [at(x0, a), at(x0, b), at(x1, b), at(x1, a)];
      const [p, q, r] = corners;
      const [u, v] = [q, r].map((c) => c.map((w, k) => w - p[k]));
      const n = unit(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
      const [c0, c1, c2, c3] = corners.map((c) => mesh.vertex(c, n));
      mesh.quad(c0, c1, c2, c3);
    }
  });
  for (const side of [-1, 1] as const) {
    const x = side > 0 ? stations[stations.length - 1] : stations[0];
    const lid = end.map((p) => mesh.vertex(at(x, p), [side, 0, 0]));
    for (let k = 1; k + 1 < lid.length; k++) {
      if (side > 0) mesh.triangle(lid[0], lid[k], lid[k + 1]);
      else mesh.triangle(lid[0], lid[k + 1], lid[k]);
    }
  }
  return mesh.done();
}
