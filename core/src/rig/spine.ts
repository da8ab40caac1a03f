import { compose, multiply, scaleOf, slerp, swing, transformPoint, turnOf, turnTimes } from '../pose/affine.ts';
import type { FrameNumbers, Operation } from './operation.ts';

const start = new Float64Array(16);
const end = new Float64Array(16);
const a = new Float64Array(3);
const b = new Float64Array(3);
const turns = new Float64Array(8);
const swung = new Float64Array(4);
const turned = new Float64Array(4);

/**
 * A chain between two ends that each carry it rigidly: every joint stands where the two carried places, weighed by a smooth
 * step along the chain, put it. The chain leaves both ends the way they point, comes back to rest exactly when they do, and
 * stretches when they part.
 */
export class Spine implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #from: number;
  readonly #fromOffset: Float64Array;
  readonly #to: number;
  readonly #toOffset: Float64Array;
  readonly #nodes: readonly number[];
  /** Places at rest, three numbers a joint; the share of the far end in each; how each joint is turned at rest. */
  readonly #places: Float64Array;
  readonly #shares: Float64Array;
  readonly #own: Float64Array;
  readonly #points: Float64Array;

  /**
   * @param fromOffset and `toOffset`: from the rig at rest into the two ends
   * @param rests the joints' matrices at rest, 16 numbers each
   */
  constructor(
    from: number,
    fromOffset: Float64Array,
    to: number,
    toOffset: Float64Array,
    nodes: readonly number[],
    rests: Float64Array,
  ) {
    this.reads = [from, to];
    this.writes = nodes;
    this.#from = from * 16;
    this.#fromOffset = fromOffset;
    this.#to = to * 16;
    this.#toOffset = toOffset;
    this.#nodes = nodes;
    const n = nodes.length;
    this.#places = new Float64Array(n * 3);
    this.#points = new Float64Array(n * 3);
    this.#own = new Float64Array(n * 4);
    this.#shares = new Float64Array(n);
    const lengths = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      for (let c = 0; c < 3; c++) this.#places[i * 3 + c] = rests[i * 16 + 12 + c];
      turnOf(this.#own, i * 4, rests, i * 16);
      if (i > 0) lengths[i] = lengths[i - 1] + Math.hypot(...[0, 1, 2].map((c) => this.#between(i - 1, i, c)));
    }
    for (let i = 0; i < n; i++) {
      const t = lengths[i] / lengths[n - 1];
      this.#shares[i] = t * t * (3 - 2 * t);
    }
  }

  #between(i: number, j: number, c: number): number {
    return this.#places[j * 3 + c] - this.#places[i * 3 + c];
  }

  run({ world }: FrameNumbers): void {
    multiply(start, 0, world, this.#from, this.#fromOffset, 0);
    multiply(end, 0, world, this.#to, this.#toOffset, 0);
    turnOf(turns, 0, start, 0);
    turnOf(turns, 4, end, 0);
    const s0 = scaleOf(start, 0);
    const s1 = scaleOf(end, 0);
    const places = this.#places;
    const points = this.#points;
    const n = this.#nodes.length;
    for (let i = 0; i < n; i++) {
      const p = i * 3;
      transformPoint(a, 0, start, 0, places[p], places[p + 1], places[p + 2]);
      transformPoint(b, 0, end, 0, places[p], places[p + 1], places[p + 2]);
      for (let c = 0; c < 3; c++) points[p + c] = a[c] + (b[c] - a[c]) * this.#shares[i];
    }
    for (let i = 0; i < n; i++) {
      const share = this.#shares[i];
      slerp(turned, 0, turns, 0, turns, 4, share);
      if (i > 0 && i < n - 1) this.#lean(i);
      turnTimes(turned, 0, turned, 0, this.#own, i * 4);
      const p = i * 3;
      compose(world, this.#nodes[i] * 16, turned, 0, s0 + (s1 - s0) * share, points[p], points[p + 1], points[p + 2]);
    }
  }

  /** Swings a joint between the ends so that it goes along the chain as it did at rest. */
  #lean(i: number): void {
    const x = this.#between(i - 1, i + 1, 0);
    const y = this.#between(i - 1, i + 1, 1);
    const z = this.#between(i - 1, i + 1, 2);
    const qx = turned[0];
    const qy = turned[1];
    const qz = turned[2];
    const qw = turned[3];
    // The way at rest, turned: v + 2w(q × v) + 2q × (q × v).
    const cx = 2 * (qy * z - qz * y);
    const cy = 2 * (qz * x - qx * z);
    const cz = 2 * (qx * y - qy * x);
    const p = this.#points;
    const before = (i - 1) * 3;
    const after = (i + 1) * 3;
    swing(
      swung,
      0,
      x + qw * cx + qy * cz - qz * cy,
      y + qw * cy + qz * cx - qx * cz,
      z + qw * cz + qx * cy - qy * cx,
      p[after] - p[before],
      p[after + 1] - p[before + 1],
      p[after + 2] - p[before + 2],
      1,
    );
    turnTimes(turned, 0, swung, 0, turned, 0);
  }
}
