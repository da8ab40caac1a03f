import type { Quaternion } from '../schema/numbers.ts';
import { quat, vec3 } from './doubles.ts';

/** Unit quaternions `[x, y, z, w]` as plain values, for edits and compiling; hot loops have their own, in place. */

export const IDENTITY: Quaternion = [0, 0, 0, 1];

const asQuaternion = (q: ArrayLike<number>): Quaternion => [q[0], q[1], q[2], q[3]];
const plain = (q: Quaternion): quat => [q[0], q[1], q[2], q[3]];

/** The turn `a · b`: b first, in a's space. */
export const quaternionMultiply = (a: Quaternion, b: Quaternion): Quaternion =>
  asQuaternion(quat.multiply([0, 0, 0, 1], plain(a), plain(b)));

export const quaternionInverse = (q: Quaternion): Quaternion => [-q[0], -q[1], -q[2], q[3]];

/** What turns `a` into `b` when done in a's own space. */
export const quaternionBetween = (a: Quaternion, b: Quaternion): Quaternion =>
  quaternionMultiply(quaternionInverse(a), b);

/** Half the angle times the axis; the shorter way is not chosen here. */
export function quaternionLog(q: Quaternion): [number, number, number] {
  const sine = Math.hypot(q[0], q[1], q[2]);
  if (sine < 1e-300) return [0, 0, 0];
  const k = Math.atan2(sine, q[3]) / sine;
  return [q[0] * k, q[1] * k, q[2] * k];
}

/** The inverse of `quaternionLog`. */
export function quaternionExp(v: readonly [number, number, number]): Quaternion {
  const angle = Math.hypot(v[0], v[1], v[2]);
  const k = angle < 1e-300 ? 1 : Math.sin(angle) / angle;
  return [v[0] * k, v[1] * k, v[2] * k, Math.cos(angle)];
}

/** A turn by `angle` radians about an axis of any length. */
export const quaternionAbout = (axis: readonly [number, number, number], angle: number): Quaternion =>
  asQuaternion(quat.setAxisAngle([0, 0, 0, 1], vec3.normalize([0, 0, 0], [...axis]), angle));

export function quaternionNormal(q: Quaternion): Quaternion {
  const length = Math.hypot(...q);
  return length > 0 ? [q[0] / length, q[1] / length, q[2] / length, q[3] / length] : IDENTITY;
}

/** A vector turned by an orientation. */
export function quaternionTurn(
  [x, y, z, w]: Quaternion,
  [a, b, c]: readonly [number, number, number],
): [number, number, number] {
  const [i, j, k] = [2 * (y * c - z * b), 2 * (z * a - x * c), 2 * (x * b - y * a)];
  return [a + w * i + y * k - z * j, b + w * j + z * i - x * k, c + w * k + x * j - y * i];
}
