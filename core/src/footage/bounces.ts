import type { TracedPoint } from './traced.ts';

/**
 * The bounces of a point that was followed through footage. Dots sit on pictures, and neither the ground nor the top of a flight need be on
 * one: so each flight is fitted with the parabola it must be, and read off that.
 */

/** A flight from one contact to the next. Seconds and metres. */
export interface TracedBounce {
  /** When it leaves the ground; null for one that is dropped. */
  readonly leaves: number | null;
  readonly top: number;
  /** When it meets the ground. */
  readonly lands: number;
  readonly height: number;
  /** Its height as a share of the one before; null at the first. */
  readonly ratio: number | null;
  /** Metres a second and second; null where it has too few dots to tell. */
  readonly gravity: number | null;
}

/** A parabola `height = a + b t + c t²` about a time of its own. */
interface Parabola {
  readonly about: number;
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

/** A low point counts as a contact where what lies beside it rises by at least this share of all there is. */
const PROMINENT = 0.03;

export function tracedBounces(points: readonly TracedPoint[]): TracedBounce[] {
  if (points.length < 4) return [];
  const contacts = lowPoints(points);
  if (contacts.length === 0) return [];
  const edges = [0, ...contacts.filter((i) => i > 0 && i < points.length - 1), points.length - 1];
  const flights = edges.slice(1).flatMap((to, i) => {
    // The dots at the contacts themselves belong to no flight: there it is being squashed, or has turned already.
    const inside = points.slice(edges[i] + (i === 0 ? 0 : 1), to + (to === points.length - 1 ? 1 : 0));
    return inside.length === 0
      ? []
      : [{ inside, fit: trusted(fitted(inside), inside), first: points[edges[i]], last: points[to] }];
  });
  const meets = flights.slice(1).map((flight, i) => meeting(flights[i].fit, flight.fit, flight.first));
  if (meets.length === 0) return [];
  // The ground is where flights meet that are known; a dot beside a contact hangs above it.
  const sure = meets.filter((m) => m.sure);
  const ground = median((sure.length > 0 ? sure : meets).map((m) => m.height));
  const out: TracedBounce[] = [];
  for (const [i, { inside, fit, last }] of flights.entries()) {
    const lands = meets[i]?.seconds ?? landing(fit, ground) ?? last.seconds;
    const { top, height } = highest(inside, fit, ground);
    // What still rises when the dots end has not bounced, and what comes to rest after many small bounces is none of them.
    if (i === flights.length - 1 && (!fit || height < 1e-6 || top >= last.seconds)) continue;
    const before = out.at(-1);
    out.push({
      leaves: i === 0 ? null : meets[i - 1].seconds,
      top,
      lands,
      height,
      ratio: before ? height / before.height : null,
      gravity: fit && fit.c < 0 ? -2 * fit.c : null,
    });
  }
  return out;
}

/** The dots that lie lowest between two rises that are worth the name. */
function lowPoints(points: readonly TracedPoint[]): number[] {
  const heights = points.map((p) => p.y);
  const need = PROMINENT * (Math.max(...heights) - Math.min(...heights));
  if (need <= 0) return [];
  const out: number[] = [];
  let low = 0;
  let high = 0;
  let falling = true;
  for (let i = 1; i < heights.length; i++) {
    if (falling) {
      if (heights[i] < heights[low]) low = i;
      else if (heights[i] - heights[low] > need) {
        out.push(low);
        [falling, high] = [false, i];
      }
    } else if (heights[i] > heights[high]) high = i;
    else if (heights[high] - heights[i] > need) [falling, low] = [true, i];
  }
  return out;
}

/** The parabola that lies nearest to dots (least squares); null for fewer than three. */
function fitted(points: readonly TracedPoint[]): Parabola | null {
  if (points.length < 3) return null;
  const about = points.reduce((sum, p) => sum + p.seconds, 0) / points.length;
  const s = [0, 0, 0, 0, 0];
  const r = [0, 0, 0];
  for (const { seconds, y } of points) {
    const t = seconds - about;
    for (let k = 0, power = 1; k < 5; k++, power *= t) {
      s[k] += power;
      if (k < 3) r[k] += power * y;
    }
  }
  const solved = solve(s, r);
  return solved ? { about, a: solved[0], b: solved[1], c: solved[2] } : null;
}

/** How far dots may lie from the parabola of a flight, of its own height, on the average. */
const OFF = 0.03;

/** A parabola that the dots lie on: those of a flight do, those of several small ones, or of a roll, do not. */
function trusted(fit: Parabola | null, points: readonly TracedPoint[]): Parabola | null {
  if (!fit) return null;
  const squares = points.reduce((sum, p) => sum + (p.y - heightAt(fit, p.seconds)) ** 2, 0);
  const heights = points.map((p) => p.y);
  const spread = Math.max(...heights) - Math.min(...heights);
  return fit.c < 0 && Math.sqrt(squares / points.length) <= OFF * spread ? fit : null;
}

/** The normal equations of a parabola, by Cramer's rule. */
function solve(s: readonly number[], r: readonly number[]): readonly [number, number, number] | null {
  const [m00, m01, m02, m11, m12, m22] = [s[0], s[1], s[2], s[2], s[3], s[4]];
  const d = m00 * (m11 * m22 - m12 * m12) - m01 * (m01 * m22 - m12 * m02) + m02 * (m01 * m12 - m11 * m02);
  if (Math.abs(d) < 1e-18) return null;
  const a = r[0] * (m11 * m22 - m12 * m12) - m01 * (r[1] * m22 - m12 * r[2]) + m02 * (r[1] * m12 - m11 * r[2]);
  const b = m00 * (r[1] * m22 - r[2] * m12) - r[0] * (m01 * m22 - m12 * m02) + m02 * (m01 * r[2] - r[1] * m02);
  const c = m00 * (m11 * r[2] - m12 * r[1]) - m01 * (m01 * r[2] - r[1] * m02) + r[0] * (m01 * m12 - m11 * m02);
  return [a / d, b / d, c / d];
}

const heightAt = ({ about, a, b, c }: Parabola, seconds: number): number => {
  const t = seconds - about;
  return a + b * t + c * t * t;
};

interface Meeting {
  readonly seconds: number;
  readonly height: number;
  readonly sure: boolean;
}

/** Where one flight ends and the next begins: where their parabolas meet, nearest to the dot that lies lowest between them. */
function meeting(one: Parabola | null, next: Parabola | null, low: TracedPoint): Meeting {
  const here = { seconds: low.seconds, height: low.y, sure: false };
  if (!one || !next) return here;
  // The second one's terms about the first one's time.
  const shift = one.about - next.about;
  const a = one.a - (next.a + next.b * shift + next.c * shift * shift);
  const b = one.b - (next.b + 2 * next.c * shift);
  const c = one.c - next.c;
  const roots = quadratic(a, b, c).map((t) => t + one.about);
  const nearest = roots.sort((p, q) => Math.abs(p - low.seconds) - Math.abs(q - low.seconds))[0];
  if (nearest === undefined || Math.abs(nearest - low.seconds) > 0.12) return here;
  return { seconds: nearest, height: heightAt(one, nearest), sure: true };
}

/** The times at which `a + b t + c t²` is nothing. */
function quadratic(a: number, b: number, c: number): number[] {
  if (Math.abs(c) < 1e-12) return Math.abs(b) < 1e-12 ? [] : [-a / b];
  const root = b * b - 4 * a * c;
  if (root < 0) return [];
  const q = -0.5 * (b + Math.sign(b || 1) * Math.sqrt(root));
  return [q / c, a / q].filter(Number.isFinite);
}

/** When a flight comes down to the ground; null where it does not. */
function landing(fit: Parabola | null, ground: number): number | null {
  if (!fit || fit.c >= 0) return null;
  const times = quadratic(fit.a - ground, fit.b, fit.c);
  return times.length > 0 ? Math.max(...times) + fit.about : null;
}

/** The top of a flight over the ground: that of its parabola, where that lies among its dots, else its highest dot. */
function highest(
  inside: readonly TracedPoint[],
  fit: Parabola | null,
  ground: number,
): { top: number; height: number } {
  const dot = inside.reduce((best, p) => (p.y > best.y ? p : best), inside[0]);
  if (fit && fit.c < 0) {
    const top = fit.about - fit.b / (2 * fit.c);
    const gap = inside.length > 1 ? inside[1].seconds - inside[0].seconds : 0;
    if (top >= inside[0].seconds - gap && top <= inside[inside.length - 1].seconds + gap)
      return { top, height: heightAt(fit, top) - ground };
  }
  return { top: dot.seconds, height: dot.y - ground };
}

const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
};
