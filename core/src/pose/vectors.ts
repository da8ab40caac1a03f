/** Places and ways as three numbers, for what is not worked out every frame. */
export type Vector = readonly [x: number, y: number, z: number];

export const plus = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by];
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const apart = (a: Vector, b: Vector): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
/** @param t 0 is a, 1 is b */
export const between = (a: Vector, b: Vector, t: number): Vector => plus(a, times(minus(b, a), t));
/** The mirror image from side to side; never -0. */
export const mirrored = ([x, y, z]: Vector): Vector => [x === 0 ? 0 : -x, y, z];

/** At length one; what it is told where it has no length. */
export function direction(a: Vector, otherwise: Vector): Vector {
  const length = Math.hypot(a[0], a[1], a[2]);
  return length > 1e-12 ? times(a, 1 / length) : otherwise;
}
