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

/** Three turns about standing axes, first turn first; a turn of zero costs nothing. */
function turnFromAngles(values: Float64Array, at: number, axes: Uint8Array, axesAt: number, r: Float64Array): void {
  r[0] = 1;
  r[1] = 0;
  r[2] = 0;
  r[3] = 0;
  r[4] = 1;
  r[5] = 0;
  r[6] = 0;
  r[7] = 0;
  r[8] = 1;
  for (let turn = 0; turn < 3; turn++) {
    const axis = axes[axesAt + turn];
    const angle = values[at + axis];
    if (angle !== 0) turnRows(r, (axis + 1) % 3, (axis + 2) % 3, Math.cos(angle), Math.sin(angle));
  }
}

/** Turns rows `a` and `b` of the 3×3 in `r`: a turn about the third axis, done after what `r` holds. */
function turnRows(r: Float64Array, a: number, b: number, cos: number, sin: number): void {
  for (let column = 0; column < 9; column += 3) {
    const p = r[column + a];
    const q = r[column + b];
    r[column + a] = cos * p - sin * q;
    r[column + b] = sin * p + cos * q;
  }
}

/** Writes `parent · local` to `out` at `at`, where the parent's matrix stands in the same array at `parentAt`. */
export function writeWorld(out: Float64Array, parentAt: number, local: Float64Array, at: number): void {
  const p0 = out[parentAt];
  const p1 = out[parentAt + 1];
  const p2 = out[parentAt + 2];
  const p4 = out[parentAt + 4];
  const p5 = out[parentAt + 5];
  const p6 = out[parentAt + 6];
  const p8 = out[parentAt + 8];
  const p9 = out[parentAt + 9];
  const p10 = out[parentAt + 10];
  for (let column = 0; column < 12; column += 4) {
    const x = local[column];
    const y = local[column + 1];
    const z = local[column + 2];
    out[at + column] = p0 * x + p4 * y + p8 * z;
    out[at + column + 1] = p1 * x + p5 * y + p9 * z;
    out[at + column + 2] = p2 * x + p6 * y + p10 * z;
  }
  const x = local[12];
  const y = local[13];
  const z = local[14];
  out[at + 12] = p0 * x + p4 * y + p8 * z + out[parentAt + 12];
  out[at + 13] = p1 * x + p5 * y + p9 * z + out[parentAt + 13];
  out[at + 14] = p2 * x + p6 * y + p10 * z + out[parentAt + 14];
}
