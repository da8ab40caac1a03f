import type { Vector } from '../pose/vectors.ts';
import type { Shell } from './shell.ts';

/** From 1 in the middle of what a hand takes hold of to 0 at its edge, level at both. @param far 0 in the middle, 1 at the edge */
export const softly = (far: number): number => (far >= 1 ? 0 : (1 - far * far) ** 2);

/** The skin of a body as a hand goes over it: which points lie side by side, and how far they are from each other along it. */
export class Surface {
  readonly neighbours: readonly (readonly number[])[];
  readonly #positions: Float64Array;

  constructor({ positions, triangles }: Shell) {
    this.#positions = positions;
    const sets = Array.from({ length: positions.length / 3 }, () => new Set<number>());
    for (let t = 0; t < triangles.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [triangles[t + k], triangles[t + ((k + 1) % 3)]];
        sets[a].add(b);
        sets[b].add(a);
      }
    this.neighbours = sets.map((set) => [...set]);
  }

  /** The point nearest to a place, with how far it is; -1 where there is none. */
  nearest(at: Vector): { readonly point: number; readonly far: number } {
    const p = this.#positions;
    let [point, far] = [-1, Number.POSITIVE_INFINITY];
    for (let i = 0; i < p.length; i += 3) {
      const own = Math.hypot(p[i] - at[0], p[i + 1] - at[1], p[i + 2] - at[2]);
      if (own < far) [point, far] = [i / 3, own];
    }
    return { point, far };
  }

  /** Points within a reach along the skin from the one nearest to a place, with how far they are; none across a gap. */
  within(at: Vector, reach: number): Map<number, number> {
    const p = this.#positions;
    const out = new Map<number, number>();
    const { point, far } = this.nearest(at);
    if (point < 0 || far >= reach) return out;
    out.set(point, far);
    const queue = [point];
    for (let i = 0; i < queue.length; i++) {
      const from = out.get(queue[i])!;
      const a = queue[i] * 3;
      for (const next of this.neighbours[queue[i]]) {
        const b = next * 3;
        const there = from + Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
        if (there >= reach || there >= (out.get(next) ?? Number.POSITIVE_INFINITY)) continue;
        out.set(next, there);
        queue.push(next);
      }
    }
    return out;
  }
}
