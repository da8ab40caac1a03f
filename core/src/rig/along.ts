import { composeFrom, multiply, scaleOf, swing, swingFrom, transformPoint, turnOf, turnTimes } from '../pose/affine.ts';
import { sinCos } from '../pose/sin-cos.ts';
import { direction, minus, type Vector } from '../pose/vectors.ts';
import type { LimbPlaces } from './limb.ts';
import type { FrameNumbers, Operation } from './operation.ts';

/** Where the limb begins, as its carrier has it, and where its end is. */
const shape = new Float64Array(16);
const goal = new Float64Array(16);
/** A place and a size. */
const place = new Float64Array(4);
const swung = new Float64Array(4);
const carried = new Float64Array(4);
const twist = new Float64Array(4);
/** Two ways, three numbers each. */
const ways = new Float64Array(6);

/** A limb without a length, or a way, has none to say. */
const AHEAD = [0, 0, 1] as const;

/** What the frame of a limb's pole has in common in all rigs of a definition. */
export interface AlongAtRest {
  /** Where the limb begins. */
  readonly from: Vector;
  /** The way from which the frame swings to the limb. */
  readonly direction: Vector;
  /** The limb's own way, and what turns the frame back to be square to the rig there. */
  readonly way: Vector;
  readonly square: Float64Array;
  /** The share of the end's twist that it takes. */
  readonly follows: number;
}

/** @param from and `to`: where the limb begins and ends */
export function alongAtRest(from: Vector, to: Vector, away: Vector, follows: number): AlongAtRest {
  const rest = minus(to, from);
  const square = new Float64Array(4);
  swing(square, 0, rest[0], rest[1], rest[2], away[0], away[1], away[2], 1);
  return { from, direction: direction(away, AHEAD), way: direction(rest, AHEAD), square, follows };
}

/**
 * The frame a limb's pole lives in: it starts where the limb does and swings with it the shortest way from a chosen direction,
 * so that a knee goes where the leg goes. At rest it is square to the rig. It takes a share of the end's twist about the limb
 * as well.
 */
export class Along implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #carrier: number;
  readonly #carrierOffset: Float64Array;
  readonly #target: number;
  readonly #targetOffset: Float64Array;
  readonly #node: number;
  readonly #rest: AlongAtRest;

  constructor(
    node: number,
    places: Pick<LimbPlaces, 'carrier' | 'carrierOffset' | 'target' | 'targetOffset'>,
    rest: AlongAtRest,
  ) {
    this.reads = [places.carrier, places.target];
    this.writes = [node];
    this.#node = node * 16;
    this.#carrier = places.carrier * 16;
    this.#carrierOffset = places.carrierOffset;
    this.#target = places.target * 16;
    this.#targetOffset = places.targetOffset;
    this.#rest = rest;
  }

  run({ world }: FrameNumbers): void {
    multiply(shape, 0, world, this.#carrier, this.#carrierOffset, 0);
    multiply(goal, 0, world, this.#target, this.#targetOffset, 0);
    const { from, direction: away, square, follows } = this.#rest;
    transformPoint(place, 0, shape, 0, from[0], from[1], from[2]);
    place[3] = scaleOf(shape, 0);
    const wx = away[0];
    const wy = away[1];
    const wz = away[2];
    ways[0] = shape[0] * wx + shape[4] * wy + shape[8] * wz;
    ways[1] = shape[1] * wx + shape[5] * wy + shape[9] * wz;
    ways[2] = shape[2] * wx + shape[6] * wy + shape[10] * wz;
    ways[3] = goal[12] - place[0];
    ways[4] = goal[13] - place[1];
    ways[5] = goal[14] - place[2];
    swingFrom(swung, 0, ways, 0, ways, 3, 1);
    turnOf(carried, 0, shape, 0);
    turnTimes(carried, 0, swung, 0, carried, 0);
    turnTimes(carried, 0, carried, 0, square, 0);
    if (follows > 0) twistAlong(this.#rest);
    composeFrom(world, this.#node, carried, 0, place, 0);
  }
}

/** Turns with the end: by a share of what that is turned beyond this, about the limb's own way. */
function twistAlong({ way, follows }: AlongAtRest): void {
  turnOf(twist, 0, goal, 0);
  for (let i = 0; i < 3; i++) carried[i] = -carried[i];
  turnTimes(twist, 0, carried, 0, twist, 0);
  for (let i = 0; i < 3; i++) carried[i] = -carried[i];
  const sign = twist[3] < 0 ? -1 : 1;
  const x = way[0];
  const y = way[1];
  const z = way[2];
  const half = Math.atan2(sign * (twist[0] * x + twist[1] * y + twist[2] * z), sign * twist[3]);
  sinCos(half * follows, ways, 0);
  twist[0] = x * ways[0];
  twist[1] = y * ways[0];
  twist[2] = z * ways[0];
  twist[3] = ways[1];
  turnTimes(carried, 0, carried, 0, twist, 0);
}
