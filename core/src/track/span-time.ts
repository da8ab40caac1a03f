import type { Clip } from '../document/clip.ts';
import { type ClipSpan, endOf } from '../document/track.ts';

/** Which frame of its clip a span plays at each frame of the shot. Frames of the clip count from the clip's own beginning. */
export interface SpanTime {
  at(frame: number): number;
  /** Frames of the clip to a frame of the shot. */
  speed(frame: number): number;
  /** Frames of the shot on which it begins to go another way. */
  readonly turns: readonly number[];
  /** Whether it goes at one speed throughout two frames. */
  isEven(from: number, to: number): boolean;
}

/** From 0 to 1, level at both ends or straight. */
export const easing = (u: number, shape: ClipSpan['shape']): number => {
  const t = Math.min(1, Math.max(0, u));
  return shape === 'even' ? t : t * t * (3 - 2 * t);
};
/** What easing has added up to by a place: its integral from 0. */
const eased = (u: number, shape: ClipSpan['shape']): number => {
  const t = Math.min(1, Math.max(0, u));
  return shape === 'even' ? (t * t) / 2 : t * t * t - (t * t * t * t) / 2;
};

/** A stretch of a span's time, frames of the shot: it begins at a place of the clip and goes on at a speed, or from one speed over to another. */
interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly at: number;
  readonly speed: number;
  /** The speed it has come to at its end. */
  readonly then: number;
  readonly shape: ClipSpan['shape'];
}

/** Time that goes on stretch after stretch. */
export class Stretches implements SpanTime {
  readonly #list: Stretch[] = [];
  #frame: number;
  #at: number;

  /** @param at where in the clip it begins */
  constructor(frame: number, at: number) {
    this.#frame = frame;
    this.#at = at;
  }

  /** The frame it has been laid out to, and where in the clip it is there. */
  get frame(): number {
    return this.#frame;
  }
  get place(): number {
    return this.#at;
  }

  /** Goes on to a frame, at one speed or from one over to another. */
  go(to: number, speed: number, then = speed, shape: ClipSpan['shape'] = 'even'): void {
    if (to <= this.#frame) return;
    this.#list.push({ from: this.#frame, to, at: this.#at, speed, then, shape });
    this.#at += ((speed + then) / 2) * (to - this.#frame);
    this.#frame = to;
  }

  /** Goes on from another place of the clip. */
  jump(at: number): void {
    this.#at = at;
  }

  get turns(): readonly number[] {
    return this.#list.map((s) => s.from);
  }

  #stretch(frame: number): Stretch {
    let [low, high] = [0, this.#list.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.#list[middle].from <= frame) low = middle;
      else high = middle - 1;
    }
    return this.#list[low];
  }

  at(frame: number): number {
    const s = this.#stretch(frame);
    const long = s.to - s.from;
    if (s.speed === s.then) return s.at + s.speed * (frame - s.from);
    return s.at + s.speed * (frame - s.from) + (s.then - s.speed) * long * eased((frame - s.from) / long, s.shape);
  }

  speed(frame: number): number {
    const s = this.#stretch(frame);
    return s.speed + (s.then - s.speed) * easing((frame - s.from) / (s.to - s.from), s.shape);
  }

  isEven(from: number, to: number): boolean {
    const s = this.#stretch((from + to) / 2);
    return s.speed === s.then && from >= s.from && to <= s.to;
  }
}

/** The most rounds of its loop part that a span plays; beyond them it goes slower. */
const MOST_ROUNDS = 2_000;

/**
 * Goes on to a frame through the beginning of a clip once, round its loop part for as long as there is time, and through its end once. Rounds are whole: they
 * go a little faster or slower for it. Where there is no time for one, it just goes on.
 */
export function goRound(
  time: Stretches,
  to: number,
  speed: number,
  loop: NonNullable<ClipSpan['loop']>,
  clip: Clip,
): void {
  const [low, high] = [loop.from, Math.min(loop.to, clip.length)];
  const before = Math.max(0, low - time.place);
  const first = before > 0 ? high - low : high - time.place;
  const left = (to - time.frame) * speed - before - (clip.length - high);
  if (high - low < 1 || first <= 0 || left < first / 2) {
    time.go(to, speed);
    return;
  }
  const more = Math.min(MOST_ROUNDS, Math.max(0, Math.round((left - first) / (high - low))));
  const pace = (speed * (first + more * (high - low))) / left;
  time.go(time.frame + before / speed, speed);
  time.go(time.frame + first / pace, pace);
  for (let round = 0; round < more; round++) {
    time.jump(low);
    time.go(time.frame + (high - low) / pace, pace);
  }
  time.jump(high);
  time.go(to, speed);
}

/**
 * Time through points, along cubics that never go beyond what lies between two of them (Fritsch and Carlson, *Monotone piecewise cubic interpolation*, 1980):
 * where two have the same frame it holds, and before and after them it goes on as it does there.
 */
export class BentTime implements SpanTime {
  readonly #frames: readonly number[];
  readonly #clip: readonly number[];
  readonly #slopes: readonly number[];

  constructor(points: NonNullable<ClipSpan['time']>, from: number) {
    this.#frames = points.map((p) => from + p.at);
    this.#clip = points.map((p) => p.clip);
    this.#slopes = tameSlopes(this.#frames, this.#clip);
  }

  get turns(): readonly number[] {
    return this.#frames;
  }

  #piece(frame: number): number {
    let i = 0;
    while (i < this.#frames.length - 2 && frame >= this.#frames[i + 1]) i++;
    return i;
  }

  at(frame: number): number {
    const [f, c, m] = [this.#frames, this.#clip, this.#slopes];
    const last = f.length - 1;
    if (frame <= f[0]) return c[0] + m[0] * (frame - f[0]);
    if (frame >= f[last]) return c[last] + m[last] * (frame - f[last]);
    const i = this.#piece(frame);
    const long = f[i + 1] - f[i];
    const t = (frame - f[i]) / long;
    const u = 1 - t;
    return u * u * (1 + 2 * t) * c[i] + t * t * (1 + 2 * u) * c[i + 1] + long * t * u * (u * m[i] - t * m[i + 1]);
  }

  speed(frame: number): number {
    const [f, c, m] = [this.#frames, this.#clip, this.#slopes];
    const last = f.length - 1;
    if (frame <= f[0]) return m[0];
    if (frame >= f[last]) return m[last];
    const i = this.#piece(frame);
    const long = f[i + 1] - f[i];
    const t = (frame - f[i]) / long;
    return (6 * t * (1 - t) * (c[i + 1] - c[i])) / long + (1 - t) * (1 - 3 * t) * m[i] + t * (3 * t - 2) * m[i + 1];
  }

  isEven(): boolean {
    return false;
  }
}

/** Slopes at points with which the cubics between them neither turn nor go beyond. */
function tameSlopes(x: readonly number[], y: readonly number[]): number[] {
  const rise = x.slice(1).map((v, i) => (y[i + 1] - y[i]) / (v - x[i]));
  return x.map((_, i) => {
    const [before, after] = [rise[i - 1] ?? rise[0], rise[i] ?? rise[rise.length - 1]];
    if (before * after <= 0) return 0;
    const mean = (before + after) / 2;
    return Math.sign(mean) * Math.min(Math.abs(mean), 3 * Math.abs(before), 3 * Math.abs(after));
  });
}

/** How a span's time goes that has no neighbours to keep in step with. */
export function timeAlone(span: ClipSpan, clip: Clip, begins: number): SpanTime {
  if (span.time) return new BentTime(span.time, span.from);
  const time = new Stretches(span.from, begins);
  if (span.loop) goRound(time, endOf(span), span.speed, span.loop, clip);
  else time.go(endOf(span), span.speed);
  return time;
}
