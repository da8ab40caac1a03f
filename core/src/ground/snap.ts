/** Boxes along the axes of the world, and how one comes to lie against others. */

type Point = readonly [x: number, y: number, z: number];
export interface Box {
  readonly min: Point;
  readonly max: Point;
}

/** A number at the nearest whole step. @param step above 0 */
export const toStep = (value: number, step: number): number => Math.round(value / step) * step;

/**
 * How far a box must go along an axis to stand on the ground, to lie against another box or level with one, or middle to middle, where that is
 * within reach; 0 where nothing is. Only what it is beside along the other axes counts.
 * @param axis 0 for x, 1 for y, 2 for z @param reach metres
 */
export function snapAlong(moving: Box, others: readonly Box[], axis: 0 | 1 | 2, reach: number): number {
  const [low, high] = [moving.min[axis], moving.max[axis]];
  let best = Number.POSITIVE_INFINITY;
  const offer = (by: number) => {
    if (Math.abs(by) < Math.abs(best)) best = by;
  };
  if (axis === 1) offer(-low);
  for (const other of others) {
    if (!isBeside(moving, other, axis, reach)) continue;
    const [from, to] = [other.min[axis], other.max[axis]];
    offer(to - low);
    offer(from - high);
    offer(from - low);
    offer(to - high);
    offer((from + to - low - high) / 2);
  }
  return Math.abs(best) <= reach ? best : 0;
}

function isBeside(a: Box, b: Box, axis: number, reach: number): boolean {
  for (let other = 0; other < 3; other++)
    if (other !== axis && (a.min[other] > b.max[other] + reach || a.max[other] < b.min[other] - reach)) return false;
  return true;
}
