import { apart, cross, direction, minus, plus, times, type Vector } from '../../pose/vectors.ts';
import { MESH_UNIT, type RigMesh } from '../../rig/definition.ts';

type Body = Pick<RigMesh, 'positions' | 'triangles'>;

/** A hose laid along a line, closed at both ends: rings square to it, round its places. */
export function hose(line: readonly Vector[], radius: number | ((t: number) => number), around = 16): Body {
  const positions: number[] = [];
  const triangles: number[] = [];
  const put = (at: Vector) => positions.push(...at.map((v) => Math.round(v / MESH_UNIT))) / 3 - 1;
  let side: Vector = Math.abs(minus(line[1], line[0])[0]) < 0.5 * apart(line[0], line[1]) ? [1, 0, 0] : [0, 0, 1];
  const first = put(line[0]);
  line.forEach((at, i) => {
    const way = direction(minus(line[Math.min(i + 1, line.length - 1)], line[Math.max(i - 1, 0)]), [0, 1, 0]);
    const up = direction(cross(way, side), [0, 0, 1]);
    side = direction(cross(up, way), [1, 0, 0]);
    const r = typeof radius === 'number' ? radius : radius(i / (line.length - 1));
    for (let k = 0; k < around; k++) {
      const a = (2 * Math.PI * (k + 0.5)) / around;
      put(plus(at, plus(times(side, r * Math.cos(a)), times(up, r * Math.sin(a)))));
    }
  });
  const last = put(line[line.length - 1]);
  const ring = (i: number, k: number) => first + 1 + i * around + (k % around);
  for (let k = 0; k < around; k++) {
    triangles.push(first, ring(0, k + 1), ring(0, k));
    for (let i = 0; i + 1 < line.length; i++) {
      triangles.push(ring(i, k), ring(i, k + 1), ring(i + 1, k + 1), ring(i, k), ring(i + 1, k + 1), ring(i + 1, k));
    }
    triangles.push(ring(line.length - 1, k), ring(line.length - 1, k + 1), last);
  }
  return { positions, triangles };
}

/** A body as it is in the mirror, from side to side. */
export const inMirror = ({ positions, triangles }: Body): Body => ({
  positions: positions.map((v, i) => (i % 3 === 0 && v !== 0 ? -v : v)),
  triangles: triangles.map((_, i) => triangles[i % 3 === 0 ? i : i % 3 === 1 ? i + 1 : i - 1]),
});

/** A straight line in so many steps. */
export const line = (from: Vector, to: Vector, steps: number): Vector[] =>
  Array.from({ length: steps + 1 }, (_, i) => plus(from, times(minus(to, from), i / steps)));

/** What is inside a closed body, cubic metres. */
export function volumeOf(positions: ArrayLike<number>, triangles: ArrayLike<number>): number {
  let sum = 0;
  const at = (v: number): Vector => [positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(triangles[t]), at(triangles[t + 1]), at(triangles[t + 2])];
    const n = cross(b, c);
    sum += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
  }
  return sum;
}
