import { sinCos } from './sin-cos.ts';

/**
 * Matrices of 16 numbers, column by column as in glTF, in flat arrays. A member's own matrix is
 * `move · pivot · turn · size · pivot⁻¹`: it turns and grows about its pivot.
 */

const turnScratch = new Float64Array(9);
const both = new Float64Array(6);

/** Writes a member's own matrix from its block of values (see `channelOffset`) and its orientation, if it uses one. */
export function writeLocal(
  values: Float64Array,
  base: number,
  orientations: Float64Array,
  orientationAt: number,
  byOrientation: boolean,
  turnAxes: Uint8Array,
  axesAt: number,
  out: Float64Array,
): void {
  const r = turnScratch;
  if (byOrientation) turnFromQuaternion(orientations, orientationAt, r);
  else turnFromAngles(values, base + 3, turnAxes, axesAt, r);
  if (isPlain(values, base)) {
    out[0] = r[0];
    out[1] = r[1];
    out[2] = r[2];
    out[4] = r[3];
    out[5] = r[4];
    out[6] = r[5];
    out[8] = r[6];
    out[9] = r[7];
    out[10] = r[8];
    out[12] = values[base];
    out[13] = values[base + 1];
    out[14] = values[base + 2];
    return;
  }
  const sx = values[base + 6];
  const sy = values[base + 7];
  const sz = values[base + 8];
  const px = values[base + 9];
  const py = values[base + 10];
  const pz = values[base + 11];
  const m00 = r[0] * sx;
  const m10 = r[1] * sx;
  const m20 = r[2] * sx;
  const m01 = r[3] * sy;
  const m11 = r[4] * sy;
  const m21 = r[5] * sy;
  const m02 = r[6] * sz;
  const m12 = r[7] * sz;
  const m22 = r[8] * sz;
  out[0] = m00;
  out[1] = m10;
  out[2] = m20;
  out[4] = m01;
  out[5] = m11;
  out[6] = m21;
  out[8] = m02;
  out[9] = m12;
  out[10] = m22;
  out[12] = values[base] + px - (m00 * px + m01 * py + m02 * pz);
  out[13] = values[base + 1] + py - (m10 * px + m11 * py + m12 * pz);
  out[14] = values[base + 2] + pz - (m20 * px + m21 * py + m22 * pz);
}

/**
 * Of a place that is known to be no more than this, sums are reckoned without asking each time whether they overflow. It stands in this
 * file because only then does the compiler see a number.
 */
const KNOWN_SMALL = 0x3fffffff;

/**
 * Writes the matrix of a member that turns by angles straight into its parent's space: `world[at] = world[parentAt] · own`,
 * without the own matrix in between. The parent's columns are taken in the order of turning, which makes one loop of all orders.
 * @param parentOf where its parent is; less than 0 is the stage
 * @returns false, and writes nothing, where the member has a size or a pivot
 */
export function placeTurned(
  values: Float64Array,
  baseOf: number,
  axes: Uint8Array,
  axesOf: number,
  world: Float64Array,
  atOf: number,
  parentOf: number,
): boolean {
  const base = baseOf & KNOWN_SMALL;
  const at = atOf & KNOWN_SMALL;
  const parentAt = parentOf & KNOWN_SMALL;
  const axesAt = axesOf & KNOWN_SMALL;
  if (!isPlain(values, base)) return false;
  const i = axes[axesAt] & 3;
  const j = axes[axesAt + 1] & 3;
  const k = axes[axesAt + 2] & 3;
  const sign = 1 - 2 * axes[axesAt + 3];
  sinCos(values[base + 3 + i], both, 0);
  sinCos(values[base + 3 + j], both, 2);
  sinCos(values[base + 3 + k], both, 4);
  const s1 = sign * both[0];
  const c1 = both[1];
  const s2 = sign * both[2];
  const c2 = both[3];
  const s3 = sign * both[4];
  const c3 = both[5];
  const ii = c2 * c3;
  const ij = c2 * s3;
  const ji = s1 * s2 * c3 - c1 * s3;
  const jj = s1 * s2 * s3 + c1 * c3;
  const jk = s1 * c2;
  const ki = c1 * s2 * c3 + s1 * s3;
  const kj = c1 * s2 * s3 - s1 * c3;
  const kk = c1 * c2;
  const toI = at + i * 4;
  const toJ = at + j * 4;
  const toK = at + k * 4;
  const x = values[base];
  const y = values[base + 1];
  const z = values[base + 2];
  if (parentOf < 0) {
    world[toI + i] = ii;
    world[toI + j] = ij;
    world[toI + k] = -s2;
    world[toJ + i] = ji;
    world[toJ + j] = jj;
    world[toJ + k] = jk;
    world[toK + i] = ki;
    world[toK + j] = kj;
    world[toK + k] = kk;
    world[at + 12] = x;
    world[at + 13] = y;
    world[at + 14] = z;
    return true;
  }
  const fromI = parentAt + i * 4;
  const fromJ = parentAt + j * 4;
  const fromK = parentAt + k * 4;
  const i0 = world[fromI];
  const j0 = world[fromJ];
  const k0 = world[fromK];
  const i1 = world[fromI + 1];
  const j1 = world[fromJ + 1];
  const k1 = world[fromK + 1];
  const i2 = world[fromI + 2];
  const j2 = world[fromJ + 2];
  const k2 = world[fromK + 2];
  world[toI] = i0 * ii + j0 * ij - k0 * s2;
  world[toI + 1] = i1 * ii + j1 * ij - k1 * s2;
  world[toI + 2] = i2 * ii + j2 * ij - k2 * s2;
  world[toJ] = i0 * ji + j0 * jj + k0 * jk;
  world[toJ + 1] = i1 * ji + j1 * jj + k1 * jk;
  world[toJ + 2] = i2 * ji + j2 * jj + k2 * jk;
  world[toK] = i0 * ki + j0 * kj + k0 * kk;
  world[toK + 1] = i1 * ki + j1 * kj + k1 * kk;
  world[toK + 2] = i2 * ki + j2 * kj + k2 * kk;
  world[at + 12] = world[parentAt] * x + world[parentAt + 4] * y + world[parentAt + 8] * z + world[parentAt + 12];
  world[at + 13] = world[parentAt + 1] * x + world[parentAt + 5] * y + world[parentAt + 9] * z + world[parentAt + 13];
  world[at + 14] = world[parentAt + 2] * x + world[parentAt + 6] * y + world[parentAt + 10] * z + world[parentAt + 14];
  return true;
}

/** Whether a member has its own size and turns about its origin, as nearly all do. */
const isPlain = (v: Float64Array, base: number): boolean =>
  v[base + 6] === 1 &&
  v[base + 7] === 1 &&
  v[base + 8] === 1 &&
  v[base + 9] === 0 &&
  v[base + 10] === 0 &&
  v[base + 11] === 0;

/** Writes the columns of a unit quaternion's turn, nine numbers, into `r`. */
export function turnFromQuaternion(q: Float64Array, at: number, r: Float64Array): void {
  const x = q[at];
  const y = q[at + 1];
  const z = q[at + 2];
  const w = q[at + 3];
  r[0] = 1 - 2 * (y * y + z * z);
  r[1] = 2 * (x * y + w * z);
  r[2] = 2 * (x * z - w * y);
  r[3] = 2 * (x * y - w * z);
  r[4] = 1 - 2 * (x * x + z * z);
  r[5] = 2 * (y * z + w * x);
  r[6] = 2 * (x * z + w * y);
  r[7] = 2 * (y * z - w * x);
  r[8] = 1 - 2 * (x * x + y * y);
}

/**
 * Three turns about standing axes, first turn first, as one matrix. Written for the axes in their order of turning: in an
 * order that is not cyclic (`xzy`, `yxz`, `zyx`) every sine has the other sign.
 */
export function turnFromAngles(
  values: Float64Array,
  at: number,
  axes: Uint8Array,
  axesAt: number,
  r: Float64Array,
): void {
  const i = axes[axesAt];
  const j = axes[axesAt + 1];
  const k = axes[axesAt + 2];
  const sign = axes[axesAt + 3] === 1 ? -1 : 1;
  sinCos(values[at + i], both, 0);
  sinCos(values[at + j], both, 2);
  sinCos(values[at + k], both, 4);
  const s1 = sign * both[0];
  const c1 = both[1];
  const s2 = sign * both[2];
  const c2 = both[3];
  const s3 = sign * both[4];
  const c3 = both[5];
  r[i * 3 + i] = c2 * c3;
  r[i * 3 + j] = c2 * s3;
  r[i * 3 + k] = -s2;
  r[j * 3 + i] = s1 * s2 * c3 - c1 * s3;
  r[j * 3 + j] = s1 * s2 * s3 + c1 * c3;
  r[j * 3 + k] = s1 * c2;
  r[k * 3 + i] = c1 * s2 * c3 + s1 * s3;
  r[k * 3 + j] = c1 * s2 * s3 - s1 * c3;
  r[k * 3 + k] = c1 * c2;
}
