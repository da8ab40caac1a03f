import { composeFrom, multiply, scaleOf, slerp, swingFrom, turnOf, turnTimes } from '../pose/affine.ts';
import type { FrameNumbers, Operation } from './operation.ts';

const start = new Float64Array(16);
const end = new Float64Array(16);
const turns = new Float64Array(8);
const swung = new Float64Array(4);
const turned = new Float64Array(4);
/** The way past a joint at rest, and as it is, three numbers each. */
const ways = new Float64Array(6);

/** What a spine has in common in all rigs of a definition. */
export interface SpineAtRest {
  /** Where its joints are, three numbers each. */
  readonly places: Float64Array;
  /** The share of the far end in each. */
  readonly shares: Float64Array;
  /** How each is turned. */
  readonly own: Float64Array;
  /** Room for where each stands now, and its size. */
  readonly stands: Float64Array;
}

/** @param rests the joints' matrices at rest, from the near end to the far one */
export function spineAtRest(rests: readonly Float64Array[]): SpineAtRest {
  const n = rests.length;
  const places = Float64Array.from(rests.flatMap((m) => [m[12], m[13], m[14]]));
  const own = new Float64Array(n * 4);
  const lengths = new Float64Array(n);
  rests.forEach((rest, i) => {
    turnOf(own, i * 4, rest, 0);
    if (i > 0) lengths[i] = lengths[i - 1] + Math.hypot(...[0, 1, 2].map((c) => rest[12 + c] - rests[i - 1][12 + c]));
  });
  const shares = lengths.map((length) => {
    const t = length / lengths[n - 1];
    return t * t * (3 - 2 * t);
  });
  return { places, shares, own, stands: new Float64Array(n * 4) };
}

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
  readonly #rest: SpineAtRest;

  /** @param fromOffset and `toOffset`: from the rig at rest into the two ends */
  constructor(
    from: number,
    fromOffset: Float64Array,
    to: number,
    toOffset: Float64Array,
    nodes: readonly number[],
    rest: SpineAtRest,
  ) {
    this.reads = [from, to];
    this.writes = nodes;
    this.#from = from * 16;
    this.#fromOffset = fromOffset;
    this.#to = to * 16;
    this.#toOffset = toOffset;
    this.#nodes = nodes;
    this.#rest = rest;
  }

  run({ world }: FrameNumbers): void {
    multiply(start, 0, world, this.#from, this.#fromOffset, 0);
    multiply(end, 0, world, this.#to, this.#toOffset, 0);
    turnOf(turns, 0, start, 0);
    turnOf(turns, 4, end, 0);
    const { own, shares, stands } = this.#rest;
    stand(this.#rest);
    const n = this.#nodes.length;
    for (let i = 0; i < n; i++) {
      slerp(turned, 0, turns, 0, turns, 4, shares[i]);
      if (i > 0 && i < n - 1) lean(this.#rest, i);
      turnTimes(turned, 0, turned, 0, own, i * 4);
      composeFrom(world, this.#nodes[i] * 16, turned, 0, stands, i * 4);
    }
  }
}

/** Finds where every joint stands between the two places it is carried to. */
function stand({ places, shares, stands }: SpineAtRest): void {
  const s0 = scaleOf(start, 0);
  const s1 = scaleOf(end, 0);
  for (let i = 0; i < shares.length; i++) {
    const share = shares[i];
    const x = places[i * 3];
    const y = places[i * 3 + 1];
    const z = places[i * 3 + 2];
    for (let c = 0; c < 3; c++) {
      const a = start[c] * x + start[c + 4] * y + start[c + 8] * z + start[c + 12];
      const b = end[c] * x + end[c + 4] * y + end[c + 8] * z + end[c + 12];
      stands[i * 4 + c] = a + (b - a) * share;
    }
    stands[i * 4 + 3] = s0 + (s1 - s0) * share;
  }
}

/** Swings a joint between the ends so that it goes along the chain as it did at rest. */
function lean({ places, stands }: SpineAtRest, i: number): void {
  const before = (i - 1) * 3;
  const after = (i + 1) * 3;
  const x = places[after] - places[before];
  const y = places[after + 1] - places[before + 1];
  const z = places[after + 2] - places[before + 2];
  const qx = turned[0];
  const qy = turned[1];
  const qz = turned[2];
  const qw = turned[3];
  // The way at rest, turned: v + 2w(q × v) + 2q × (q × v).
  const cx = 2 * (qy * z - qz * y);
  const cy = 2 * (qz * x - qx * z);
  const cz = 2 * (qx * y - qy * x);
  ways[0] = x + qw * cx + qy * cz - qz * cy;
  ways[1] = y + qw * cy + qz * cx - qx * cz;
  ways[2] = z + qw * cz + qx * cy - qy * cx;
  for (let c = 0; c < 3; c++) ways[3 + c] = stands[(i + 1) * 4 + c] - stands[(i - 1) * 4 + c];
  swingFrom(swung, 0, ways, 0, ways, 3, 1);
  turnTimes(turned, 0, swung, 0, turned, 0);
}
