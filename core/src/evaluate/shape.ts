import { PARAMETERS } from '../deform/define.ts';
import { deformers } from '../deform/kinds.ts';
import type { Frame } from './frame.ts';

/** A member's form as its deformers make it at one moment: the same numbers for pictures, checks and exports. */

/** Whether a slot has deformers at all. */
export const isDeformed = ({ layout }: Frame, slot: number): boolean =>
  layout.deformersFrom[slot + 1] > layout.deformersFrom[slot];

/** Whether all a slot's deformers are linear maps with a shift, so that `shapeMatrix` says everything. */
export function isAffine({ layout }: Frame, slot: number): boolean {
  for (let d = layout.deformersFrom[slot]; d < layout.deformersFrom[slot + 1]; d++) {
    if (!deformers[layout.deformers[d].deformer.kind].affine) return false;
  }
  return true;
}

/** Moves points of the member's own space, three numbers each, as its deformers do, one after another. */
export function deformPoints(frame: Frame, slot: number, points: Float64Array | Float32Array): void {
  const { layout, deform } = frame;
  for (let d = layout.deformersFrom[slot]; d < layout.deformersFrom[slot + 1]; d++) {
    const { move } = deformers[layout.deformers[d].deformer.kind];
    for (let p = 0; p < points.length; p += 3) move(deform, d * PARAMETERS, points, p);
  }
}

/**
 * Writes the matrix, column by column, from the member's form at rest to the world, its affine deformers included; others are
 * left out, for `deformPoints` to do.
 * @param node where its form stands: its own place, or for a rig that travels where it has got to
 */
export function shapeMatrix(frame: Frame, slot: number, out: Float64Array, node = slot): void {
  for (let i = 0; i < 16; i++) out[i] = frame.world[node * 16 + i];
  deform(frame, slot, out);
}

/** Writes what the affine deformers do in the member's own space. */
export function deformMatrix(frame: Frame, slot: number, out: Float64Array): void {
  for (let i = 0; i < 16; i++) out[i] = i % 5 === 0 ? 1 : 0;
  deform(frame, slot, out);
}

function deform({ layout, deform }: Frame, slot: number, out: Float64Array): void {
  // The last deformer acts last on points, so it stands next to the world.
  for (let d = layout.deformersFrom[slot + 1] - 1; d >= layout.deformersFrom[slot]; d--) {
    if (deformers[layout.deformers[d].deformer.kind].affine) multiply(out, deform, d * PARAMETERS);
  }
}

const column = new Float64Array(4);

/** `out · m`, where `m` is a 3×4 matrix column by column. */
function multiply(out: Float64Array, m: Float64Array, at: number): void {
  const [a0, a1, a2, a4, a5, a6, a8, a9, a10] = [
    out[0],
    out[1],
    out[2],
    out[4],
    out[5],
    out[6],
    out[8],
    out[9],
    out[10],
  ];
  for (let c = 0; c < 4; c++) {
    const x = m[at + c * 3];
    const y = m[at + c * 3 + 1];
    const z = m[at + c * 3 + 2];
    column[0] = a0 * x + a4 * y + a8 * z;
    column[1] = a1 * x + a5 * y + a9 * z;
    column[2] = a2 * x + a6 * y + a10 * z;
    for (let r = 0; r < 3; r++) out[c * 4 + r] = c === 3 ? out[12 + r] + column[r] : column[r];
  }
}
