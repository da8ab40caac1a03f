import type { Quaternion } from '../schema/numbers.ts';
import { quaternionAbout, quaternionMultiply } from './quaternion.ts';
import { orderAxes, type RotationOrder } from './rotation-order.ts';

export type Angles = [x: number, y: number, z: number];

const AXES = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
] as const;

/** Three angles (radians, as x, y, z) in an order, as one orientation. */
export function anglesToQuaternion(angles: Readonly<Angles>, order: RotationOrder): Quaternion {
  const [first, second, third] = orderAxes[order];
  const about = (axis: number) => quaternionAbout(AXES[axis], angles[axis]);
  return quaternionMultiply(about(third), quaternionMultiply(about(second), about(first)));
}

/**
 * An orientation as three angles in an order. Of all triples that say the same, the one nearest to `near` is given, so
 * that a turn by hand goes on from where it was instead of jumping by 360° or flipping over.
 * At the gimbal (second turn at ±90°) the third angle is kept from `near`.
 */
export function quaternionToAngles(q: Quaternion, order: RotationOrder, near: Readonly<Angles> = [0, 0, 0]): Angles {
  const [i, j, k, sign] = orderAxes[order];
  const m = rows(q);
  const sine = -sign * m[k][i];
  const out: Angles = [0, 0, 0];
  if (Math.abs(sine) > 1 - 1e-12) {
    // Only the sum or difference of the outer angles is known: give the outermost what it had.
    out[j] = Math.sign(sine) * (Math.PI / 2);
    out[k] = near[k];
    out[i] = Math.atan2(Math.sign(sine) * m[i][j], m[j][j]) + sign * Math.sign(sine) * out[k];
  } else {
    out[i] = Math.atan2(sign * m[k][j], m[k][k]);
    out[j] = Math.asin(sine);
    out[k] = Math.atan2(sign * m[j][i], m[i][i]);
  }
  const flipped: Angles = [0, 0, 0];
  flipped[i] = out[i] + Math.PI;
  flipped[j] = Math.PI - out[j];
  flipped[k] = out[k] + Math.PI;
  const a = nearest(out, near);
  const b = nearest(flipped, near);
  return distance(a, near) <= distance(b, near) + 1e-9 ? a : b;
}

const nearest = (angles: Readonly<Angles>, near: Readonly<Angles>): Angles =>
  angles.map((a, c) => a - 2 * Math.PI * Math.round((a - near[c]) / (2 * Math.PI))) as Angles;

const distance = (a: Readonly<Angles>, b: Readonly<Angles>) =>
  Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);

function rows([x, y, z, w]: Quaternion): number[][] {
  return [
    [1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y)],
    [2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x)],
    [2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)],
  ];
}
