/**
 * Matrices of 16 numbers, column by column as in glTF, in flat arrays. A member's own matrix is
 * `move · pivot · turn · size · pivot⁻¹`: it turns and grows about its pivot.
 */

const turnScratch = new Float64Array(9);

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

function turnFromQuaternion(q: Float64Array, at: number, r: Float64Array): void {
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
function turnFromAngles(values: Float64Array, at: number, axes: Uint8Array, axesAt: number, r: Float64Array): void {
  const i = axes[axesAt];
  const j = axes[axesAt + 1];
  const k = axes[axesAt + 2];
  const sign = axes[axesAt + 3] === 1 ? -1 : 1;
  const s1 = sign * Math.sin(values[at + i]);
  const s2 = sign * Math.sin(values[at + j]);
  const s3 = sign * Math.sin(values[at + k]);
  const c1 = Math.cos(values[at + i]);
  const c2 = Math.cos(values[at + j]);
  const c3 = Math.cos(values[at + k]);
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
