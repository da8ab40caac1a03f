import type { Frame } from '../../evaluate/frame.ts';
import type { Layout } from '../../evaluate/layout.ts';
import { invert, multiply, turnOf } from '../../pose/affine.ts';
import { turnFromAngles, turnFromQuaternion } from '../../pose/transform.ts';

/** Numbers of a place: three of its move, four of its turn, three of its size. */
export const PLACE = 10;

/** Reads out of a frame how something stands to what carries it, or how much of each shape target there is. */
export interface Mover {
  readonly is: 'place' | 'weights';
  /** How many numbers it has. */
  readonly width: number;
  write(frame: Frame, out: Float64Array, at: number): void;
}

const relative = new Float64Array(16);
const turn = new Float64Array(9);
const columns = new Float64Array(16);

/** How one node of a frame stands to another; -1 is the stage. */
export function between(node: number, to: number): Mover {
  return {
    is: 'place',
    width: PLACE,
    write({ world }, out, at) {
      if (to < 0) for (let i = 0; i < 16; i++) relative[i] = world[node * 16 + i];
      else {
        invert(relative, 0, world, to * 16);
        multiply(relative, 0, relative, 0, world, node * 16);
      }
      writePlace(relative, 0, out, at);
    },
  };
}

/** How a member stands to what carries it, straight from its channels, so that no size and no turn is guessed from a matrix. */
export function byChannels(layout: Layout, slot: number): Mover {
  const base = layout.base[slot];
  const byOrientation = layout.byOrientation[slot] === 1;
  return {
    is: 'place',
    width: PLACE,
    write({ values, orientations }, out, at) {
      if (byOrientation) for (let k = 0; k < 4; k++) out[at + 3 + k] = orientations[slot * 4 + k];
      else {
        turnFromAngles(values, base + 3, layout.turnAxes, slot * 4, turn);
        for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) columns[c * 4 + r] = turn[c * 3 + r];
        turnOf(out, at + 3, columns, 0);
      }
      turnFromQuaternion(out, at + 3, turn);
      for (let c = 0; c < 3; c++) out[at + 7 + c] = values[base + 6 + c];
      // It turns and grows about its pivot: that is a move of what it stands on.
      for (let r = 0; r < 3; r++) {
        let pivot = values[base + 9 + r];
        for (let c = 0; c < 3; c++) pivot -= turn[c * 3 + r] * values[base + 6 + c] * values[base + 9 + c];
        out[at + r] = values[base + r] + pivot;
      }
    },
  };
}

/**
 * Takes a matrix apart into move, turn and size. One that mirrors has its x turned over. What is slanted cannot be said so:
 * see {@link slantOf}.
 */
export function writePlace(m: Float64Array, from: number, out: Float64Array, at: number): void {
  for (let r = 0; r < 3; r++) out[at + r] = m[from + 12 + r];
  const size = [0, 4, 8].map((c) => Math.hypot(m[from + c], m[from + c + 1], m[from + c + 2]));
  const [x, y, z] = [0, 4, 8].map((c, k) => [0, 1, 2].map((r) => m[from + c + r] / (size[k] || 1)));
  const handed =
    x[0] * (y[1] * z[2] - y[2] * z[1]) + x[1] * (y[2] * z[0] - y[0] * z[2]) + x[2] * (y[0] * z[1] - y[1] * z[0]);
  const sign = handed < 0 ? -1 : 1;
  // What has no size one way has no turn either that could be told.
  if (size.some((s) => s < 1e-9)) out.set([0, 0, 0, 1], at + 3);
  else {
    for (let r = 0; r < 3; r++) {
      columns[r] = sign * x[r];
      columns[4 + r] = y[r];
      columns[8 + r] = z[r];
    }
    turnOf(out, at + 3, columns, 0);
  }
  const length = Math.hypot(out[at + 3], out[at + 4], out[at + 5], out[at + 6]);
  for (let k = 3; k < 7; k++) out[at + k] /= length;
  out.set([sign * size[0], size[1], size[2]], at + 7);
}

/** How far a matrix's columns are from square to one another: the largest cosine between two of them. */
export function slantOf(m: Float64Array, from: number): number {
  let worst = 0;
  for (const [a, b] of [
    [0, 4],
    [4, 8],
    [8, 0],
  ]) {
    let dot = 0;
    for (let r = 0; r < 3; r++) dot += m[from + a + r] * m[from + b + r];
    const [la, lb] = [a, b].map((c) => Math.hypot(m[from + c], m[from + c + 1], m[from + c + 2]));
    if (la > 1e-9 && lb > 1e-9) worst = Math.max(worst, Math.abs(dot) / (la * lb));
  }
  return worst;
}

/** A place without a size: what a camera sees does not depend on one. */
export const unsized = (mover: Mover): Mover => ({
  ...mover,
  write(frame, out, at) {
    mover.write(frame, out, at);
    out.set([1, 1, 1], at + 7);
  },
});

/** The place of a form: sized as its deformers say, and to nothing while it is not shown. */
export const sized = (
  size: ((frame: Frame, out: Float64Array, at: number) => void) | null,
  visible: ((frame: Frame) => boolean) | null,
): Mover => ({
  is: 'place',
  width: PLACE,
  write(frame, out, at) {
    if (size) size(frame, out, at);
    else out.set([0, 0, 0, 0, 0, 0, 1, 1, 1, 1], at);
    if (visible && !visible(frame)) out.set([0, 0, 0], at + 7);
  },
});

/** Amounts of shape targets that stand among a frame's numbers. */
export const numbersAt = (places: Int32Array): Mover => ({
  is: 'weights',
  width: places.length,
  write({ values }, out, at) {
    for (let i = 0; i < places.length; i++) out[at + i] = values[places[i]];
  },
});
