import type { Way } from '../document/clip.ts';

/** How far apart the samples of a way are, metres: straight lines between them are within a hundredth of a millimetre of a bend of a metre. */
const STEP = 0.01;
const MOST_SAMPLES = 40_000;

/**
 * A way made ready: a smooth line through its points, seen from above, measured along itself, with the height of the ground under
 * it. Before its beginning and after its end it goes straight on.
 */
export class CompiledWay {
  /** Metres along it, seen from above. */
  readonly length: number;
  readonly #step: number;
  readonly #x: Float64Array;
  readonly #z: Float64Array;
  /** Which way it heads: radians about +Y from +Z, without jumps. */
  readonly #heading: Float64Array;
  readonly #ground: Way['ground'];

  constructor(way: Way) {
    const line = smoothLine(way.points);
    this.length = line.at[line.at.length - 1];
    const n = Math.min(MOST_SAMPLES, Math.max(2, Math.ceil(this.length / STEP) + 1));
    this.#step = this.length / (n - 1);
    this.#x = new Float64Array(n);
    this.#z = new Float64Array(n);
    this.#heading = new Float64Array(n);
    let k = 0;
    for (let i = 0; i < n; i++) {
      const d = i * this.#step;
      while (k + 2 < line.at.length && line.at[k + 1] < d) k++;
      const span = line.at[k + 1] - line.at[k];
      const t = span > 0 ? (d - line.at[k]) / span : 0;
      this.#x[i] = line.x[k] + (line.x[k + 1] - line.x[k]) * t;
      this.#z[i] = line.z[k] + (line.z[k + 1] - line.z[k]) * t;
    }
    for (let i = 0; i < n; i++) {
      const [a, b] = [Math.max(0, i - 1), Math.min(n - 1, i + 1)];
      const heading = Math.atan2(this.#x[b] - this.#x[a], this.#z[b] - this.#z[a]);
      const last = i > 0 ? this.#heading[i - 1] : heading;
      this.#heading[i] = heading + Math.round((last - heading) / (2 * Math.PI)) * 2 * Math.PI;
    }
    this.#ground = way.ground;
  }

  /** Writes where it is so far along it to `out`: x, z and heading. Allocates nothing. */
  placeAt(d: number, out: Float64Array): void {
    const last = this.#x.length - 1;
    const within = Math.min(Math.max(d, 0), this.length);
    const at = this.#step > 0 ? within / this.#step : 0;
    const i = Math.min(Math.floor(at), last - 1);
    const t = at - i;
    out[0] = this.#x[i] + (this.#x[i + 1] - this.#x[i]) * t;
    out[1] = this.#z[i] + (this.#z[i + 1] - this.#z[i]) * t;
    out[2] = this.#heading[i] + (this.#heading[i + 1] - this.#heading[i]) * t;
    const beyond = d - within;
    out[0] += Math.sin(out[2]) * beyond;
    out[1] += Math.cos(out[2]) * beyond;
  }

  /** How high the ground is so far along it. Where it jumps, the side it comes from counts at the jump itself. */
  heightAt(d: number): number {
    const ground = this.#ground;
    let low = 0;
    let high = ground.length - 1;
    if (d <= ground[0][0]) return ground[0][1];
    if (d > ground[high][0]) return ground[high][1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (ground[middle][0] < d) low = middle;
      else high = middle;
    }
    const [a, b] = [ground[low], ground[high]];
    return b[0] > a[0] ? a[1] + ((b[1] - a[1]) * (d - a[0])) / (b[0] - a[0]) : b[1];
  }
}

/** Parts of the way between two points in which it is drawn as straight. */
const PARTS = 24;

/**
 * A line through points seen from above: a Catmull-Rom spline with centripetal knots, which makes no loops and no cusps where
 * points lie unevenly (Yuksel, Schaefer & Keyser, "Parameterization and applications of Catmull-Rom curves", CAD 43, 2011).
 */
function smoothLine(points: Way['points']): { x: number[]; z: number[]; at: number[] } {
  const plan = points
    .map(([x, , z]) => [x, z] as const)
    .filter((p, i, all) => i === 0 || Math.hypot(p[0] - all[i - 1][0], p[1] - all[i - 1][1]) > 1e-6);
  if (plan.length < 2) plan.push([plan[0][0], plan[0][1] + 1e-3]);
  const before = [2 * plan[0][0] - plan[1][0], 2 * plan[0][1] - plan[1][1]] as const;
  const n = plan.length;
  const after = [2 * plan[n - 1][0] - plan[n - 2][0], 2 * plan[n - 1][1] - plan[n - 2][1]] as const;
  const all = [before, ...plan, after];
  const x = [plan[0][0]];
  const z = [plan[0][1]];
  const at = [0];
  const knot = (a: readonly number[], b: readonly number[]) => Math.sqrt(Math.hypot(a[0] - b[0], a[1] - b[1]));
  for (let i = 1; i + 2 < all.length; i++) {
    const [p0, p1, p2, p3] = [all[i - 1], all[i], all[i + 1], all[i + 2]];
    const [t1, t2, t3] = [knot(p0, p1), knot(p0, p1) + knot(p1, p2), knot(p0, p1) + knot(p1, p2) + knot(p2, p3)];
    for (let k = 1; k <= PARTS; k++) {
      const t = t1 + ((t2 - t1) * k) / PARTS;
      const mix = (a: number, b: number, ta: number, tb: number) => ((tb - t) * a + (t - ta) * b) / (tb - ta);
      const [px, pz] = [0, 1].map((c) => {
        const a1 = mix(p0[c], p1[c], 0, t1);
        const a2 = mix(p1[c], p2[c], t1, t2);
        const a3 = mix(p2[c], p3[c], t2, t3);
        return mix(mix(a1, a2, 0, t2), mix(a2, a3, t1, t3), t1, t2);
      });
      at.push(at[at.length - 1] + Math.hypot(px - x[x.length - 1], pz - z[z.length - 1]));
      x.push(px);
      z.push(pz);
    }
  }
  return { x, z, at };
}
