import { blend } from './blend.ts';
import { apart, isStill, jumpsAt, onlyJumps, type Series } from './series.ts';

/** A key of a fitted series; rates are numbers a frame. */
export interface FittedKey {
  /** In frames. Where it jumps there are two keys of one time: what it comes to, and where it goes on. */
  readonly time: number;
  readonly value: Float64Array;
  readonly rateIn: Float64Array;
  readonly rateOut: Float64Array;
}

export interface Fitted {
  readonly shape: 'step' | 'linear' | 'cubic';
  readonly keys: readonly FittedKey[];
}

/**
 * Lays as few keys as are needed to be within a tolerance of a series at all its points and half way between them: from each key
 * the furthest next one is taken. Jumps stay jumps, bounces stay sharp: a key has a rate of its own on each side.
 * @param tolerance in the series' numbers, radians for turns
 */
export function fit(series: Series, bent: boolean, tolerance: number): Fitted {
  const { points, times } = series;
  const key = (i: number, before = false): FittedKey => {
    const { rateIn, rateOut } = points[i];
    return { time: times[i], value: before ? points[i].before : points[i].value, rateIn, rateOut };
  };
  if (isStill(series, tolerance)) return { shape: 'linear', keys: [key(0)] };
  if (onlyJumps(series)) {
    const keys = points.flatMap((_, i) => (i === 0 || jumpsAt(series, i, tolerance) ? [key(i)] : []));
    return { shape: 'step', keys };
  }
  const shape = bent ? 'cubic' : 'linear';
  const keys = [key(0)];
  for (let i = 0; i + 1 < points.length; ) {
    const j = furthest(series, bent, tolerance, i);
    if (jumpsAt(series, j, tolerance)) keys.push(key(j, true));
    keys.push(key(j));
    i = j;
  }
  return { keys, shape };
}

/** The furthest point that one piece from a point on reaches within the tolerance; at least the next one. */
function furthest(series: Series, bent: boolean, tolerance: number, i: number): number {
  const last = series.points.length - 1;
  const holds = (j: number) => pieceError(series, bent, i, j, tolerance) <= tolerance;
  let good = i + 1;
  let step = 1;
  while (good + step <= last && holds(good + step)) {
    good += step;
    step *= 2;
  }
  for (; step >= 1; step = Math.floor(step / 2)) if (good + step <= last && holds(good + step)) good += step;
  return good;
}

const guess = new Float64Array(64);

/** How far one piece from point `i` to point `j` is from the series at most; it stops looking beyond `enough`. */
export function pieceError(
  series: Series,
  bent: boolean,
  i: number,
  j: number,
  enough = Number.POSITIVE_INFINITY,
): number {
  const { times, points, middles } = series;
  const { turns, width } = series.part;
  const out = width <= guess.length ? guess.subarray(0, width) : new Float64Array(width);
  let worst = 0;
  const look = (time: number, value: Float64Array) => {
    between(series, bent, i, j, time, out);
    worst = Math.max(worst, apart(turns, value, out));
  };
  for (let k = i; k < j && worst <= enough; k++) {
    if (k > i) {
      look(times[k], points[k].value);
      look(times[k], points[k].before);
    }
    const middle = middles[k];
    if (middle) look((times[k] + times[k + 1]) / 2, middle);
  }
  return worst;
}

/** What a piece from point `i` to point `j` says at a time between them. */
function between(
  { times, points, part }: Series,
  bent: boolean,
  i: number,
  j: number,
  time: number,
  out: Float64Array,
): void {
  const length = times[j] - times[i];
  const { value: a, rateOut } = points[i];
  const { before: b, rateIn } = points[j];
  blend(out, bent, part.turns, (time - times[i]) / length, length, a, rateOut, b, rateIn);
}
