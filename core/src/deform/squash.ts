import { z } from 'zod';
import { axisIndex, type DeformInput, defineDeformer } from './define.ts';

const LENGTH = 0;
const FOOT = 1;
const FOLLOW = 2;
const LEAN_X = 3;
const LEAN_Z = 4;

const direction = new Float64Array(3);
const linear = new Float64Array(9);
const inverse = new Float64Array(9);

/**
 * Squash and stretch that keeps the volume: `length` along the axis, `1/√length` across it. What lies at the foot stays
 * where it is, so a squashed ball still touches the ground it was on.
 */
export const squash = defineDeformer({
  kind: 'squash',
  label: 'Squash',
  about: 'Shorter along an axis and wider across it, or longer and thinner; the volume stays.',
  settings: z.strictObject({
    axis: z.enum(['x', 'y', 'z']).default('y'),
    /** Whose axis it is: the stage's, whatever way the member is turned, or the member's own. */
    space: z.enum(['world', 'own']).default('world'),
  }),
  channels: [
    { id: 'length', label: 'length', unit: '', initial: 1, min: 0.05, max: 20 },
    /** 0 is the lowest point along the axis, 1 the highest. */
    { id: 'foot', label: 'foot', unit: '', initial: 0, min: 0, max: 1 },
    /** How far the axis goes over to the way the member takes. */
    { id: 'follow', label: 'follow path', unit: '', initial: 0, min: 0, max: 1 },
    { id: 'lean.x', label: 'axis leans x', unit: '°', initial: 0 },
    { id: 'lean.z', label: 'axis leans z', unit: '°', initial: 0 },
  ],
  shows: { channel: 'length', at: 0.7 },
  affine: true,
  prepare({ axis, space }, input, out, at) {
    const { values, world, worldAt: w } = input;
    const v = input.at;
    const inWorld = space === 'world';
    leaningAxis(axisIndex[axis], values[v + LEAN_X], values[v + LEAN_Z]);
    if (inWorld) followPath(input, values[v + FOLLOW]);
    for (let c = 0; c < 3; c++) {
      for (let r = 0; r < 3; r++) linear[c * 3 + r] = inWorld ? world[w + c * 4 + r] : c === r ? 1 : 0;
    }
    const length = Math.max(values[v + LENGTH], 1e-3);
    const wide = 1 / Math.sqrt(length);
    const [dx, dy, dz] = direction;
    // The axis as the form sees it: for all its points p, d · (L p) = (Lᵀ d) · p.
    const ox = linear[0] * dx + linear[1] * dy + linear[2] * dz;
    const oy = linear[3] * dx + linear[4] * dy + linear[5] * dz;
    const oz = linear[6] * dx + linear[7] * dy + linear[8] * dz;
    const low = input.lowest(ox, oy, oz);
    const high = -input.lowest(-ox, -oy, -oz);
    const level = low + (high - low) * values[v + FOOT];
    const shift = (1 - length) * level;
    if (!invert(linear, inverse)) {
      identity(out, at);
      return;
    }
    // L⁻¹ (wide · 1 + (length − wide) d dᵀ) L, a column at a time, and the shift along the axis.
    const along = length - wide;
    for (let c = 0; c < 3; c++) {
      const share = along * [ox, oy, oz][c];
      for (let r = 0; r < 3; r++) {
        out[at + c * 3 + r] =
          (r === c ? wide : 0) + share * (inverse[r] * dx + inverse[3 + r] * dy + inverse[6 + r] * dz);
      }
    }
    for (let r = 0; r < 3; r++) out[at + 9 + r] = shift * (inverse[r] * dx + inverse[3 + r] * dy + inverse[6 + r] * dz);
  },
  move(m, at, point, p) {
    const x = point[p];
    const y = point[p + 1];
    const z = point[p + 2];
    for (let r = 0; r < 3; r++) {
      point[p + r] = m[at + r] * x + m[at + 3 + r] * y + m[at + 6 + r] * z + m[at + 9 + r];
    }
  },
});

/** One of the three axes, turned about z and then about x. */
function leaningAxis(axis: number, leanX: number, leanZ: number): void {
  const x = axis === 0 ? 1 : 0;
  const y = axis === 1 ? 1 : 0;
  const z = axis === 2 ? 1 : 0;
  const cz = Math.cos(leanZ);
  const sz = Math.sin(leanZ);
  const ty = sz * x + cz * y;
  const cx = Math.cos(leanX);
  const sx = Math.sin(leanX);
  direction[0] = cz * x - sz * y;
  direction[1] = cx * ty - sx * z;
  direction[2] = sx * ty + cx * z;
}

/** Turns the axis towards the way the member takes, to whichever end of it is nearer. */
function followPath({ velocity }: DeformInput, share: number): void {
  const speed = Math.hypot(velocity[0], velocity[1], velocity[2]);
  if (share <= 0 || speed < 1e-9) return;
  const along = velocity[0] * direction[0] + velocity[1] * direction[1] + velocity[2] * direction[2];
  const k = ((along < 0 ? -1 : 1) / speed) * share;
  for (let i = 0; i < 3; i++) direction[i] = direction[i] * (1 - share) + velocity[i] * k;
  const length = Math.hypot(direction[0], direction[1], direction[2]) || 1;
  for (let i = 0; i < 3; i++) direction[i] /= length;
}

function identity(out: Float64Array, at: number): void {
  for (let i = 0; i < 12; i++) out[at + i] = i % 4 === 0 && i < 9 ? 1 : 0;
}

/** The inverse of a 3×3 matrix; false where it has none. */
function invert(m: Float64Array, out: Float64Array): boolean {
  const a = m[4] * m[8] - m[7] * m[5];
  const b = m[7] * m[2] - m[1] * m[8];
  const c = m[1] * m[5] - m[4] * m[2];
  const determinant = m[0] * a + m[3] * b + m[6] * c;
  if (Math.abs(determinant) < 1e-12) return false;
  const k = 1 / determinant;
  out[0] = a * k;
  out[1] = b * k;
  out[2] = c * k;
  out[3] = (m[6] * m[5] - m[3] * m[8]) * k;
  out[4] = (m[0] * m[8] - m[6] * m[2]) * k;
  out[5] = (m[3] * m[2] - m[0] * m[5]) * k;
  out[6] = (m[3] * m[7] - m[6] * m[4]) * k;
  out[7] = (m[6] * m[1] - m[0] * m[7]) * k;
  out[8] = (m[0] * m[4] - m[3] * m[1]) * k;
  return true;
}
