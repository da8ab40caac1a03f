/**
 * Points of a drawn line: `x, y, pressure` one after another, x and y in widths of the picture from its upper left corner (y down),
 * pressure from 0 to 1.
 */
export type StrokePoints = Float32Array;

/** Points of a ten-thousandth of the picture's width are told apart: a sixth of a pixel at 1,600. */
const GRAIN = 10_000;
const PRESSURES = 255;

/** Packs points as text: each as the step from the one before, in whole numbers. It is a quarter of what JSON would take. */
export function packPoints(points: ArrayLike<number>): string {
  const out: number[] = [];
  let [x, y, p] = [0, 0, 0];
  for (let i = 0; i + 2 < points.length; i += 3) {
    const next = [
      Math.round(points[i] * GRAIN),
      Math.round(points[i + 1] * GRAIN),
      Math.round(Math.min(1, Math.max(0, points[i + 2])) * PRESSURES),
    ];
    out.push(next[0] - x, next[1] - y, next[2] - p);
    [x, y, p] = next;
  }
  return out.join(' ');
}

/** Unpacks what {@link packPoints} packed. What is no point at its end is left out. */
export function unpackPoints(text: string): StrokePoints {
  const steps = text.split(' ').map(Number);
  const out = new Float32Array(Math.floor(steps.length / 3) * 3);
  let [x, y, p] = [0, 0, 0];
  for (let i = 0; i + 2 < steps.length; i += 3) {
    x += steps[i];
    y += steps[i + 1];
    p += steps[i + 2];
    out.set([x / GRAIN, y / GRAIN, Math.min(1, Math.max(0, p / PRESSURES))], i);
  }
  return out;
}

/**
 * A line without the points it does not need: none of those left out lies farther than `tolerance` from what is left (Douglas and Peucker
 * 1973), and none has a pressure that differs by more than a tenth from what lies between its neighbours.
 */
export function thinPoints(points: ArrayLike<number>, tolerance: number): StrokePoints {
  const count = Math.floor(points.length / 3);
  if (count < 3) return Float32Array.from({ length: count * 3 }, (_, i) => points[i]);
  const keep = new Uint8Array(count);
  keep[0] = keep[count - 1] = 1;
  const open: [number, number][] = [[0, count - 1]];
  for (let span = open.pop(); span; span = open.pop()) {
    const [a, b] = span;
    let [worst, at] = [1, -1];
    for (let i = a + 1; i < b; i++) {
      const error = Math.max(distance(points, i, a, b) / tolerance, pressureOff(points, i, a, b) / 0.1);
      if (error > worst) [worst, at] = [error, i];
    }
    if (at < 0) continue;
    keep[at] = 1;
    open.push([a, at], [at, b]);
  }
  const out: number[] = [];
  for (let i = 0; i < count; i++) if (keep[i]) out.push(points[i * 3], points[i * 3 + 1], points[i * 3 + 2]);
  return Float32Array.from(out);
}

/** How far along the line from `a` to `b` a point lies, from 0 to 1. */
function along(points: ArrayLike<number>, i: number, a: number, b: number): number {
  const [dx, dy] = [points[b * 3] - points[a * 3], points[b * 3 + 1] - points[a * 3 + 1]];
  const length = dx * dx + dy * dy;
  if (length === 0) return 0;
  const t = ((points[i * 3] - points[a * 3]) * dx + (points[i * 3 + 1] - points[a * 3 + 1]) * dy) / length;
  return Math.min(1, Math.max(0, t));
}

function distance(points: ArrayLike<number>, i: number, a: number, b: number): number {
  const t = along(points, i, a, b);
  const x = points[a * 3] + (points[b * 3] - points[a * 3]) * t;
  const y = points[a * 3 + 1] + (points[b * 3 + 1] - points[a * 3 + 1]) * t;
  return Math.hypot(points[i * 3] - x, points[i * 3 + 1] - y);
}

function pressureOff(points: ArrayLike<number>, i: number, a: number, b: number): number {
  const t = along(points, i, a, b);
  return Math.abs(points[i * 3 + 2] - (points[a * 3 + 2] + (points[b * 3 + 2] - points[a * 3 + 2]) * t));
}
