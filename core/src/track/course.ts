import type { NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { joinedPieces, throughSlopes } from './pieces.ts';
import type { Played } from './played.ts';

/**
 * How tracks take a body over the stage: where it has got to at each frame, metres from where its rig stands, sideways and along the rig's +Z, and which way it
 * faces then, radians about +Y. One that goes straight has only the way along.
 */
export interface Course {
  readonly z: NumberCurve;
  readonly x: NumberCurve | null;
  readonly turn: NumberCurve | null;
}

/** A stretch on which nothing of an arrangement begins or ends, frames of the shot. */
interface Interval {
  readonly from: number;
  readonly to: number;
}

/** A place on the ground. */
export type Spot = readonly [x: number, z: number];

/** How tracks take a body: its speed is mixed as its poses are, what spans turn it by comes together, and both are added up. */
export function courseOf(layers: readonly Played[], intervals: readonly Interval[]): Course {
  const carrying = layers.filter((l) => l.carries);
  const turning = carrying.filter((l) => l.span.turn !== 0);
  const speed = (frame: number) => {
    let own = 0;
    for (const l of carrying)
      if (l.plays(frame)) own += ((l.clip.travelling ? l.travel(frame) : 0) - own) * l.weight(frame);
    return own;
  };
  const turn = (frame: number) => turning.reduce((sum, l) => sum + l.turned(frame), 0);
  const along = (by: (turn: number) => number) => (frame: number) => speed(frame) * by(turn(frame));
  const evenIn = ({ from, to }: Interval) => {
    const here = carrying.filter((l) => l.plays((from + to) / 2));
    const top = here[here.length - 1];
    return (!top || (top.isEven(from, to) && top.clip.cycles)) && here.every((l) => l.span.turn === 0);
  };
  if (turning.length === 0) return { z: addedUp(speed, intervals, evenIn), x: null, turn: null };
  return {
    z: addedUp(along(Math.cos), intervals, evenIn),
    x: addedUp(along(Math.sin), intervals, evenIn),
    turn: turnCurve(turning, turn, intervals),
  };
}

/** What a pace adds up to. @param evenIn where it is the same throughout */
function addedUp(
  pace: (frame: number) => number,
  intervals: readonly Interval[],
  evenIn: (interval: Interval) => boolean,
): NumberCurve {
  let far = 0;
  const pieces = intervals.map((interval) => {
    const { from, to } = interval;
    const frames = evenIn(interval) ? [from, to] : framesIn(from, to);
    const inside = (f: number) => Math.min(to - 1e-9, Math.max(from, f));
    const values = [far];
    for (let i = 1; i < frames.length; i++) values.push(values[i - 1] + added(pace, frames[i - 1], frames[i]));
    far = values[values.length - 1];
    return throughSlopes(
      frames,
      values,
      frames.map((f) => pace(inside(f))),
    );
  });
  return { type: 'number', keys: joinedPieces(pieces), before: 'hold', after: 'hold' };
}

/** Which way the body faces: on each interval a cubic, as each span's own turn is. */
function turnCurve(
  turning: readonly Played[],
  turn: (frame: number) => number,
  intervals: readonly Interval[],
): NumberCurve {
  const pieces = intervals.map(({ from, to }) => {
    const middle = (from + to) / 2;
    const slope = (f: number) => turning.reduce((sum, l) => sum + (l.plays(middle) ? l.turning(f) : 0), 0);
    return throughSlopes([from, to], [turn(from), turn(to)], [slope(from), slope(to)]);
  });
  return { type: 'number', keys: joinedPieces(pieces), before: 'hold', after: 'hold' };
}

/** Both ends, and the whole frames between them. */
function framesIn(from: number, to: number): number[] {
  const out = [from];
  for (let f = Math.floor(from) + 1; f < to - 1e-6; f++) out.push(f);
  return [...out, to];
}

/** Places and shares of the Gauss–Legendre rule of eight points: exact for the products of easings there can be, and far finer than anyone sees for turns. */
const GAUSS = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
] as const;

function added(speed: (frame: number) => number, from: number, to: number): number {
  const [middle, half] = [(from + to) / 2, (to - from) / 2];
  return half * GAUSS.reduce((sum, [x, w]) => sum + w * (speed(middle - half * x) + speed(middle + half * x)), 0);
}

/** Reads a course; before and after it the body goes on as it goes there. */
export class CourseReader {
  readonly #z: Onward | null;
  readonly #x: Onward | null;
  readonly #turn: Onward | null;

  constructor(course: Course | null) {
    this.#z = course && new Onward(course.z);
    this.#x = course?.x ? new Onward(course.x) : null;
    this.#turn = course?.turn ? new Onward(course.turn) : null;
  }

  /** Whether it ever turns. */
  get turns(): boolean {
    return this.#turn !== null;
  }

  z(frame: number): number {
    return this.#z?.at(frame) ?? 0;
  }
  x(frame: number): number {
    return this.#x?.at(frame) ?? 0;
  }
  turn(frame: number): number {
    return this.#turn?.at(frame) ?? 0;
  }

  /** Where on the stage something is that is at a place of the body. */
  toStage(frame: number, [x, z]: Spot): Spot {
    const turn = this.turn(frame);
    if (turn === 0) return [this.x(frame) + x, this.z(frame) + z];
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return [this.x(frame) + x * c + z * s, this.z(frame) - x * s + z * c];
  }

  /** Where it is for the body what is at a place of the stage. */
  toBody(frame: number, [x, z]: Spot): Spot {
    const [dx, dz] = [x - this.x(frame), z - this.z(frame)];
    const turn = this.turn(frame);
    if (turn === 0) return [dx, dz];
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return [dx * c - dz * s, dx * s + dz * c];
  }
}

/** A curve that goes on at the pace it has at its ends. */
class Onward {
  readonly #reader: CurveReader;
  readonly #first: number;
  readonly #last: number;
  readonly #before: number;
  readonly #after: number;

  constructor(curve: NumberCurve) {
    const reader = new CurveReader(curve);
    this.#reader = reader;
    this.#first = curve.keys[0].frame;
    this.#last = curve.keys[curve.keys.length - 1].frame;
    const e = 1e-3;
    const pace = (at: number, by: number) => (reader.at(at + by) - reader.at(at)) / by;
    this.#before = pace(this.#first, e);
    this.#after = pace(this.#last, -e);
  }

  at(frame: number): number {
    const at = this.#reader.at(frame);
    if (frame < this.#first) return at + (frame - this.#first) * this.#before;
    return frame > this.#last ? at + (frame - this.#last) * this.#after : at;
  }
}
