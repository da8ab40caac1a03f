/**
 * The order in which a member's three angles turn it, first turn first, about axes that stand still:
 * `zxy` turns about z, then x, then y, so its matrix is `Ry · Rx · Rz`. In `zxy` the heading (y) is the outermost turn,
 * which is what a thing that walks or rolls wants.
 */
export const rotationOrders = ['xyz', 'xzy', 'yxz', 'yzx', 'zxy', 'zyx'] as const;
export type RotationOrder = (typeof rotationOrders)[number];

/** For each order the axes (0 x, 1 y, 2 z) first turn first, and +1 for a cyclic order, -1 for the others. */
export const orderAxes: Record<RotationOrder, readonly [first: number, second: number, third: number, sign: 1 | -1]> = {
  xyz: [0, 1, 2, 1],
  yzx: [1, 2, 0, 1],
  zxy: [2, 0, 1, 1],
  xzy: [0, 2, 1, -1],
  yxz: [1, 0, 2, -1],
  zyx: [2, 1, 0, -1],
};
