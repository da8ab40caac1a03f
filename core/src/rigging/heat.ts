import type { Shell } from './shell.ts';

/** Half a cotangent is not let below this, so that flat triangles carry heat too and none of it backwards. */
const LEAST = 0.01;
/** How exactly the heat is worked out, against how much there is: a hundredth of what a weight can say. */
const EXACT = 1e-5;
const MOST_STEPS = 2_000;
/** Along the skin heat falls by e for each distance of the bones there: beyond so many of those it is less than a weight can say (1e-4). */
const GONE = 9;

/**
 * How heat stands on a surface that is held warm in places: solves `(L + M·H) w = M·H·p`, with the surface's own Laplacian `L` (cotangents:
 * Pinkall & Polthier 1993) and its areas `M`, by conjugate gradients, where there is any. Baran & Popović, *Automatic Rigging and Animation of
 * 3D Characters*, SIGGRAPH 2007, weigh bodies so: where a bone is near its heat rules, and between bones it goes over softly, along the body
 * and nowhere else.
 */
export class Heat {
  readonly #count: number;
  /** Neighbours of each point, one list after another; how much heat goes over to them, and how many distances of the bones away they are. */
  readonly #starts: Uint32Array;
  readonly #to: Uint32Array;
  readonly #flow: Float64Array;
  readonly #away: Float64Array;
  readonly #diagonal: Float64Array;
  /** The area of each point times how strongly it is held. */
  readonly #held: Float64Array;
  /** Of each point its place among those that are worked on; -1 for the others. */
  readonly #local: Int32Array;

  /** @param strength how strongly each point is held, per square metre; 0 for those that take what their neighbours have */
  constructor(shell: Shell, strength: Float64Array) {
    this.#count = strength.length;
    const areas = new Float64Array(this.#count);
    const flows = flowsOf(shell, areas);
    this.#starts = new Uint32Array(this.#count + 1);
    for (const key of flows.keys()) this.#starts[Math.floor(key / this.#count) + 1]++;
    for (let p = 0; p < this.#count; p++) this.#starts[p + 1] += this.#starts[p];
    this.#to = new Uint32Array(flows.size);
    this.#flow = new Float64Array(flows.size);
    this.#away = new Float64Array(flows.size);
    this.#diagonal = new Float64Array(this.#count);
    this.#local = new Int32Array(this.#count).fill(-1);
    const next = this.#starts.slice(0, this.#count);
    const { positions } = shell;
    for (const [key, cotangents] of flows) {
      const from = Math.floor(key / this.#count);
      const to = key % this.#count;
      const flow = Math.max(LEAST, cotangents / 2);
      const long = Math.hypot(...[0, 1, 2].map((c) => positions[from * 3 + c] - positions[to * 3 + c]));
      const i = next[from]++;
      this.#to[i] = to;
      this.#flow[i] = flow;
      this.#away[i] = long * Math.sqrt((strength[from] + strength[to]) / 2);
      this.#diagonal[from] += flow;
    }
    this.#held = areas.map((area, p) => area * strength[p]);
    // A point without a neighbour and without heat of its own stays as it is.
    for (let p = 0; p < this.#count; p++) this.#diagonal[p] = this.#diagonal[p] + this.#held[p] || 1;
  }

  /**
   * @param warm what each held point is held at, from 0 to 1
   * @returns what each point comes to
   */
  settled(warm: Float64Array): Float64Array {
    const active = this.#reached(warm);
    const part = this.#part(active);
    const solved = solve(
      part,
      active.map((p) => warm[p]),
      active.map((p) => this.#held[p] * warm[p]),
    );
    const out = new Float64Array(this.#count);
    active.forEach((p, i) => {
      out[p] = solved[i];
      this.#local[p] = -1;
    });
    return out;
  }

  /** The points that heat reaches from where it is. */
  #reached(warm: Float64Array): number[] {
    const far = new Map<number, number>();
    const queue: number[] = [];
    for (let p = 0; p < this.#count; p++)
      if (warm[p] > 0) {
        far.set(p, 0);
        queue.push(p);
      }
    for (let i = 0; i < queue.length; i++) {
      const p = queue[i];
      for (let k = this.#starts[p]; k < this.#starts[p + 1]; k++) {
        const there = far.get(p)! + this.#away[k];
        if (there > GONE || there >= (far.get(this.#to[k]) ?? Number.POSITIVE_INFINITY)) continue;
        far.set(this.#to[k], there);
        queue.push(this.#to[k]);
      }
    }
    return [...far.keys()];
  }

  /** The equations of some points alone: beyond them it is cold. */
  #part(active: readonly number[]): Part {
    active.forEach((p, i) => {
      this.#local[p] = i;
    });
    const starts = new Uint32Array(active.length + 1);
    const to: number[] = [];
    const flow: number[] = [];
    active.forEach((p, i) => {
      for (let k = this.#starts[p]; k < this.#starts[p + 1]; k++) {
        const local = this.#local[this.#to[k]];
        if (local < 0) continue;
        to.push(local);
        flow.push(this.#flow[k]);
      }
      starts[i + 1] = to.length;
    });
    const diagonal = Float64Array.from(active, (p) => this.#diagonal[p]);
    return { starts, to: Uint32Array.from(to), flow: Float64Array.from(flow), diagonal };
  }
}

/** A symmetric matrix: its diagonal, and row by row what is taken off for neighbours. */
interface Part {
  readonly starts: Uint32Array;
  readonly to: Uint32Array;
  readonly flow: Float64Array;
  readonly diagonal: Float64Array;
}

function apply({ starts, to, flow, diagonal }: Part, values: Float64Array, out: Float64Array): void {
  for (let p = 0; p < out.length; p++) {
    let sum = diagonal[p] * values[p];
    const end = starts[p + 1];
    for (let i = starts[p]; i < end; i++) sum -= flow[i] * values[to[i]];
    out[p] = sum;
  }
}

/** Conjugate gradients, each row weighed by its diagonal (Shewchuk 1994). */
function solve(part: Part, guess: readonly number[], source: readonly number[]): Float64Array {
  const { diagonal } = part;
  const count = diagonal.length;
  const out = Float64Array.from(guess);
  const [rest, way, over] = [0, 1, 2].map(() => new Float64Array(count));
  apply(part, out, over);
  let [square, wanted] = [0, 0];
  for (let p = 0; p < count; p++) {
    rest[p] = source[p] - over[p];
    way[p] = rest[p] / diagonal[p];
    square += rest[p] * way[p];
    wanted += (source[p] * source[p]) / diagonal[p];
  }
  for (let step = 0; step < MOST_STEPS && square > EXACT * EXACT * wanted; step++) {
    apply(part, way, over);
    let along = 0;
    for (let p = 0; p < count; p++) along += way[p] * over[p];
    const by = square / along;
    let next = 0;
    for (let p = 0; p < count; p++) {
      out[p] += by * way[p];
      rest[p] -= by * over[p];
      next += (rest[p] * rest[p]) / diagonal[p];
    }
    const keep = next / square;
    square = next;
    for (let p = 0; p < count; p++) way[p] = rest[p] / diagonal[p] + keep * way[p];
  }
  return out;
}

/** What of heat goes from point to point (the cotangents of the angles that look at their edge), by `from · points + to`; and areas. */
function flowsOf({ positions, triangles }: Shell, areas: Float64Array): Map<number, number> {
  const flows = new Map<number, number>();
  const count = areas.length;
  const add = (key: number, by: number) => flows.set(key, (flows.get(key) ?? 0) + by);
  for (let t = 0; t < triangles.length; t += 3) {
    for (let k = 0; k < 3; k++) {
      const [a, b, c] = [0, 1, 2].map((i) => triangles[t + ((k + i) % 3)]);
      const [ux, uy, uz] = [0, 1, 2].map((i) => positions[b * 3 + i] - positions[a * 3 + i]);
      const [vx, vy, vz] = [0, 1, 2].map((i) => positions[c * 3 + i] - positions[a * 3 + i]);
      const twice = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
      areas[a] += twice / 6;
      const cotangent = twice > 0 ? (ux * vx + uy * vy + uz * vz) / twice : 0;
      add(b * count + c, cotangent);
      add(c * count + b, cotangent);
    }
  }
  return flows;
}
