import { blend } from './blend.ts';
import { type Moment, onSameSide, type Samples } from './samples.ts';

/** Which numbers of a moment: where they stand, how many, and whether they are a quaternion. */
export interface Part {
  readonly at: number;
  readonly width: number;
  readonly turns: boolean;
}

/** Some numbers of a run: a move, a turn, a size or the shape targets of one node, at as many moments as are needed to know it. */
export interface Series {
  readonly part: Part;
  /** In frames, each after the one before. */
  readonly times: readonly number[];
  readonly points: readonly Point[];
  /** What it is half way from each point to the next; null where those are so close that nobody looks between them. */
  readonly middles: readonly (Float64Array | null)[];
}

/** One moment of a series; rates are numbers a frame. */
export interface Point {
  readonly value: Float64Array;
  /** What it comes to from before: another value where it jumps. */
  readonly before: Float64Array;
  readonly rateIn: Float64Array;
  readonly rateOut: Float64Array;
}

/** How many times an interval is halved where it does not go as its ends say. What goes on in less time is taken for a jump. */
const CLOSER = 4;

/**
 * Takes a series out of a run: at the moments given, and closer where a piece between two of them, bent by their rates or straight,
 * is not within a tolerance half way.
 */
export function seriesOf(
  samples: Samples,
  moments: readonly Moment[],
  part: Part,
  closer: { readonly bent: boolean; readonly tolerance: number } | null,
): Series {
  const all = new Gathering(samples, part, closer);
  all.add(moments[0]);
  for (let i = 0; i + 1 < moments.length; i++) all.goOn(moments[i], moments[i + 1], 0);
  return all.series;
}

class Gathering {
  readonly #samples: Samples;
  readonly #part: Part;
  readonly #closer: { readonly bent: boolean; readonly tolerance: number } | null;
  readonly #times: number[] = [];
  readonly #points: Point[] = [];
  readonly #middles: (Float64Array | null)[] = [];
  #last: Float64Array | null = null;

  constructor(samples: Samples, part: Part, closer: { readonly bent: boolean; readonly tolerance: number } | null) {
    this.#samples = samples;
    this.#part = part;
    this.#closer = closer;
  }

  get series(): Series {
    return { part: this.#part, times: this.#times, points: this.#points, middles: this.#middles };
  }

  #point(moment: Moment): Point {
    const { at, width, turns } = this.#part;
    const of = (numbers: Float64Array) => numbers.slice(at, at + width);
    const point = {
      value: of(moment.value),
      before: of(moment.before),
      rateIn: of(moment.rateIn),
      rateOut: of(moment.rateOut),
    };
    if (turns && this.#last && dot(point.value, this.#last) < 0)
      for (const numbers of Object.values(point)) for (let k = 0; k < 4; k++) numbers[k] = -numbers[k];
    return point;
  }

  add(moment: Moment): void {
    const point = this.#point(moment);
    this.#times.push(moment.time);
    this.#points.push(point);
    this.#last = point.value;
  }

  goOn(from: Moment, to: Moment, level: number): void {
    const { at, width, turns } = this.#part;
    const time = (from.time + to.time) / 2;
    const middle = this.#samples.check(time).slice(at, at + width);
    const last = this.#points[this.#points.length - 1];
    if (turns) onSameSide(middle, last.value, 0);
    const closer = this.#closer;
    if (closer) {
      this.#last = middle;
      const next = this.#point(to);
      this.#last = last.value;
      const out = new Float64Array(width);
      blend(out, closer.bent, turns, 0.5, to.time - from.time, last.value, last.rateOut, next.before, next.rateIn);
      if (apart(turns, out, middle) > closer.tolerance) {
        if (level < CLOSER) {
          const half = this.#samples.moment(time);
          this.goOn(from, half, level + 1);
          this.goOn(half, to, level + 1);
          return;
        }
        this.#middles.push(null);
        this.add(to);
        return;
      }
    }
    this.#middles.push(middle);
    this.#last = middle;
    this.add(to);
  }
}

const dot = (a: Float64Array, b: Float64Array) => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

/** How far two values of a series are apart: a length, or for turns the angle between them in radians. */
export function apart(turns: boolean, a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] - b[i]) * (a[i] - b[i]);
  // The chord between two unit quaternions is twice the sine of a quarter of the angle.
  return turns ? 4 * Math.asin(Math.min(1, Math.sqrt(sum) / 2)) : Math.sqrt(sum);
}

/** Whether it jumps at a point. */
export const jumpsAt = ({ part, points }: Series, i: number, tolerance: number): boolean =>
  apart(part.turns, points[i].before, points[i].value) > tolerance;

/** Whether it never goes further than a tolerance from where it begins. */
export const isStill = ({ part: { turns }, points, middles }: Series, tolerance: number): boolean => {
  const first = points[0].value;
  const stays = (v: Float64Array | null) => !v || apart(turns, v, first) <= tolerance;
  return middles.every(stays) && points.every(({ value, before }, i) => stays(value) && (i === 0 || stays(before)));
};

/** What is no movement at all but rounding. */
const NOTHING = 1e-9;

/** Whether it only ever stays or jumps. */
export const onlyJumps = ({ part: { turns }, points, middles }: Series): boolean =>
  middles.every(
    (middle, i) =>
      (!middle || apart(turns, middle, points[i].value) <= NOTHING) &&
      apart(turns, points[i + 1].before, points[i].value) <= NOTHING,
  );
