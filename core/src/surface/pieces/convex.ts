/**
 * Convex bodies as flat faces, and cutting them by planes: what is left is convex again, so that nothing can go wrong that goes wrong with
 * cutting anything else. Exact but for rounding: both sides of a cut are cut by the very same plane.
 */

export type Point = readonly [x: number, y: number, z: number];

/** A flat face: its corners in order, seen from outside against the clock, three numbers each, and the normal of each corner to shade by. */
export interface Face {
  readonly corners: readonly number[];
  readonly normals: readonly number[];
  /** Outside is what was seen of the whole; a seam is between two bodies that are one; a cut is where it was broken. */
  readonly is: 'outside' | 'seam' | 'cut';
}

export interface Convex {
  readonly faces: readonly Face[];
}

/** Points `p` with `n · p = d`; of a cut the side with less is kept. */
export interface Plane {
  readonly n: Point;
  readonly d: number;
}

/** What lies behind a plane; null where nothing does. The same object where all of it does. @param is what the new face is */
export function cut(body: Convex, { n, d }: Plane, is: 'outside' | 'cut' = 'cut'): Convex | null {
  const side = (c: readonly number[], at: number) => n[0] * c[at] + n[1] * c[at + 1] + n[2] * c[at + 2] - d;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { corners } of body.faces)
    for (let i = 0; i < corners.length; i += 3) {
      const s = side(corners, i);
      if (s < low) low = s;
      if (s > high) high = s;
    }
  if (high <= 0) return body;
  if (low >= 0) return null;
  const faces: Face[] = [];
  const rim: number[] = [];
  for (const face of body.faces) {
    const left = cutFace(face, side, rim);
    if (left) faces.push(left);
  }
  const lid = lidOf(rim, n, is);
  return lid ? { faces: [...faces, lid] } : { faces };
}

/** What of a face lies behind a plane; the points on the plane are added to the rim (Sutherland & Hodgman, CACM 17, 1974). */
function cutFace(face: Face, side: (c: readonly number[], at: number) => number, rim: number[]): Face | null {
  const { corners, normals } = face;
  const out: number[] = [];
  const shades: number[] = [];
  for (let i = 0; i < corners.length; i += 3) {
    const j = (i + 3) % corners.length;
    const [a, b] = [side(corners, i), side(corners, j)];
    if (a <= 0) {
      out.push(corners[i], corners[i + 1], corners[i + 2]);
      shades.push(normals[i], normals[i + 1], normals[i + 2]);
    }
    if (a < 0 === b < 0 || a === 0 || b === 0) {
      if (a === 0) rim.push(corners[i], corners[i + 1], corners[i + 2]);
      continue;
    }
    // From the same end whichever way the edge is gone along, so that both faces at it get the very same point.
    const [from, to] = before(corners, i, j) ? [i, j] : [j, i];
    const [s, t] = from === i ? [a, b] : [b, a];
    const share = s / (s - t);
    for (let c = 0; c < 3; c++) {
      const at = corners[from + c] + (corners[to + c] - corners[from + c]) * share;
      out.push(at);
      rim.push(at);
      shades.push(normals[from + c] + (normals[to + c] - normals[from + c]) * share);
    }
  }
  return out.length >= 9 ? { ...face, corners: out, normals: shades } : null;
}

function before(c: readonly number[], i: number, j: number): boolean {
  for (let k = 0; k < 3; k++) if (c[i + k] !== c[j + k]) return c[i + k] < c[j + k];
  return true;
}

/** Points nearer together than this are one, metres. */
const ONE = 1e-9;

/** The face that closes a cut: its points in order round their middle. */
function lidOf(rim: readonly number[], n: Point, is: Face['is']): Face | null {
  const points: Point[] = [];
  for (let i = 0; i < rim.length; i += 3) {
    const p: Point = [rim[i], rim[i + 1], rim[i + 2]];
    if (!points.some((q) => Math.abs(p[0] - q[0]) + Math.abs(p[1] - q[1]) + Math.abs(p[2] - q[2]) < ONE))
      points.push(p);
  }
  if (points.length < 3) return null;
  const middle = [0, 1, 2].map((c) => points.reduce((s, p) => s + p[c], 0) / points.length);
  const [u, v] = across(n);
  const angle = (p: Point) => {
    const q = p.map((x, c) => x - middle[c]);
    return Math.atan2(q[0] * v[0] + q[1] * v[1] + q[2] * v[2], q[0] * u[0] + q[1] * u[1] + q[2] * u[2]);
  };
  const corners = points.sort((a, b) => angle(a) - angle(b)).flat();
  return { corners, normals: points.flatMap(() => [...n]), is };
}

/** Two directions square to one another and to a third, so that u, v and n are right-handed. */
function across(n: Point): [Point, Point] {
  const axis: Point = Math.abs(n[0]) < 0.6 ? [1, 0, 0] : [0, 1, 0];
  const u = cross(axis, n);
  const length = Math.hypot(...u);
  const unit: Point = [u[0] / length, u[1] / length, u[2] / length];
  return [unit, cross(n, unit)];
}

export const cross = (a: Point, b: Point): Point => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The volume of bodies, and where their middle is. */
export function massOf(bodies: readonly Convex[]): { volume: number; middle: Point } {
  let volume = 0;
  const sum = [0, 0, 0];
  for (const { faces } of bodies)
    for (const { corners: c } of faces)
      for (let i = 3; i + 5 < c.length; i += 3) {
        const [a, b, e] = [0, i, i + 3].map((k): Point => [c[k], c[k + 1], c[k + 2]]);
        const x = cross(b, e);
        const six = a[0] * x[0] + a[1] * x[1] + a[2] * x[2];
        volume += six / 6;
        for (let k = 0; k < 3; k++) sum[k] += (six / 24) * (a[k] + b[k] + e[k]);
      }
  return { volume, middle: [sum[0] / volume, sum[1] / volume, sum[2] / volume] };
}

/** Square to a face, twice as long as the face is large: right also where some corners lie in one line (Newell's method). */
export function squareTo({ corners: c }: Pick<Face, 'corners'>): Point {
  const n = [0, 0, 0];
  for (let i = 0; i < c.length; i += 3) {
    const j = (i + 3) % c.length;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [(k + 1) % 3, (k + 2) % 3];
      n[k] += (c[i + a] - c[0 + a]) * (c[j + b] - c[0 + b]) - (c[i + b] - c[0 + b]) * (c[j + a] - c[0 + a]);
    }
  }
  return [n[0], n[1], n[2]];
}

/** Whether a point lies in a body, or on it. */
export const holds = ({ faces }: Convex, [x, y, z]: Point): boolean =>
  faces.every((face) => {
    const [n, c] = [squareTo(face), face.corners];
    return n[0] * (x - c[0]) + n[1] * (y - c[1]) + n[2] * (z - c[2]) <= 0;
  });
