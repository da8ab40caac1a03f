import type { StrokePoints } from './points.ts';

/** How wide a pencil is without pressure, as a share of its width with all of it. */
const LEAST = 0.22;

/** The half width of a line at a point, in widths of the picture. */
export const halfWidth = (wide: number, pressure: number): number => (wide / 2) * (LEAST + (1 - LEAST) * pressure);

/**
 * The points of a line with more between them, on the curve through them (Catmull and Rom 1974), so that it is round where the hand was.
 * @param step no two points are farther apart than that
 */
export function smoothPoints(points: StrokePoints, step: number): StrokePoints {
  const count = points.length / 3;
  if (count < 3) return points;
  const out: number[] = [];
  const at = (i: number, part: number) => points[Math.min(count - 1, Math.max(0, i)) * 3 + part];
  for (let i = 0; i + 1 < count; i++) {
    const length = Math.hypot(at(i + 1, 0) - at(i, 0), at(i + 1, 1) - at(i, 1));
    const pieces = Math.max(1, Math.min(64, Math.ceil(length / step)));
    for (let k = 0; k < pieces; k++) {
      const t = k / pieces;
      for (let part = 0; part < 2; part++)
        out.push(through(at(i - 1, part), at(i, part), at(i + 1, part), at(i + 2, part), t));
      out.push(at(i, 2) + (at(i + 1, 2) - at(i, 2)) * t);
    }
  }
  out.push(at(count - 1, 0), at(count - 1, 1), at(count - 1, 2));
  return Float32Array.from(out);
}

function through(a: number, b: number, c: number, d: number, t: number): number {
  return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
}

/**
 * The outline of a line as wide as its pressure says: round one of its sides and back on the other, with round ends. To be filled where it
 * winds round at all (nonzero), so that it may cross itself.
 * @returns `x, y` one after another, in widths of the picture
 */
export function outline(points: StrokePoints, wide: number): Float32Array {
  const count = points.length / 3;
  if (count === 0) return new Float32Array();
  const right: number[] = [];
  const left: number[] = [];
  for (let i = 0; i < count; i++) {
    const [x, y] = [points[i * 3], points[i * 3 + 1]];
    const half = halfWidth(wide, points[i * 3 + 2]);
    const angle = direction(points, i);
    const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
    right.push(x + nx * half, y + ny * half);
    left.push(x - nx * half, y - ny * half);
  }
  const end = cap(points, count - 1, wide, direction(points, count - 1));
  const start = cap(points, 0, wide, direction(points, 0) + Math.PI);
  const back: number[] = [];
  for (let i = count - 1; i >= 0; i--) back.push(left[i * 2], left[i * 2 + 1]);
  return Float32Array.from([...right, ...end, ...back, ...start]);
}

/** Where a line goes at one of its points: from the one before to the one after. */
function direction(points: StrokePoints, i: number): number {
  const count = points.length / 3;
  const [a, b] = [Math.max(0, i - 1), Math.min(count - 1, i + 1)];
  return Math.atan2(points[b * 3 + 1] - points[a * 3 + 1], points[b * 3] - points[a * 3]);
}

/** Half a circle round an end, from the right of the line to its left. */
function cap(points: StrokePoints, i: number, wide: number, angle: number): number[] {
  const half = halfWidth(wide, points[i * 3 + 2]);
  const out: number[] = [];
  for (let k = 1; k < 8; k++) {
    const a = angle + Math.PI / 2 - (k / 8) * Math.PI;
    out.push(points[i * 3] + Math.cos(a) * half, points[i * 3 + 1] + Math.sin(a) * half);
  }
  return out;
}
