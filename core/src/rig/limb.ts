import { composeFrom, invert, lengthOf, multiply, scaleOf, slerp, transformPoint, turnOf } from '../pose/affine.ts';
import { cross, direction, dot, minus, times, type Vector } from '../pose/vectors.ts';
import type { FrameNumbers, Operation } from './operation.ts';

/**
 * How far a limb of a length reaches towards something at a distance. Exact up to `1 - soft` of its length; from there the
 * limb straightens ever more slowly and never quite, so that a knee does not snap. Continuous, and so is its slope.
 * @param soft share of the length, 0 (reaches all the way) to below 1
 */
export function softReach(distance: number, length: number, soft: number): number {
  const from = length * (1 - soft);
  if (distance <= from) return distance;
  const room = length - from;
  if (room < 1e-12 * length) return length;
  return from + room * (1 - Math.exp(-(distance - from) / room));
}

/** How far away a target must be for a limb to reach as far as it does: what undoes `softReach`. */
export function softDistance(reached: number, length: number, soft: number): number {
  const from = length * (1 - soft);
  const room = length - from;
  if (reached <= from || room < 1e-12 * length) return reached;
  return from - room * Math.log(Math.max(1e-9, 1 - (reached - from) / room));
}

const numbers = (count: number) => new Float64Array(count);
const goal = numbers(16);
const turns = numbers(12);
const stepTurn = numbers(4);
const shape = numbers(16);
/** Where the three joints of a limb are. */
const joints = numbers(9);
/** A bone's way, the axis it is bent about and what is square to both, as columns of its rig's size, and where it begins. */
const bone = numbers(16);
/** A place and a size. */
const place = numbers(4);

/** Where the nodes and numbers of a limb are. */
export interface LimbPlaces {
  /** The node that carries the upper joint, and the map from the rig at rest into it. */
  readonly carrier: number;
  readonly carrierOffset: Float64Array;
  /** The node that is reached for, and where the end joint stands in it. */
  readonly target: number;
  readonly targetOffset: Float64Array;
  readonly pole: number;
  readonly upper: number;
  readonly lower: number;
  readonly end: number;
  /** Nodes of the controls that turn it joint by joint, and how the joints stand in them. */
  readonly controls: readonly [number, number, number];
  readonly controlOffsets: readonly [Float64Array, Float64Array, Float64Array];
  /** Places of the dials in the values. */
  readonly reach: number;
  readonly soft: number;
  readonly stretch: number;
}

/** What a limb has in common in all rigs of a definition. */
export interface LimbAtRest {
  /** Where the upper joint is in the rig. */
  readonly from: Vector;
  /** How long the two bones are. */
  readonly first: number;
  readonly second: number;
  /** How each bone's joint is turned in the bone's frame (its way, the bend's axis), as matrices. */
  readonly inFrame: Float64Array;
}

/** @param upper and the others: matrices at rest of the three joints @param pole where the pole is */
export function limbAtRest(upper: Float64Array, lower: Float64Array, end: Float64Array, pole: Vector): LimbAtRest {
  const at = (m: Float64Array): Vector => [m[12], m[13], m[14]];
  const [a, b, c] = [at(upper), at(lower), at(end)];
  const first = minus(b, a);
  const second = minus(c, b);
  const axis = cross(minus(c, a), minus(pole, a));
  const frames = numbers(32);
  inFrame(frames, 0, first, axis, upper);
  inFrame(frames, 16, second, axis, lower);
  return { from: a, first: Math.hypot(...first), second: Math.hypot(...second), inFrame: frames };
}

/**
 * Two bones that reach for a target by the law of cosines, bent towards a pole; or turned joint by joint; or between the two.
 * It knows nothing of the frame before.
 */
export class Limb implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #p: LimbPlaces;
  readonly #rest: LimbAtRest;

  constructor(places: LimbPlaces, rest: LimbAtRest) {
    this.#p = places;
    this.#rest = rest;
    this.reads = [places.carrier, places.target, places.pole, ...places.controls];
    this.writes = [places.upper, places.lower, places.end];
  }

  run({ world, values }: FrameNumbers): void {
    const p = this.#p;
    const share = Math.min(1, Math.max(0, values[p.reach]));
    if (share < 1) this.#jointByJoint(world);
    if (share === 0) return;
    for (let i = 0; i < 3; i++) {
      const node = i === 0 ? p.upper : i === 1 ? p.lower : p.end;
      if (share < 1) turnOf(turns, i * 4, world, node * 16);
    }
    this.#reach(world, values);
    if (share < 1) this.#between(world, share);
  }

  #jointByJoint(world: Float64Array): void {
    const { controls, controlOffsets, upper, lower, end } = this.#p;
    multiply(world, upper * 16, world, controls[0] * 16, controlOffsets[0], 0);
    multiply(world, lower * 16, world, controls[1] * 16, controlOffsets[1], 0);
    multiply(world, end * 16, world, controls[2] * 16, controlOffsets[2], 0);
  }

  #reach(world: Float64Array, values: Float64Array): void {
    const p = this.#p;
    multiply(shape, 0, world, p.carrier * 16, p.carrierOffset, 0);
    multiply(goal, 0, world, p.target * 16, p.targetOffset, 0);
    place[3] = scaleOf(shape, 0);
    const { from } = this.#rest;
    transformPoint(joints, 0, shape, 0, from[0], from[1], from[2]);
    this.#bend(world, values);
    this.#bone(world, p.upper * 16, 0);
    this.#bone(world, p.lower * 16, 1);
    const e = p.end * 16;
    for (let i = 0; i < 12; i++) world[e + i] = goal[i];
    world[e + 12] = joints[6];
    world[e + 13] = joints[7];
    world[e + 14] = joints[8];
    world[e + 15] = 1;
  }

  /** Finds where the bend and the end are, and the axis of the bend. */
  #bend(world: Float64Array, values: Float64Array): void {
    const pole = this.#p.pole * 16;
    const soft = values[this.#p.soft];
    const stretch = values[this.#p.stretch];
    const size = place[3];
    const ax = joints[0];
    const ay = joints[1];
    const az = joints[2];
    let dx = goal[12] - ax;
    let dy = goal[13] - ay;
    let dz = goal[14] - az;
    let first = this.#rest.first * size;
    let second = this.#rest.second * size;
    const distance = lengthOf(dx, dy, dz);
    const least = Math.abs(first - second) + 1e-9 * (first + second);
    let reached = Math.max(least, softReach(distance, first + second, Math.min(0.5, Math.max(0, soft))));
    if (distance > reached && stretch > 0) {
      const by = 1 + Math.min(1, stretch) * (distance / reached - 1);
      first *= by;
      second *= by;
      reached *= by;
    }
    if (distance < 1e-9) {
      // The target stands in the shoulder: any way is as good as another, down is one.
      dx = -shape[4];
      dy = -shape[5];
      dz = -shape[6];
    }
    const shorten = 1 / lengthOf(dx, dy, dz);
    dx *= shorten;
    dy *= shorten;
    dz *= shorten;
    // The axis of the bend is square to the limb and to the way to the pole.
    const px = world[pole + 12] - ax;
    const py = world[pole + 13] - ay;
    const pz = world[pole + 14] - az;
    let nx = dy * pz - dz * py;
    let ny = dz * px - dx * pz;
    let nz = dx * py - dy * px;
    let length = lengthOf(nx, ny, nz);
    if (length < 1e-7 * (1 + lengthOf(px, py, pz))) {
      // The pole lies on the limb and says nothing: the rig's own x is as good, or its z.
      const side = Math.abs(dx * shape[0] + dy * shape[1] + dz * shape[2]) < 0.9 * size ? 0 : 8;
      nx = dy * shape[side + 2] - dz * shape[side + 1];
      ny = dz * shape[side] - dx * shape[side + 2];
      nz = dx * shape[side + 1] - dy * shape[side];
      length = lengthOf(nx, ny, nz);
    }
    const square = 1 / length;
    nx *= square;
    ny *= square;
    nz *= square;
    bone[4] = nx * size;
    bone[5] = ny * size;
    bone[6] = nz * size;
    // Where the bend is: along the limb, and out towards the pole (n × d).
    const along = (first * first - second * second + reached * reached) / (2 * reached);
    const out = Math.sqrt(Math.max(0, first * first - along * along));
    joints[3] = ax + dx * along + (ny * dz - nz * dy) * out;
    joints[4] = ay + dy * along + (nz * dx - nx * dz) * out;
    joints[5] = az + dz * along + (nx * dy - ny * dx) * out;
    joints[6] = ax + dx * reached;
    joints[7] = ay + dy * reached;
    joints[8] = az + dz * reached;
  }

  /** Lays one bone along its way, about the axis of the bend. */
  #bone(world: Float64Array, node: number, which: 0 | 1): void {
    const size = place[3];
    const from = which * 3;
    const x = joints[from + 3] - joints[from];
    const y = joints[from + 4] - joints[from + 1];
    const z = joints[from + 5] - joints[from + 2];
    const k = 1 / lengthOf(x, y, z);
    const wx = x * k;
    const wy = y * k;
    const wz = z * k;
    bone[0] = wx * size;
    bone[1] = wy * size;
    bone[2] = wz * size;
    bone[8] = wy * bone[6] - wz * bone[5];
    bone[9] = wz * bone[4] - wx * bone[6];
    bone[10] = wx * bone[5] - wy * bone[4];
    bone[12] = joints[from];
    bone[13] = joints[from + 1];
    bone[14] = joints[from + 2];
    multiply(world, node, bone, 0, this.#rest.inFrame, which * 16);
  }

  /** Turns each joint between what it is joint by joint (kept in `turns`) and what reaching makes of it. */
  #between(world: Float64Array, share: number): void {
    const { upper, lower, end } = this.#p;
    const u = upper * 16;
    const l = lower * 16;
    const e = end * 16;
    // The bones' ways in their joints, before those are turned.
    invert(shape, 0, world, u);
    transformPoint(joints, 3, shape, 0, world[l + 12], world[l + 13], world[l + 14]);
    invert(shape, 0, world, l);
    transformPoint(joints, 6, shape, 0, world[e + 12], world[e + 13], world[e + 14]);
    const endSize = scaleOf(world, e);
    place[0] = world[u + 12];
    place[1] = world[u + 13];
    place[2] = world[u + 14];
    place[3] = scaleOf(world, u);
    turnPart(world, u, 0, share);
    transformPoint(place, 0, world, u, joints[3], joints[4], joints[5]);
    turnPart(world, l, 4, share);
    transformPoint(place, 0, world, l, joints[6], joints[7], joints[8]);
    place[3] = endSize;
    turnPart(world, e, 8, share);
  }
}

/** Turns a joint by a share from what is kept in `turns` to what it is, and sets it at `place`. */
function turnPart(world: Float64Array, joint: number, kept: number, share: number): void {
  turnOf(stepTurn, 0, world, joint);
  slerp(stepTurn, 0, turns, kept, stepTurn, 0, share);
  composeFrom(world, joint, stepTurn, 0, place, 0);
}

/** Writes how a joint is turned at rest in the frame whose x lies along its bone, and whose y as near as can be along an axis. */
function inFrame(out: Float64Array, at: number, way: Vector, axis: Vector, rest: Float64Array): void {
  const x = direction(way, ALONG_X);
  // The axis made square to the bone, for a pole that is not quite in the limb's plane at rest.
  const y = direction(minus(axis, times(x, dot(axis, x))), ALONG_X);
  const z = cross(x, y);
  turnOf(stepTurn, 0, rest, 0);
  composeFrom(out, at, stepTurn, 0, UNMOVED, 0);
  multiply(
    out,
    at,
    Float64Array.of(x[0], y[0], z[0], 0, x[1], y[1], z[1], 0, x[2], y[2], z[2], 0, 0, 0, 0, 1),
    0,
    out,
    at,
  );
}

const UNMOVED = Float64Array.of(0, 0, 0, 1);
/** A bone without a length has no way: any is as good. */
const ALONG_X = [1, 0, 0] as const;
