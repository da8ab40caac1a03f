import { apart, between, minus, times, type Vector } from '../pose/vectors.ts';

/** How finely the length of a way is measured, between two of its places. */
const STEPS = 24;

/** Where a way is at a share of its length, from 0 to 1. */
export type SmoothWay = (share: number) => Vector;

/** A smooth way through places, gone at one speed (centripetal Catmull–Rom: Yuksel, Schaefer & Keyser 2011). @param places two or more */
export function wayThrough(places: readonly Vector[]): SmoothWay {
  const point = (i: number): Vector => {
    if (i < 0) return minus(times(places[0], 2), places[1]);
    if (i >= places.length) return minus(times(places[places.length - 1], 2), places[places.length - 2]);
    return places[i];
  };
  const on = (u: number): Vector => {
    const i = Math.min(places.length - 2, Math.floor(u));
    return spline(point(i - 1), point(i), point(i + 1), point(i + 2), u - i);
  };
  const lengths = [0];
  const count = STEPS * (places.length - 1);
  for (let s = 1; s <= count; s++) lengths.push(lengths[s - 1] + apart(on((s - 1) / STEPS), on(s / STEPS)));
  return (share) => {
    const wanted = Math.min(1, Math.max(0, share)) * lengths[count];
    let s = 1;
    while (s < count && lengths[s] < wanted) s++;
    const long = lengths[s] - lengths[s - 1];
    return on((s - 1 + (long > 0 ? (wanted - lengths[s - 1]) / long : 0)) / STEPS);
  };
}

function spline(a: Vector, b: Vector, c: Vector, d: Vector, t: number): Vector {
  const knot = (p: Vector, q: Vector) => Math.max(1e-6, Math.sqrt(apart(p, q)));
  const t1 = knot(a, b);
  const t2 = t1 + knot(b, c);
  const t3 = t2 + knot(c, d);
  const u = t1 + t * (t2 - t1);
  const mix = (p: Vector, q: Vector, from: number, to: number) => between(p, q, (u - from) / (to - from));
  const [ab, bc, cd] = [mix(a, b, 0, t1), mix(b, c, t1, t2), mix(c, d, t2, t3)];
  return mix(mix(ab, bc, 0, t2), mix(bc, cd, t1, t3), t1, t2);
}
