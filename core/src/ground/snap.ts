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

/**
 * The factor of a size along an axis with which a face of a box comes to stand on the ground, or level with a face or the middle of another box,
 * where that face has no further to go than the reach; the factor as it is where nothing is there. Only what it is beside along the other axes counts.
 * @param box as it is before @param pivot where along the axis it is sized from @param factor above 0 @param reach metres
 */
export function snapSize(
  box: Box,
  pivot: number,
  factor: number,
  others: readonly Box[],
  axis: 0 | 1 | 2,
  reach: number,
): number {
  let [best, least] = [factor, reach];
  const marks = others
    .filter((other) => isBeside(box, other, axis, reach))
    .flatMap(({ min, max }) => [min[axis], max[axis], (min[axis] + max[axis]) / 2]);
  if (axis === 1) marks.push(0);
  for (const face of [box.min[axis], box.max[axis]]) {
    const arm = face - pivot;
    // A face at the pivot goes nowhere.
    if (Math.abs(arm) < 1e-6) continue;
    for (const mark of marks) {
      const own = (mark - pivot) / arm;
      const far = Math.abs(pivot + arm * factor - mark);
      if (own > 0 && far <= least) [best, least] = [own, far];
    }
  }
  return best;
}

function isBeside(a: Box, b: Box, axis: number, reach: number): boolean {
  for (let other = 0; other < 3; other++)
    if (other !== axis && (a.min[other] > b.max[other] + reach || a.max[other] < b.min[other] - reach)) return false;
  return true;
}
