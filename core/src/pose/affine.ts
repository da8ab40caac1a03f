import { sinCos } from './sin-cos.ts';

/**
 * Affine matrices in flat arrays, 16 numbers each, column by column as in glTF. All of these may write where they read, and
 * none allocates.
 */

export type Numbers = Float64Array;

/** Of a place that is known to be no more than this, sums are reckoned without asking each time whether they overflow. */
const KNOWN_SMALL = 0x3fffffff;

/** `out = a · b`. */
export function multiply(out: Numbers, to: number, a: Numbers, from: number, b: Numbers, by: number): void {
  const o = to & KNOWN_SMALL;
  const i = from & KNOWN_SMALL;
  const j = by & KNOWN_SMALL;
  const a0 = a[i];
  const a1 = a[i + 1];
  const a2 = a[i + 2];
  const a4 = a[i + 4];
  const a5 = a[i + 5];
  const a6 = a[i + 6];
  const a8 = a[i + 8];
  const a9 = a[i + 9];
  const a10 = a[i + 10];
  const a12 = a[i + 12];
  const a13 = a[i + 13];
  const a14 = a[i + 14];
  const b0 = b[j];
  const b1 = b[j + 1];
  const b2 = b[j + 2];
  const b4 = b[j + 4];
  const b5 = b[j + 5];
  const b6 = b[j + 6];
  const b8 = b[j + 8];
  const b9 = b[j + 9];
  const b10 = b[j + 10];
  const b12 = b[j + 12];
  const b13 = b[j + 13];
  const b14 = b[j + 14];
  out[o] = a0 * b0 + a4 * b1 + a8 * b2;
  out[o + 1] = a1 * b0 + a5 * b1 + a9 * b2;
  out[o + 2] = a2 * b0 + a6 * b1 + a10 * b2;
  out[o + 3] = 0;
  out[o + 4] = a0 * b4 + a4 * b5 + a8 * b6;
  out[o + 5] = a1 * b4 + a5 * b5 + a9 * b6;
  out[o + 6] = a2 * b4 + a6 * b5 + a10 * b6;
  out[o + 7] = 0;
  out[o + 8] = a0 * b8 + a4 * b9 + a8 * b10;
  out[o + 9] = a1 * b8 + a5 * b9 + a9 * b10;
  out[o + 10] = a2 * b8 + a6 * b9 + a10 * b10;
  out[o + 11] = 0;
  out[o + 12] = a0 * b12 + a4 * b13 + a8 * b14 + a12;
  out[o + 13] = a1 * b12 + a5 * b13 + a9 * b14 + a13;
  out[o + 14] = a2 * b12 + a6 * b13 + a10 * b14 + a14;
  out[o + 15] = 1;
}

/** `out = a · b` for a `b` that only moves, by (x, y, z). */
export function multiplyMove(
  out: Numbers,
  to: number,
  a: Numbers,
  from: number,
  x: number,
  y: number,
  z: number,
): void {
  const o = to & KNOWN_SMALL;
  const i = from & KNOWN_SMALL;
  const a0 = a[i];
  const a1 = a[i + 1];
  const a2 = a[i + 2];
  const a4 = a[i + 4];
  const a5 = a[i + 5];
  const a6 = a[i + 6];
  const a8 = a[i + 8];
  const a9 = a[i + 9];
  const a10 = a[i + 10];
  const a12 = a[i + 12];
  const a13 = a[i + 13];
  const a14 = a[i + 14];
  out[o] = a0;
  out[o + 1] = a1;
  out[o + 2] = a2;
  out[o + 3] = 0;
  out[o + 4] = a4;
  out[o + 5] = a5;
  out[o + 6] = a6;
  out[o + 7] = 0;
  out[o + 8] = a8;
  out[o + 9] = a9;
  out[o + 10] = a10;
  out[o + 11] = 0;
  out[o + 12] = a0 * x + a4 * y + a8 * z + a12;
  out[o + 13] = a1 * x + a5 * y + a9 * z + a13;
  out[o + 14] = a2 * x + a6 * y + a10 * z + a14;
  out[o + 15] = 1;
}

/** Whether a matrix only moves. */
export const isMove = (m: Numbers): boolean =>
  m[0] === 1 &&
  m[1] === 0 &&
  m[2] === 0 &&
  m[4] === 0 &&
  m[5] === 1 &&
  m[6] === 0 &&
  m[8] === 0 &&
  m[9] === 0 &&
  m[10] === 1;

/** `out = a⁻¹`. @returns false, and leaves `out` alone, where `a` is flat */
export function invert(out: Numbers, o: number, a: Numbers, i: number): boolean {
  const a0 = a[i];
  const a1 = a[i + 1];
  const a2 = a[i + 2];
  const a4 = a[i + 4];
  const a5 = a[i + 5];
  const a6 = a[i + 6];
  const a8 = a[i + 8];
  const a9 = a[i + 9];
  const a10 = a[i + 10];
  const c0 = a5 * a10 - a6 * a9;
  const c1 = a6 * a8 - a4 * a10;
  const c2 = a4 * a9 - a5 * a8;
  const determinant = a0 * c0 + a1 * c1 + a2 * c2;
  if (Math.abs(determinant) < 1e-300) return false;
  const d = 1 / determinant;
  const x = a[i + 12];
  const y = a[i + 13];
  const z = a[i + 14];
  const r0 = c0 * d;
  const r1 = (a2 * a9 - a1 * a10) * d;
  const r2 = (a1 * a6 - a2 * a5) * d;
  const r4 = c1 * d;
  const r5 = (a0 * a10 - a2 * a8) * d;
  const r6 = (a2 * a4 - a0 * a6) * d;
  const r8 = c2 * d;
  const r9 = (a1 * a8 - a0 * a9) * d;
  const r10 = (a0 * a5 - a1 * a4) * d;
  out[o] = r0;
  out[o + 1] = r1;
  out[o + 2] = r2;
  out[o + 3] = 0;
  out[o + 4] = r4;
  out[o + 5] = r5;
  out[o + 6] = r6;
  out[o + 7] = 0;
  out[o + 8] = r8;
  out[o + 9] = r9;
  out[o + 10] = r10;
  out[o + 11] = 0;
  out[o + 12] = -(r0 * x + r4 * y + r8 * z);
  out[o + 13] = -(r1 * x + r5 * y + r9 * z);
  out[o + 14] = -(r2 * x + r6 * y + r10 * z);
  out[o + 15] = 1;
  return true;
}

/** `out = a · p`, three numbers. */
export function transformPoint(out: Numbers, o: number, a: Numbers, i: number, x: number, y: number, z: number): void {
  out[o] = a[i] * x + a[i + 4] * y + a[i + 8] * z + a[i + 12];
  out[o + 1] = a[i + 1] * x + a[i + 5] * y + a[i + 9] * z + a[i + 13];
  out[o + 2] = a[i + 2] * x + a[i + 6] * y + a[i + 10] * z + a[i + 14];
}

/** The length of a way. Ten times as quick as the language's own, which minds numbers that no stage holds. */
export const lengthOf = (x: number, y: number, z: number): number => Math.sqrt(x * x + y * y + z * z);

/** The length of a matrix's first column: its size, where it sizes all ways alike. */
export const scaleOf = (a: Numbers, i: number): number => lengthOf(a[i], a[i + 1], a[i + 2]);

/**
 * The turn of a matrix as a unit quaternion, by the largest of its four numbers (Shepperd 1978); its columns are taken as square to
 * one another, of whatever length.
 */
export function turnOf(out: Numbers, to: number, a: Numbers, from: number): void {
  const o = to & KNOWN_SMALL;
  const i = from & KNOWN_SMALL;
  const sx = 1 / (Math.sqrt(a[i] * a[i] + a[i + 1] * a[i + 1] + a[i + 2] * a[i + 2]) || 1);
  const sy = 1 / (Math.sqrt(a[i + 4] * a[i + 4] + a[i + 5] * a[i + 5] + a[i + 6] * a[i + 6]) || 1);
  const sz = 1 / (Math.sqrt(a[i + 8] * a[i + 8] + a[i + 9] * a[i + 9] + a[i + 10] * a[i + 10]) || 1);
  const xx = a[i] * sx;
  const xy = a[i + 1] * sx;
  const xz = a[i + 2] * sx;
  const yx = a[i + 4] * sy;
  const yy = a[i + 5] * sy;
  const yz = a[i + 6] * sy;
  const zx = a[i + 8] * sz;
  const zy = a[i + 9] * sz;
  const zz = a[i + 10] * sz;
  const trace = xx + yy + zz;
  if (trace > 0) {
    const s = 0.5 / Math.sqrt(trace + 1);
    out[o] = (yz - zy) * s;
    out[o + 1] = (zx - xz) * s;
    out[o + 2] = (xy - yx) * s;
    out[o + 3] = 0.25 / s;
  } else if (xx > yy && xx > zz) {
    const s = 0.5 / Math.sqrt(1 + xx - yy - zz);
    out[o] = 0.25 / s;
    out[o + 1] = (yx + xy) * s;
    out[o + 2] = (zx + xz) * s;
    out[o + 3] = (yz - zy) * s;
  } else if (yy > zz) {
    const s = 0.5 / Math.sqrt(1 + yy - xx - zz);
    out[o] = (yx + xy) * s;
    out[o + 1] = 0.25 / s;
    out[o + 2] = (zy + yz) * s;
    out[o + 3] = (zx - xz) * s;
  } else {
    const s = 0.5 / Math.sqrt(1 + zz - xx - yy);
    out[o] = (zx + xz) * s;
    out[o + 1] = (zy + yz) * s;
    out[o + 2] = 0.25 / s;
    out[o + 3] = (xy - yx) * s;
  }
}

const loose = new Float64Array(6);

/** A matrix from a unit quaternion, one size for all ways and a place. */
export function compose(
  out: Numbers,
  o: number,
  q: Numbers,
  i: number,
  size: number,
  x: number,
  y: number,
  z: number,
): void {
  loose[0] = x;
  loose[1] = y;
  loose[2] = z;
  loose[3] = size;
  composeFrom(out, o, q, i, loose, 0);
}

/**
 * A matrix from a unit quaternion and four numbers: a place, and one size for all ways. What runs thousands of times a frame hands its
 * numbers on in arrays: handed on one by one each of them would be put into memory of its own.
 */
export function composeFrom(out: Numbers, to: number, q: Numbers, turn: number, place: Numbers, at: number): void {
  const o = to & KNOWN_SMALL;
  const i = turn & KNOWN_SMALL;
  const p = at & KNOWN_SMALL;
  const qx = q[i];
  const qy = q[i + 1];
  const qz = q[i + 2];
  const qw = q[i + 3];
  const size = place[p + 3];
  out[o] = (1 - 2 * (qy * qy + qz * qz)) * size;
  out[o + 1] = 2 * (qx * qy + qw * qz) * size;
  out[o + 2] = 2 * (qx * qz - qw * qy) * size;
  out[o + 3] = 0;
  out[o + 4] = 2 * (qx * qy - qw * qz) * size;
  out[o + 5] = (1 - 2 * (qx * qx + qz * qz)) * size;
  out[o + 6] = 2 * (qy * qz + qw * qx) * size;
  out[o + 7] = 0;
  out[o + 8] = 2 * (qx * qz + qw * qy) * size;
  out[o + 9] = 2 * (qy * qz - qw * qx) * size;
  out[o + 10] = (1 - 2 * (qx * qx + qy * qy)) * size;
  out[o + 11] = 0;
  out[o + 12] = place[p];
  out[o + 13] = place[p + 1];
  out[o + 14] = place[p + 2];
  out[o + 15] = 1;
}

/** `out = a · b` for quaternions. */
export function turnTimes(out: Numbers, to: number, a: Numbers, from: number, b: Numbers, times: number): void {
  const o = to & KNOWN_SMALL;
  const i = from & KNOWN_SMALL;
  const j = times & KNOWN_SMALL;
  const ax = a[i];
  const ay = a[i + 1];
  const az = a[i + 2];
  const aw = a[i + 3];
  const bx = b[j];
  const by = b[j + 1];
  const bz = b[j + 2];
  const bw = b[j + 3];
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by - ax * bz + ay * bw + az * bx;
  out[o + 2] = aw * bz + ax * by - ay * bx + az * bw;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

const gone = new Float64Array(2);

/** The way from `a` to `b` by a share, the shorter way round (Shoemake 1985). */
export function slerp(
  out: Numbers,
  to: number,
  a: Numbers,
  from: number,
  b: Numbers,
  towards: number,
  share: number,
): void {
  const o = to & KNOWN_SMALL;
  const i = from & KNOWN_SMALL;
  const j = towards & KNOWN_SMALL;
  let cosine = a[i] * b[j] + a[i + 1] * b[j + 1] + a[i + 2] * b[j + 2] + a[i + 3] * b[j + 3];
  const sign = cosine < 0 ? -1 : 1;
  cosine = Math.min(1, cosine * sign);
  const sine = Math.sqrt((1 - cosine) * (1 + cosine));
  let ofA = 1 - share;
  let ofB = sign * share;
  if (sine >= 1e-9) {
    // The sine of what is left to the end of the angle follows from the two of what is gone.
    sinCos(share * Math.acos(cosine), gone, 0);
    const along = gone[0] / sine;
    ofA = gone[1] - cosine * along;
    ofB = sign * along;
  }
  const x = a[i] * ofA + b[j] * ofB;
  const y = a[i + 1] * ofA + b[j + 1] * ofB;
  const z = a[i + 2] * ofA + b[j + 2] * ofB;
  const w = a[i + 3] * ofA + b[j + 3] * ofB;
  const k = 1 / Math.sqrt(x * x + y * y + z * z + w * w);
  out[o] = x * k;
  out[o + 1] = y * k;
  out[o + 2] = z * k;
  out[o + 3] = w * k;
}

/**
 * The shortest turn that brings one direction to another, both of any length, by a share of its angle. Opposite directions go
 * round an axis square to them, the one nearest to x.
 */
export function swing(
  out: Numbers,
  o: number,
  fx: number,
  fy: number,
  fz: number,
  tx: number,
  ty: number,
  tz: number,
  share: number,
): void {
  loose[0] = fx;
  loose[1] = fy;
  loose[2] = fz;
  loose[3] = tx;
  loose[4] = ty;
  loose[5] = tz;
  swingFrom(out, o, loose, 0, loose, 3, share);
}

/** The same of two directions in arrays (see `composeFrom`). */
export function swingFrom(
  out: Numbers,
  o: number,
  from: Numbers,
  i: number,
  to: Numbers,
  j: number,
  share: number,
): void {
  const fx = from[i];
  const fy = from[i + 1];
  const fz = from[i + 2];
  const tx = to[j];
  const ty = to[j + 1];
  const tz = to[j + 2];
  let x = fy * tz - fz * ty;
  let y = fz * tx - fx * tz;
  let z = fx * ty - fy * tx;
  const sine = lengthOf(x, y, z);
  const cosine = fx * tx + fy * ty + fz * tz;
  if (share === 1 && cosine > 0) {
    // The whole way, and not too far: half an angle without asking for the angle.
    const w = cosine + Math.sqrt(sine * sine + cosine * cosine);
    const k = 1 / Math.sqrt(sine * sine + w * w);
    out[o] = x * k;
    out[o + 1] = y * k;
    out[o + 2] = z * k;
    out[o + 3] = w * k;
    return;
  }
  const angle = Math.atan2(sine, cosine) * share;
  if (sine < 1e-12 * Math.max(1e-300, Math.abs(cosine))) {
    if (cosine >= 0) {
      out[o] = 0;
      out[o + 1] = 0;
      out[o + 2] = 0;
      out[o + 3] = 1;
      return;
    }
    // Any axis square to the direction will do: x less its share along it, or y where that is nothing.
    const length = fx * fx + fy * fy + fz * fz;
    const useX = fx * fx < 0.9 * length;
    const along = (useX ? fx : fy) / length;
    x = (useX ? 1 : 0) - fx * along;
    y = (useX ? 0 : 1) - fy * along;
    z = -fz * along;
  }
  const k = Math.sin(angle / 2) / lengthOf(x, y, z);
  out[o] = x * k;
  out[o + 1] = y * k;
  out[o + 2] = z * k;
  out[o + 3] = Math.cos(angle / 2);
}
