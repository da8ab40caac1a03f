import type { CompiledCurve } from '../../curve/compile.ts';
import { type KeyFrames, Stretch, seek } from '../../curve/seek.ts';
import { BLOCK, type Chunk } from './chunk.ts';
import { Gathering } from './gathering.ts';
import { Together } from './together.ts';

/** Where a curve sits: it moves when another one leaves. */
export interface Seat {
  index: number;
}

/** A curve in its seat, and where in the frame's values it writes. */
export interface Seated {
  readonly seat: Seat;
  readonly curve: CompiledCurve;
  readonly target: number;
}

/**
 * Up to 128 curves that are evaluated together. Whether time has left a stretch of one of them is asked of the block as a whole.
 *
 * Where all have their keys on the same frames, as poses do, each segment's rows are gathered once and kept, so that crossing a key
 * costs nothing when it comes round again. Otherwise those curves that cross a key go over to their next row one by one.
 */
export class Block {
  count = 0;
  readonly #seats: Seat[] = [];
  readonly #curves: CompiledCurve[] = [];
  readonly #targets = new Int32Array(BLOCK);
  /** The segment each is on by itself, and the frames for which it is. */
  readonly #here = new Int32Array(BLOCK);
  readonly #lows = new Float64Array(BLOCK);
  readonly #highs = new Float64Array(BLOCK);

  /** The rows of the moment, and the frames for which they hold. */
  #now: Chunk | null = null;
  #low = Number.NaN;
  #high = Number.NaN;
  /** The rows of curves that each go their own way. */
  #apart: Gathering | null = null;
  /** The rows of each segment that all are on together; null where keys are on different frames, undefined where that is not known. */
  #together: (Chunk | undefined)[] | null | undefined;
  #segment = 0;

  /** Writes the values of a moment to their places. */
  run(time: number, values: Float64Array): void {
    // Written so that a time that is not a number counts as outside.
    if (!(time >= this.#low && time < this.#high)) this.#now = this.#goTogether(time) ?? this.#goApart(time);
    this.#now?.run(time, values);
  }

  /** Puts a curve in a place: the next one, or in place of another curve. */
  put(place: number, { seat, curve, target }: Seated): void {
    this.count = Math.max(this.count, place + 1);
    this.#seats[place] = seat;
    this.#curves[place] = curve;
    this.#targets[place] = target;
    this.#forget(place);
  }

  /** Puts another curve in a seat. */
  replace(place: number, curve: CompiledCurve, target: number): void {
    this.put(place, { seat: this.#seats[place], curve, target });
  }

  /** Lets a curve write to another place of the values. */
  aim(place: number, target: number): void {
    if (this.#targets[place] !== target) this.replace(place, this.#curves[place], target);
  }

  /** Takes the last curve out. */
  pop(): Seated {
    this.#forget(--this.count);
    this.#apart?.take(this.count);
    return { seat: this.#seats.pop()!, curve: this.#curves.pop()!, target: this.#targets[this.count] };
  }

  #forget(place: number): void {
    this.#lows[place] = Number.NaN;
    this.#low = Number.NaN;
    this.#together = undefined;
  }

  /** The rows of a segment, or of the last key, that all are on; null where there is none. */
  #goTogether(time: number): Chunk | null {
    const first = this.#curves[0];
    const { frames } = first;
    const last = frames.length - 1;
    if (!(time >= frames[0] && time <= frames[last])) return null;
    if (this.#together === undefined) this.#together = this.#sameFrames() ? [] : null;
    if (!this.#together) return null;
    keys.of(frames);
    seek(keys, first, time, this.#segment, stretch);
    this.#segment = stretch.segment < 0 ? last : stretch.segment;
    this.#low = stretch.low;
    this.#high = stretch.high;
    this.#together[this.#segment] ??= new Together(this.#curves, this.#targets, this.count, stretch);
    return this.#together[this.#segment]!;
  }

  #sameFrames(): boolean {
    const { frames } = this.#curves[0];
    for (let i = 1; i < this.count; i++) {
      const other = this.#curves[i].frames;
      if (other.length !== frames.length) return false;
      for (let k = 0; k < frames.length; k++) if (other[k] !== frames[k]) return false;
    }
    return true;
  }

  /** The rows of curves each of which goes its own way. */
  #goApart(time: number): Chunk {
    this.#apart ??= new Gathering();
    const apart = this.#apart;
    const lows = this.#lows;
    const highs = this.#highs;
    if (this.#now !== apart) {
      // They were together, and have moved on since.
      apart.clear();
      lows.fill(Number.NaN);
    }
    let low = Number.NEGATIVE_INFINITY;
    let high = Number.POSITIVE_INFINITY;
    for (let i = 0; i < this.count; i++) {
      if (!(time >= lows[i] && time < highs[i])) {
        const curve = this.#curves[i];
        keys.of(curve.frames);
        seek(keys, curve, time, Math.max(0, this.#here[i]), stretch);
        this.#here[i] = stretch.segment;
        lows[i] = stretch.low;
        highs[i] = stretch.high;
        apart.put(i, this.#targets[i], curve, stretch);
      }
      if (lows[i] > low) low = lows[i];
      if (highs[i] < high) high = highs[i];
    }
    this.#low = low;
    this.#high = high;
    return apart;
  }
}

const stretch = new Stretch();

/** The frames of a compiled curve's keys. */
class CompiledFrames implements KeyFrames {
  #frames = new Float64Array(0);

  of(frames: Float64Array<ArrayBuffer>): void {
    this.#frames = frames;
  }

  get count(): number {
    return this.#frames.length;
  }

  at(index: number): number {
    return this.#frames[index];
  }
}
const keys = new CompiledFrames();
