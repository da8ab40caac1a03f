import type { Shell } from './shell.ts';

const LEAF = 6;

/**
 * Finds the triangles a line goes through without asking all of them: boxes in boxes, halved at the middle triangle along their longest side
 * (Ericson, Real-Time Collision Detection, 2005, ch. 6).
 */
export class TriangleTree {
  readonly #shell: Shell;
  /** Triangles, so that those of a box stand together. */
  readonly #order: Uint32Array;
  /** Six numbers a box. */
  readonly #boxes: number[] = [];
  /** Two numbers a box: the first triangle and how many for a leaf; else the second child, and none. The first child comes next. */
  readonly #boxOf: number[] = [];
  readonly #waiting: number[] = [];
  /** How far along the line each hit is, and 1 where the line goes out there, -1 where it comes in. */
  readonly at: number[] = [];
  readonly sign: number[] = [];

  constructor(shell: Shell) {
    this.#shell = shell;
    const count = shell.triangles.length / 3;
    this.#order = Uint32Array.from({ length: count }, (_, i) => i);
    const middles = new Float64Array(count * 3);
    for (let t = 0; t < count * 3; t++)
      for (let c = 0; c < 3; c++) middles[Math.floor(t / 3) * 3 + c] += shell.positions[shell.triangles[t] * 3 + c] / 3;
    if (count > 0) this.#build(0, count, middles);
  }

  #build(from: number, to: number, middles: Float64Array): void {
    const { positions, triangles } = this.#shell;
    const box = [1, 1, 1, -1, -1, -1].map((sign) => sign * Number.POSITIVE_INFINITY);
    for (let i = from; i < to; i++)
      for (let k = 0; k < 3; k++)
        for (let c = 0; c < 3; c++) {
          const v = positions[triangles[this.#order[i] * 3 + k] * 3 + c];
          if (v < box[c]) box[c] = v;
          if (v > box[c + 3]) box[c + 3] = v;
        }
    const own = this.#boxOf.length;
    this.#boxes.push(...box);
    if (to - from <= LEAF) {
      this.#boxOf.push(from, to - from);
      return;
    }
    const sides = [0, 1, 2].map((c) => box[c + 3] - box[c]);
    const axis = sides.indexOf(Math.max(...sides));
    this.#order.subarray(from, to).sort((a, b) => middles[a * 3 + axis] - middles[b * 3 + axis] || a - b);
    const middle = (from + to) >> 1;
    this.#boxOf.push(0, 0);
    this.#build(from, middle, middles);
    this.#boxOf[own] = this.#boxOf.length / 2;
    this.#build(middle, to, middles);
  }

  /**
   * Writes where a line goes through the shell into `at` and `sign`, in no order. Through an edge it may go twice.
   * @param from to the first and last place along the line that count, in lengths of its way
   */
  hits(
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    from = 0,
    to = Number.POSITIVE_INFINITY,
  ): void {
    this.at.length = 0;
    this.sign.length = 0;
    if (this.#boxOf.length === 0) return;
    const boxes = this.#boxes;
    const boxOf = this.#boxOf;
    const ix = 1 / dx;
    const iy = 1 / dy;
    const iz = 1 / dz;
    const waiting = this.#waiting;
    waiting.length = 0;
    waiting.push(0);
    while (waiting.length > 0) {
      const node = waiting.pop()!;
      const b = node * 6;
      // Where the line lies in a side of the box it is not a number, and every comparison leaves it out.
      const [x0, x1] = [(boxes[b] - x) * ix, (boxes[b + 3] - x) * ix];
      const [y0, y1] = [(boxes[b + 1] - y) * iy, (boxes[b + 4] - y) * iy];
      const [z0, z1] = [(boxes[b + 2] - z) * iz, (boxes[b + 5] - z) * iz];
      let low = from;
      let high = to;
      if (x0 > low && x0 <= x1) low = x0;
      if (x1 > low && x1 < x0) low = x1;
      if (y0 > low && y0 <= y1) low = y0;
      if (y1 > low && y1 < y0) low = y1;
      if (z0 > low && z0 <= z1) low = z0;
      if (z1 > low && z1 < z0) low = z1;
      if (x1 < high && x0 <= x1) high = x1;
      if (x0 < high && x1 < x0) high = x0;
      if (y1 < high && y0 <= y1) high = y1;
      if (y0 < high && y1 < y0) high = y0;
      if (z1 < high && z0 <= z1) high = z1;
      if (z0 < high && z1 < z0) high = z0;
      if (low > high) continue;
      const count = boxOf[node * 2 + 1];
      if (count === 0) {
        waiting.push(boxOf[node * 2], node + 1);
        continue;
      }
      const first = boxOf[node * 2];
      for (let i = first; i < first + count; i++) this.#hit(this.#order[i] * 3, x, y, z, dx, dy, dz, from, to);
    }
  }

  /** One triangle (Möller & Trumbore 1997). */
  #hit(t: number, x: number, y: number, z: number, dx: number, dy: number, dz: number, from: number, to: number): void {
    const { positions: p, triangles } = this.#shell;
    const [a, b, c] = [triangles[t] * 3, triangles[t + 1] * 3, triangles[t + 2] * 3];
    const [e1x, e1y, e1z] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [e2x, e2y, e2z] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const [px, py, pz] = [dy * e2z - dz * e2y, dz * e2x - dx * e2z, dx * e2y - dy * e2x];
    const turn = e1x * px + e1y * py + e1z * pz;
    if (turn === 0) return;
    const [sx, sy, sz] = [x - p[a], y - p[a + 1], z - p[a + 2]];
    const u = (sx * px + sy * py + sz * pz) / turn;
    if (u < 0 || u > 1) return;
    const [qx, qy, qz] = [sy * e1z - sz * e1y, sz * e1x - sx * e1z, sx * e1y - sy * e1x];
    const v = (dx * qx + dy * qy + dz * qz) / turn;
    if (v < 0 || u + v > 1) return;
    const at = (e2x * qx + e2y * qy + e2z * qz) / turn;
    if (at < from || at > to) return;
    this.at.push(at);
    // Against its normal the line comes in, and then the turn is above zero.
    this.sign.push(turn > 0 ? -1 : 1);
  }
}
