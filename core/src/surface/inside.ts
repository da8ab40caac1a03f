import type { Mesh } from './mesh/index.ts';

/**
 * How deep a place is in a closed mesh: how far the nearest of its triangles is, or below nothing where it is outside. Whether it is inside says the solid
 * angle all triangles take up as seen from there, a whole sphere inside and none outside, which no edge or corner can mislead
 * (A. van Oosterom and J. Strackee, “The solid angle of a plane triangle”, 1983).
 * @returns in the mesh's own unit; minus infinity outside
 */
export function depthInMesh(
  { positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  x: number,
  y: number,
  z: number,
): number {
  let [angle, nearest] = [0, Number.POSITIVE_INFINITY];
  for (let t = 0; t < triangles.length; t += 3) {
    const corner = (k: number, out: Float64Array) => {
      const at = triangles[t + k] * 3;
      out[0] = positions[at] - x;
      out[1] = positions[at + 1] - y;
      out[2] = positions[at + 2] - z;
    };
    corner(0, a);
    corner(1, b);
    corner(2, c);
    angle += solidAngle();
    nearest = Math.min(nearest, distance());
  }
  return Math.abs(angle) > 2 * Math.PI ? nearest : Number.NEGATIVE_INFINITY;
}

/** The triangle in hand, seen from the place that is asked about. */
const [a, b, c] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];

const dot = (p: Float64Array, q: Float64Array) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];

function solidAngle(): number {
  const [la, lb, lc] = [Math.sqrt(dot(a, a)), Math.sqrt(dot(b, b)), Math.sqrt(dot(c, c))];
  const volume =
    a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
  return 2 * Math.atan2(volume, la * lb * lc + dot(a, b) * lc + dot(b, c) * la + dot(c, a) * lb);
}

/** How far the triangle in hand is (after C. Ericson, “Real-Time Collision Detection”, 2005, 5.1.5). */
function distance(): number {
  const ab = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
  const ac = [c[0] - a[0], c[1] - a[1], c[2] - a[2]];
  const along = (p: Float64Array) => [
    -(ab[0] * p[0] + ab[1] * p[1] + ab[2] * p[2]),
    -(ac[0] * p[0] + ac[1] * p[1] + ac[2] * p[2]),
  ];
  const [d1, d2] = along(a);
  const [d3, d4] = along(b);
  const [d5, d6] = along(c);
  const at = (v: number, w: number) =>
    Math.hypot(a[0] + v * ab[0] + w * ac[0], a[1] + v * ab[1] + w * ac[1], a[2] + v * ab[2] + w * ac[2]);
  if (d1 <= 0 && d2 <= 0) return at(0, 0);
  if (d3 >= 0 && d4 <= d3) return at(1, 0);
  if (d6 >= 0 && d5 <= d6) return at(0, 1);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return at(d1 / (d1 - d3), 0);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return at(0, d2 / (d2 - d6));
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    return at(1 - w, w);
  }
  const whole = 1 / (va + vb + vc);
  return at(vb * whole, vc * whole);
}
