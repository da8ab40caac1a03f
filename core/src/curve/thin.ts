import { type Bernstein, mostOf, product, raised, writePart } from './bernstein.ts';
import { compileCurve, writeControlPoints } from './compile.ts';
import { handleReach, handleSlope } from './handles.ts';
import type { InHandle, Key, NumberCurve, OutHandle } from './key.ts';
import { repeats } from './slopes.ts';

/** What thinning came to. */
export interface Thinned {
  readonly curve: NumberCurve;
  readonly removed: number;
  /** The most the curve moved anywhere between its keys, whole frame or not; never more than the tolerance. */
  readonly largest: number;
}

/**
 * Takes away keys a curve can do without. Each run of keys is replaced by the one Bézier that fits it best, as long as
 * nothing anywhere along it moves by more than the tolerance: the difference of the two is a polynomial, and its
 * largest value is bounded, not sampled. First and last key stay, stepped stretches stay, and so does what lies beyond.
 *
 * @param tolerance in the channel's unit, above 0
 * @param removable whether the key at an index may go
 */
export function thinned(
  curve: NumberCurve,
  tolerance: number,
  removable: (index: number) => boolean = () => true,
): Thinned {
  const last = curve.keys.length - 1;
  const original = new Original(curve);
  const kept: Run[] = [];
  let largest = 0;
  let slope: number | null = null;
  for (let i = 0; i < last; ) {
    const run: Run = longestRun(original, i, slope, tolerance, removable) ?? { from: i, to: i + 1, fit: null, most: 0 };
    largest = Math.max(largest, run.most);
    kept.push(run);
    slope = run.fit && original.smoothAt(run.to) ? run.fit.arrive : null;
    i = run.to;
  }
  const removed = last - kept.length;
  return removed === 0 ? { curve, removed: 0, largest: 0 } : { curve: rebuilt(original, kept), removed, largest };
}

/** Slopes of the Bézier that stands in for a run, in value per frame. */
interface Fit {
  readonly leave: number;
  readonly arrive: number;
}

interface Run {
  readonly from: number;
  readonly to: number;
  /** Null where the one segment stays as it is. */
  readonly fit: Fit | null;
  readonly most: number;
}

/** The curve as it was, taken apart once. */
class Original {
  readonly curve: NumberCurve;
  readonly keys: readonly Key[];
  /** Control points of each segment: frame, value, frame, value. */
  readonly #control: Float64Array;

  constructor(curve: NumberCurve) {
    this.curve = curve;
    this.keys = curve.keys;
    const compiled = compileCurve(curve);
    this.#control = new Float64Array(Math.max(0, curve.keys.length - 1) * 4);
    const scratch = new Float64Array(4);
    for (let i = 0; i + 1 < curve.keys.length; i++) {
      writeControlPoints(compiled, i, scratch);
      this.#control.set(scratch, i * 4);
    }
  }

  frames(i: number): [number, number, number, number] {
    return [this.keys[i].frame, this.#control[i * 4], this.#control[i * 4 + 2], this.keys[i + 1].frame];
  }

  values(i: number): [number, number, number, number] {
    return [this.keys[i].value, this.#control[i * 4 + 1], this.#control[i * 4 + 3], this.keys[i + 1].value];
  }

  /** Whether time goes evenly along a segment, but for what rounding leaves: it is a cubic straight in frames then. */
  goesEvenly(i: number): boolean {
    const [a, b, c, d] = this.frames(i);
    return Math.abs(b - (2 * a + d) / 3) + Math.abs(c - (a + 2 * d) / 3) < 1e-10 * (d - a);
  }

  stepped(i: number): boolean {
    return this.keys[i].out.kind === 'stepped';
  }

  /** Whether the curve goes through a key without a corner. */
  smoothAt(i: number): boolean {
    const [a, b] = [handleSlope(this.curve, i, 'in'), handleSlope(this.curve, i, 'out')];
    return Math.abs(a - b) <= 1e-6 * Math.max(1e-6, Math.abs(a), Math.abs(b));
  }
}

function longestRun(
  original: Original,
  from: number,
  slope: number | null,
  tolerance: number,
  removable: (index: number) => boolean,
): Run | null {
  const last = original.keys.length - 1;
  if (original.stepped(from)) return null;
  // As far as a run could go at all.
  let end = from + 1;
  while (end < last && removable(end) && !original.stepped(end)) end++;
  const joined = farthest(from, end, (to) => fitted(original, from, to, slope, tolerance));
  if (slope === null) return joined;
  const broken = farthest(from, end, (to) => fitted(original, from, to, null, tolerance));
  // A corner within the tolerance is still a corner: it must save a good deal.
  return broken && broken.to - from > 1.5 * ((joined?.to ?? from + 1) - from) ? broken : joined;
}

/** The longest run that can be fitted, taking it that a longer one is harder; null where none goes further than to the next key. */
export function farthest<Fitted>(from: number, end: number, attempt: (to: number) => Fitted | null): Fitted | null {
  // Twice as far as long as it goes well, then halving between what went and what did not.
  let best: Fitted | null = null;
  let good = from + 1;
  let step = 1;
  let bad = end + 1;
  while (good < end) {
    const to = Math.min(end, good + step);
    const run = attempt(to);
    if (!run) {
      bad = to;
      break;
    }
    best = run;
    good = to;
    step *= 2;
  }
  while (bad - good > 1) {
    const to = (good + bad) >> 1;
    const run = attempt(to);
    if (run) {
      best = run;
      good = to;
    } else bad = to;
  }
  return best;
}

/** The best Bézier from one key to another, where it stays within the tolerance. */
function fitted(original: Original, from: number, to: number, slope: number | null, tolerance: number): Run | null {
  const fit = bestSlopes(original, from, to, slope);
  const most = largestGap(original, from, to, fit, tolerance);
  return most <= tolerance ? { from, to, fit, most } : null;
}

/**
 * Slopes at both ends by least squares over points of the curve, or only at the far end where the near one is given. Where
 * the curve goes on at its slope beyond its keys, that slope is kept.
 */
function bestSlopes(original: Original, from: number, to: number, slope: number | null): Fit {
  const { keys, curve } = original;
  const [a, b] = [keys[from], keys[to]];
  const length = b.frame - a.frame;
  const leaveFixed = from === 0 && curve.before === 'slope' ? handleSlope(curve, 0, 'out') : slope;
  const arriveFixed = to === keys.length - 1 && curve.after === 'slope' ? handleSlope(curve, to, 'in') : null;
  let [s11, s12, s22, r1, r2] = [0, 0, 0, 0, 0];
  for (let i = from; i < to; i++) {
    const [x, y] = [original.frames(i), original.values(i)];
    for (const u of i + 1 < to ? [0.5, 1] : [0.5]) {
      const t = (at(x, u) - a.frame) / length;
      const h1 = t * (1 - t) * (1 - t) * length;
      const h2 = -t * t * (1 - t) * length;
      const rest = at(y, u) - (a.value + (b.value - a.value) * t * t * (3 - 2 * t));
      s11 += h1 * h1;
      s12 += h1 * h2;
      s22 += h2 * h2;
      r1 += h1 * rest;
      r2 += h2 * rest;
    }
  }
  if (leaveFixed !== null && arriveFixed !== null) return { leave: leaveFixed, arrive: arriveFixed };
  if (leaveFixed !== null) return { leave: leaveFixed, arrive: (r2 - s12 * leaveFixed) / s22 };
  if (arriveFixed !== null) return { leave: (r1 - s12 * arriveFixed) / s11, arrive: arriveFixed };
  const determinant = s11 * s22 - s12 * s12;
  return { leave: (r1 * s22 - r2 * s12) / determinant, arrive: (r2 * s11 - r1 * s12) / determinant };
}

/** A cubic at a parameter, from its Bernstein coefficients. */
function at([p0, p1, p2, p3]: readonly [number, number, number, number], u: number): number {
  const v = 1 - u;
  return v * v * v * p0 + 3 * v * v * u * p1 + 3 * v * u * u * p2 + u * u * u * p3;
}

/** The most the fitted Bézier differs from the segments it stands for; Infinity beyond the limit. */
function largestGap(original: Original, from: number, to: number, fit: Fit, limit: number): number {
  const [a, b] = [original.keys[from], original.keys[to]];
  const length = b.frame - a.frame;
  const third = length / 3;
  const bezier: Bernstein = [a.value, a.value + fit.leave * third, b.value - fit.arrive * third, b.value];
  let most = 0;
  for (let i = from; i < to; i++) {
    const values = original.values(i);
    let gap: number;
    if (original.goesEvenly(i)) {
      const { keys } = original;
      writePart(bezier, (keys[i].frame - a.frame) / length, (keys[i + 1].frame - a.frame) / length, evenGap);
      for (let k = 0; k < 4; k++) evenGap[k] = values[k] - evenGap[k];
      gap = mostOf(evenGap, limit);
    } else {
      const share = original.frames(i).map((f) => (f - a.frame) / length);
      const fits = composed(bezier, share);
      const segment = raised(values, fits.length - 1);
      gap = mostOf(
        segment.map((v, k) => v - fits[k]),
        limit,
      );
    }
    if (gap > limit) return gap;
    most = Math.max(most, gap);
  }
  return most;
}

const evenGap = [0, 0, 0, 0];

/** A cubic of a cubic, both in Bernstein form. */
function composed(outer: Bernstein, inner: Bernstein): number[] {
  const rest = inner.map((s) => 1 - s);
  const degree = 3 * (inner.length - 1);
  const [s2, r2] = [product(inner, inner), product(rest, rest)];
  const parts = [product(r2, rest), product(r2, inner), product(rest, s2), product(s2, inner)];
  const weights = [outer[0], 3 * outer[1], 3 * outer[2], outer[3]];
  const out = new Array<number>(degree + 1).fill(0);
  parts.forEach((part, k) => {
    part.forEach((v, i) => {
      out[i] += weights[k] * v;
    });
  });
  return out;
}

/** The thinned curve: its keys with the handles that draw the fitted runs. */
function rebuilt(original: Original, runs: readonly Run[]): NumberCurve {
  const { curve, keys } = original;
  const out: Key[] = [];
  for (let k = 0; k <= runs.length; k++) {
    const [before, after] = [runs[k - 1], runs[k]];
    const index = after ? after.from : before.to;
    const key = keys[index];
    const arrive = before?.fit ? freeHandle(-before.fit.arrive, keys[before.to].frame - keys[before.from].frame) : null;
    const leave = after?.fit ? freeHandle(after.fit.leave, keys[after.to].frame - keys[after.from].frame) : null;
    // Through the seam of a cycle the first and the last key have neighbours too, and those may have gone.
    const seam = repeats(curve.before) && repeats(curve.after) && (!before || !after);
    const untouched = !arrive && !leave && !seam;
    // A handle that follows its neighbours would follow the new ones: it is pinned where it was.
    const pinned = <H extends InHandle | OutHandle>(side: 'in' | 'out', handle: H): H | InHandle => {
      if (untouched || (handle.kind !== 'smooth' && handle.kind !== 'tuned')) return handle;
      const reach = handleReach(curve, index, side);
      return reach ? { kind: 'free', ...reach } : handle;
    };
    const through =
      before?.fit && after?.fit ? Math.abs(before.fit.arrive - after.fit.leave) <= 1e-9 : original.smoothAt(index);
    out.push({
      ...key,
      in: arrive ?? pinned('in', key.in),
      out: leave ?? pinned('out', key.out),
      joined: untouched || !before || !after ? key.joined : through && (before.fit !== null) === (after.fit !== null),
    });
  }
  return { ...curve, keys: out };
}

/** A handle of a third of the way; one that does not rise is plainly flat. */
const freeHandle = (slope: number, frames: number): InHandle =>
  slope === 0 ? { kind: 'flat' } : { kind: 'free', frames: frames / 3, rise: (slope * frames) / 3 };
