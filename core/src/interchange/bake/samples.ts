import type { Frame } from '../../evaluate/frame.ts';
import type { Program } from '../../evaluate/program.ts';
import type { Mover } from './mover.ts';

/** How far beside a moment it is looked to tell how fast everything goes, in frames. */
const BESIDE = 1e-4;

/** A mover with where its numbers stand among those of a moment. */
export interface Placed {
  readonly mover: Mover;
  readonly at: number;
}

/** Everything at one moment. Rates are numbers a frame. */
export interface Moment {
  readonly time: number;
  readonly value: Float64Array;
  /** What it comes to from before: another value than `value` where it jumps here. */
  readonly before: Float64Array;
  readonly rateIn: Float64Array;
  readonly rateOut: Float64Array;
}

/**
 * Looks at a program's frames, each moment once: where everything is, where it comes from and how fast it goes on both sides, so
 * that a jump and a bounce are seen for what they are.
 */
export class Samples {
  readonly placed: readonly Placed[];
  readonly width: number;
  readonly #program: Program;
  readonly #frame: Frame;
  readonly #moments = new Map<number, Moment>();
  readonly #checks = new Map<number, Float64Array>();

  constructor(program: Program, movers: readonly Mover[]) {
    this.#program = program;
    this.#frame = program.createFrame();
    let width = 0;
    this.placed = movers.map((mover) => {
      const at = width;
      width += mover.width;
      return { mover, at };
    });
    this.width = width;
  }

  /** Everything at a moment, in frames. */
  moment(time: number): Moment {
    const known = this.#moments.get(time);
    if (known) return known;
    const value = this.#look(time, null);
    const after = this.#look(time + BESIDE, value);
    const near = this.#look(time - BESIDE, value);
    const far = this.#look(time - 2 * BESIDE, near);
    const rateOut = after.map((v, i) => (v - value[i]) / BESIDE);
    const rateIn = near.map((v, i) => (v - far[i]) / BESIDE);
    const before = near.map((v, i) => v + rateIn[i] * BESIDE);
    const moment = { time, value, before, rateIn, rateOut };
    this.#moments.set(time, moment);
    return moment;
  }

  /** Where everything is at a moment, without how fast it goes. */
  check(time: number): Float64Array {
    const known = this.#checks.get(time) ?? this.#moments.get(time)?.value;
    if (known) return known;
    const values = this.#look(time, null);
    this.#checks.set(time, values);
    return values;
  }

  /** Whether some numbers change from one of the moments to another, or half way between two of them. */
  moves(moments: readonly Moment[], { at, width }: { readonly at: number; readonly width: number }): boolean {
    const { value: first } = moments[0];
    const differs = (numbers: Float64Array) => {
      for (let i = at; i < at + width; i++) if (Math.abs(numbers[i] - first[i]) > 1e-9) return true;
      return false;
    };
    return moments.some(
      ({ time, value }, i) =>
        differs(value) || (i + 1 < moments.length && differs(this.check((time + moments[i + 1].time) / 2))),
    );
  }

  /** @param like numbers of a moment close by, whose turns these are to be on the same side as */
  #look(time: number, like: Float64Array | null): Float64Array {
    const out = new Float64Array(this.width);
    this.#program.evaluate(time, this.#frame);
    for (const { mover, at } of this.placed) {
      mover.write(this.#frame, out, at);
      if (like && mover.is === 'place') onSameSide(out, like, at + 3);
    }
    return out;
  }
}

/** Of the two quaternions that say a turn takes the one nearer to another. */
export function onSameSide(q: Float64Array, like: Float64Array, at: number): void {
  const dot = q[at] * like[at] + q[at + 1] * like[at + 1] + q[at + 2] * like[at + 2] + q[at + 3] * like[at + 3];
  if (dot < 0) for (let k = 0; k < 4; k++) q[at + k] = -q[at + k];
}
