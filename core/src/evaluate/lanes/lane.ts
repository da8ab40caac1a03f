import { type CompiledCurve, SEGMENT } from '../../curve/compile.ts';
import type { Extension } from '../../curve/key.ts';
import { type Ends, type KeyFrames, Stretch, seek, segmentAt } from '../../curve/seek.ts';

/**
 * Curves of one sort, evaluated together. The stretch that each is on lies ready in a row, and rows follow one another, so that a frame
 * reads them from end to end; whether a frame has left some of them is asked of sixty-four at a time. All segments of all curves lie in
 * one pool as the rows they will be, so that going over to the next one is a copy. Curves that are put in together and have as many keys
 * lie in the pool side by side, first segments, second segments and so on: a block of them that is on the same segment is read where it
 * lies, and where they all cross a key at once nothing is copied at all.
 *
 * A row begins with the frame its stretch is measured from and the frame it ends at. In the pool one more row ends each curve: it
 * has the frame of its last key.
 */
export abstract class Lane {
  /** Numbers in a row. */
  abstract readonly width: number;
  /** Where in a row the value at its first frame stands. */
  abstract readonly start: number;
  protected count = 0;
  protected rows = new Float64Array(0);
  /** Where in the frame's values each curve writes. */
  protected targets = new Int32Array(0);
  /** The frames for which each row holds, and those for which all of a block do. */
  #lows = new Float64Array(0);
  #highs = new Float64Array(0);
  #blockLows = new Float64Array(0);
  #blockHighs = new Float64Array(0);
  /** The segment that all of a block are on, so that they are read in the pool; -1 where each has a row of its own. */
  #together = new Int32Array(0);

  protected pool = new Float64Array(0);
  /** Rows of the pool that are in use, and those of them nobody needs any more. */
  #used = 0;
  #waste = 0;
  /** Where in the pool each curve begins, how many rows it is from one of its segments to the next, and how many segments it has. */
  #firsts = new Int32Array(0);
  #steps = new Int32Array(0);
  #counts = new Int32Array(0);
  /** The segment each is on. */
  #here = new Int32Array(0);
  #ends: Beyond[] = [];
  #seats: Seat[] = [];

  /** Writes the values of a moment to their places. */
  run(time: number, values: Float64Array): void {
    const blocks = (this.count + BLOCK - 1) >> BLOCK_BITS;
    const lows = this.#blockLows;
    const highs = this.#blockHighs;
    for (let b = 0; b < blocks; b++) {
      // Written so that a time that is not a number counts as outside.
      if (!(time >= lows[b] && time < highs[b]) && !this.#findTogether(b, time)) this.#find(b, time);
      const first = b << BLOCK_BITS;
      const end = Math.min(this.count, first + BLOCK);
      const segment = this.#together[b];
      if (segment < 0) this.evaluate(this.rows, first * this.width, first, end, time, values);
      else {
        const at = (this.#firsts[first] + segment * this.#steps[first]) * this.width;
        this.evaluate(this.pool, at, first, end, time, values);
      }
    }
  }

  /** Writes the values of some curves, whose rows follow one another from a place on. */
  protected abstract evaluate(
    from: Float64Array,
    at: number,
    first: number,
    end: number,
    time: number,
    values: Float64Array,
  ): void;

  /** Writes a segment as a row, from a frame to another. */
  protected abstract writeSegment(
    out: Float64Array,
    at: number,
    from: number,
    to: number,
    segments: Float64Array,
    s: number,
  ): void;

  /** Writes a stretch as a row that has a value at a frame and goes on from there at a slope. */
  protected abstract writeStraight(out: Float64Array, at: number, frame: number, value: number, slope: number): void;

  /** Copies a row. Each sort writes its numbers out: a loop costs three times as much. */
  protected abstract copy(from: Float64Array, row: number, to: Float64Array, at: number): void;

  /** Lets a row run backwards: it ends before it begins. */
  protected abstract turnBack(out: Float64Array, at: number): void;

  /** Puts a curve in, which writes to a place of the values. */
  add(seat: Seat, curve: CompiledCurve, target: number): void {
    const i = this.#sit(seat, curve, target);
    this.#firsts[i] = this.#room(this.#counts[i] + 1);
    this.#steps[i] = 1;
    this.#write(i, curve);
  }

  /** Puts many curves in, in the order in which they are to lie. */
  addAll(list: readonly { readonly seat: Seat; readonly curve: CompiledCurve; readonly target: number }[]): void {
    const first = this.count;
    for (const { seat, curve, target } of list) this.#sit(seat, curve, target);
    this.#layOut(first);
    for (const [i, { curve }] of list.entries()) this.#write(first + i, curve);
  }

  /** Puts another curve in the seat of one. */
  replace(i: number, curve: CompiledCurve): void {
    const segments = curve.frames.length - 1;
    if (segments !== this.#counts[i]) {
      this.#waste += this.#counts[i] + 1;
      this.#counts[i] = segments;
      this.#firsts[i] = this.#room(segments + 1);
      this.#steps[i] = 1;
    }
    this.#ends[i] = curve;
    this.#write(i, curve);
    this.#tidy();
  }

  /** Lets a curve write to another place. */
  aim(i: number, target: number): void {
    this.targets[i] = target;
  }

  /** Takes a curve out; the last one comes in its seat. */
  remove(i: number): void {
    this.#waste += this.#counts[i] + 1;
    const last = --this.count;
    if (i !== last) {
      for (const list of [this.targets, this.#firsts, this.#steps, this.#counts]) list[i] = list[last];
      this.#ends[i] = this.#ends[last];
      this.#seats[i] = this.#seats[last];
      this.#seats[i].index = i;
      this.#forget(i);
    }
    this.#ends.length = this.#seats.length = last;
    this.#tidy();
  }

  /** Gives a curve the next seat. */
  #sit(seat: Seat, curve: CompiledCurve, target: number): number {
    if (this.count === this.targets.length) this.#grow();
    const i = this.count++;
    this.targets[i] = target;
    this.#seats[i] = seat;
    this.#ends[i] = curve;
    this.#counts[i] = curve.frames.length - 1;
    seat.lane = this;
    seat.index = i;
    return i;
  }

  /** Finds room for curves from one on: runs of them with as many keys, a block of them at most, side by side. */
  #layOut(from: number): void {
    const counts = this.#counts;
    for (let i = from; i < this.count; ) {
      let end = i + 1;
      while (end < this.count && end - i < BLOCK && counts[end] === counts[i]) end++;
      const first = this.#room((end - i) * (counts[i] + 1));
      for (let k = i; k < end; k++) {
        this.#firsts[k] = first + k - i;
        this.#steps[k] = end - i;
      }
      i = end;
    }
  }

  #write(i: number, curve: CompiledCurve): void {
    const { frames, segments, values } = curve;
    const { pool, width } = this;
    const first = this.#firsts[i] * width;
    const step = this.#steps[i] * width;
    const last = frames.length - 1;
    for (let k = 0; k < last; k++)
      this.writeSegment(pool, first + k * step, frames[k], frames[k + 1], segments, k * SEGMENT);
    this.writeStraight(pool, first + last * step, frames[last], values[last], 0);
    this.#forget(i);
  }

  #forget(i: number): void {
    this.#part(i >> BLOCK_BITS);
    this.#here[i] = -1;
    this.#lows[i] = Number.NaN;
    this.#blockLows[i >> BLOCK_BITS] = Number.NaN;
  }

  #grow(): void {
    const room = Math.max(BLOCK, this.targets.length * 2);
    this.rows = grown(this.rows, new Float64Array(room * this.width));
    this.targets = grown(this.targets, new Int32Array(room));
    this.#firsts = grown(this.#firsts, new Int32Array(room));
    this.#steps = grown(this.#steps, new Int32Array(room));
    this.#counts = grown(this.#counts, new Int32Array(room));
    this.#here = grown(this.#here, new Int32Array(room));
    this.#lows = grown(this.#lows, new Float64Array(room));
    this.#highs = grown(this.#highs, new Float64Array(room));
    const blocks = (room + BLOCK - 1) >> BLOCK_BITS;
    this.#blockLows = grown(this.#blockLows, new Float64Array(blocks).fill(Number.NaN));
    this.#blockHighs = grown(this.#blockHighs, new Float64Array(blocks));
    this.#together = grown(this.#together, new Int32Array(blocks).fill(-1));
  }

  /** Rows of the pool that nobody has, one after another. */
  #room(rows: number): number {
    const first = this.#used;
    this.#used += rows;
    if (this.#used * this.width > this.pool.length)
      this.pool = grown(this.pool, new Float64Array(2 * this.#used * this.width));
    return first;
  }

  /** Puts the pool together anew where most of it is waste. */
  #tidy(): void {
    if (this.#waste < MOST_WASTE || this.#waste < this.#used / 2) return;
    const { width } = this;
    const [old, firsts, steps] = [this.pool, this.#firsts.slice(), this.#steps.slice()];
    this.pool = new Float64Array(old.length);
    this.#used = this.#waste = 0;
    for (let b = 0; b < this.#together.length; b++) this.#part(b);
    this.#layOut(0);
    for (let i = 0; i < this.count; i++)
      for (let k = 0; k <= this.#counts[i]; k++)
        this.copy(old, (firsts[i] + k * steps[i]) * width, this.pool, (this.#firsts[i] + k * this.#steps[i]) * width);
  }

  /** Finds the segment that holds a moment of all curves of a block, where they lie side by side. */
  #findTogether(block: number, time: number): boolean {
    const { pool, width } = this;
    const firsts = this.#firsts;
    const first = block << BLOCK_BITS;
    const end = Math.min(this.count, first + BLOCK);
    const count = this.#counts[first];
    const step = this.#steps[first];
    frames.lie(pool, firsts[first] * width, step * width, count + 1);
    if (!(time >= frames.at(0) && time < frames.at(count))) return this.#part(block);
    const segment = segmentAt(frames, time, Math.max(0, this.#together[block]));
    let low = Number.NEGATIVE_INFINITY;
    let high = Number.POSITIVE_INFINITY;
    for (let i = first; i < end; i++) {
      if (this.#counts[i] !== count || this.#steps[i] !== step || firsts[i] !== firsts[first] + i - first)
        return this.#part(block);
      const row = (firsts[i] + segment * step) * width;
      if (!(time >= pool[row] && time < pool[row + TO])) return this.#part(block);
      if (pool[row] > low) low = pool[row];
      if (pool[row + TO] < high) high = pool[row + TO];
    }
    this.#together[block] = segment;
    this.#blockLows[block] = low;
    this.#blockHighs[block] = high;
    return true;
  }

  /** Lets each curve of a block go its own way again. @returns false */
  #part(block: number): boolean {
    const segment = this.#together[block];
    if (segment < 0) return false;
    this.#together[block] = -1;
    this.#blockLows[block] = Number.NaN;
    const end = Math.min(this.count, (block + 1) << BLOCK_BITS);
    for (let i = block << BLOCK_BITS; i < end; i++) {
      this.#here[i] = segment;
      this.#lows[i] = Number.NaN;
      this.#highs[i] = Number.NEGATIVE_INFINITY;
    }
    return false;
  }

  /** Finds the rows of a block that hold a moment. Written out, since all curves of a shot may cross a key at once. */
  #find(block: number, time: number): void {
    const { pool, rows, width } = this;
    const lows = this.#lows;
    const highs = this.#highs;
    const here = this.#here;
    const firsts = this.#firsts;
    const steps = this.#steps;
    const counts = this.#counts;
    let low = Number.NEGATIVE_INFINITY;
    let high = Number.POSITIVE_INFINITY;
    const end = Math.min(this.count, (block + 1) << BLOCK_BITS);
    for (let i = block << BLOCK_BITS; i < end; i++) {
      if (!(time >= lows[i] && time < highs[i])) {
        // While time goes on the next segment holds it; where it begins again, the first.
        const next = here[i] + 1;
        const segment = next < counts[i] && time >= highs[i] ? next : 0;
        const from = (firsts[i] + segment * steps[i]) * width;
        if (segment < counts[i] && time >= pool[from] && time < pool[from + TO]) {
          this.copy(pool, from, rows, i * width);
          lows[i] = pool[from];
          highs[i] = pool[from + TO];
          here[i] = segment;
        } else this.#seek(i, time);
      }
      if (lows[i] > low) low = lows[i];
      if (highs[i] < high) high = highs[i];
    }
    this.#blockLows[block] = low;
    this.#blockHighs[block] = high;
  }

  /** Finds the stretch of a curve that holds a moment, wherever it is. */
  #seek(i: number, time: number): void {
    const { pool, rows, width, start } = this;
    const first = this.#firsts[i] * width;
    const step = this.#steps[i] * width;
    const last = first + this.#counts[i] * step;
    frames.lie(pool, first, step, this.#counts[i] + 1);
    seek(frames, this.#ends[i], time, Math.max(0, this.#here[i]), stretch);
    const at = i * width;
    if (stretch.segment < 0) {
      const row = stretch.key === 0 ? first : last;
      const slope = time < pool[first] ? this.#ends[i].slopeBefore : this.#ends[i].slopeAfter;
      this.writeStraight(rows, at, pool[row], pool[row + start], stretch.sloping ? slope : 0);
    } else {
      this.copy(pool, first + stretch.segment * step, rows, at);
      rows[at] = stretch.from;
      rows[at + TO] = stretch.to;
      if (stretch.to < stretch.from) this.turnBack(rows, at);
      if (stretch.rounds !== 0) rows[at + start] += stretch.rounds * (pool[last + start] - pool[first + start]);
      this.#here[i] = stretch.segment;
    }
    this.#lows[i] = stretch.low;
    this.#highs[i] = stretch.high;
  }
}

/** Where a curve sits: it moves when another one leaves. */
export interface Seat {
  lane: Lane | null;
  index: number;
}

/** What a curve does beyond its keys. */
interface Beyond extends Ends {
  readonly before: Extension;
  readonly after: Extension;
  readonly slopeBefore: number;
  readonly slopeAfter: number;
}

const BLOCK_BITS = 6;
const BLOCK = 1 << BLOCK_BITS;
/** Where in a row the frame stands at which it ends. */
export const TO = 1;
/** So many rows of waste are put up with. */
const MOST_WASTE = 4096;

const stretch = new Stretch();

/** The frames of keys in a pool. */
class PooledFrames implements KeyFrames {
  #pool = new Float64Array(0);
  #first = 0;
  #step = 1;
  count = 0;

  lie(pool: Float64Array<ArrayBuffer>, first: number, step: number, count: number): void {
    this.#pool = pool;
    this.#first = first;
    this.#step = step;
    this.count = count;
  }

  at(index: number): number {
    return this.#pool[this.#first + index * this.#step];
  }
}
const frames = new PooledFrames();

/** A longer array with what another held. */
function grown<A extends Float64Array | Int32Array>(old: A, into: A): A {
  into.set(old);
  return into;
}
