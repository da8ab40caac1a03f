import {
  compose,
  invert,
  lengthOf,
  multiply,
  quaternionOfColumns,
  scaleOf,
  slerp,
  swing,
  transformPoint,
  turnOf,
  turnTimes,
} from '../pose/affine.ts';
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

/** What a limb is made of, at rest. */
export interface LimbRest {
  /** Matrices at rest of the three joints, and the maps that undo the rests of the nodes they are reached from. */
  readonly upper: Float64Array;
  readonly lower: Float64Array;
  readonly end: Float64Array;
  readonly pole: readonly [number, number, number];
}

const numbers = (count: number) => new Float64Array(count);
const point = numbers(3);
const goal = numbers(16);
const turns = numbers(12);
const stepTurn = numbers(4);
const shape = numbers(16);

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

/**
 * Two bones that reach for a target by the law of cosines, bent towards a pole; or turned joint by joint; or between the two.
 * It knows nothing of the frame before.
 */
export class Limb implements Operation {
  readonly reads: readonly number[];
  readonly writes: readonly number[];
  readonly #p: LimbPlaces;
  /** Where the upper joint is in its carrier. */
  readonly #from: readonly [number, number, number];
  readonly #first: number;
  readonly #second: number;
  /** What turns the rest of each bone's frame (its way, the bend's axis) back, as a quaternion; then the joint's own turn. */
  readonly #frames = numbers(8);
  readonly #own = numbers(12);

  constructor(places: LimbPlaces, rest: LimbRest) {
    this.#p = places;
    this.reads = [places.carrier, places.target, places.pole, ...places.controls];
    this.writes = [places.upper, places.lower, places.end];
    const at = (m: Float64Array) => [m[12], m[13], m[14]] as const;
    const [a, b, c] = [at(rest.upper), at(rest.lower), at(rest.end)];
    this.#from = [a[0], a[1], a[2]];
    const first = minus(b, a);
    const second = minus(c, b);
    this.#first = Math.hypot(...first);
    this.#second = Math.hypot(...second);
    const axis = cross(minus(c, a), minus(rest.pole, a));
    inverseFrame(this.#frames, 0, first, axis);
    inverseFrame(this.#frames, 4, second, axis);
    turnOf(this.#own, 0, rest.upper, 0);
    turnOf(this.#own, 4, rest.lower, 0);
    turnOf(this.#own, 8, rest.end, 0);
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
    this.#reach(world, values[p.soft], values[p.stretch]);
    if (share < 1) this.#between(world, share);
  }

  #jointByJoint(world: Float64Array): void {
    const { controls, controlOffsets, upper, lower, end } = this.#p;
    multiply(world, upper * 16, world, controls[0] * 16, controlOffsets[0], 0);
    multiply(world, lower * 16, world, controls[1] * 16, controlOffsets[1], 0);
    multiply(world, end * 16, world, controls[2] * 16, controlOffsets[2], 0);
  }

  #reach(world: Float64Array, soft: number, stretch: number): void {
    const p = this.#p;
    multiply(shape, 0, world, p.carrier * 16, p.carrierOffset, 0);
    const size = scaleOf(shape, 0);
    transformPoint(point, 0, shape, 0, this.#from[0], this.#from[1], this.#from[2]);
    const ax = point[0];
    const ay = point[1];
    const az = point[2];
    multiply(goal, 0, world, p.target * 16, p.targetOffset, 0);
    let dx = goal[12] - ax;
    let dy = goal[13] - ay;
    let dz = goal[14] - az;
    let first = this.#first * size;
    let second = this.#second * size;
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
    const at = p.pole * 16;
    const px = world[at + 12] - ax;
    const py = world[at + 13] - ay;
    const pz = world[at + 14] - az;
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
    nx /= length;
    ny /= length;
    nz /= length;
    // Where the bend is: along the limb, and out towards the pole (n × d).
    const along = (first * first - second * second + reached * reached) / (2 * reached);
    const out = Math.sqrt(Math.max(0, first * first - along * along));
    const bx = ax + dx * along + (ny * dz - nz * dy) * out;
    const by = ay + dy * along + (nz * dx - nx * dz) * out;
    const bz = az + dz * along + (nx * dy - ny * dx) * out;
    const ex = ax + dx * reached;
    const ey = ay + dy * reached;
    const ez = az + dz * reached;
    this.#bone(world, p.upper, 0, bx - ax, by - ay, bz - az, nx, ny, nz, size, ax, ay, az);
    this.#bone(world, p.lower, 1, ex - bx, ey - by, ez - bz, nx, ny, nz, size, bx, by, bz);
    const e = p.end * 16;
    for (let i = 0; i < 12; i++) world[e + i] = goal[i];
    world[e + 12] = ex;
    world[e + 13] = ey;
    world[e + 14] = ez;
    world[e + 15] = 1;
  }

  /** Lays one bone along a way, its bend's axis along n. */
  #bone(
    world: Float64Array,
    node: number,
    which: number,
    wx: number,
    wy: number,
    wz: number,
    nx: number,
    ny: number,
    nz: number,
    size: number,
    x: number,
    y: number,
    z: number,
  ): void {
    const k = 1 / lengthOf(wx, wy, wz);
    frameTurn(stepTurn, 0, wx * k, wy * k, wz * k, nx, ny, nz);
    turnTimes(stepTurn, 0, stepTurn, 0, this.#frames, which * 4);
    turnTimes(stepTurn, 0, stepTurn, 0, this.#own, which * 4);
    compose(world, node * 16, stepTurn, 0, size, x, y, z);
  }

  /** Turns each joint between what it is joint by joint (kept in `turns`) and what reaching makes of it. */
  #between(world: Float64Array, share: number): void {
    const { upper, lower, end } = this.#p;
    const u = upper * 16;
    const l = lower * 16;
    const e = end * 16;
    const size = scaleOf(world, u);
    let px = world[u + 12];
    let py = world[u + 13];
    let pz = world[u + 14];
    // The bones' ways in their joints, before those are turned.
    invert(shape, 0, world, u);
    transformPoint(point, 0, shape, 0, world[l + 12], world[l + 13], world[l + 14]);
    const ux = point[0];
    const uy = point[1];
    const uz = point[2];
    invert(shape, 0, world, l);
    transformPoint(point, 0, shape, 0, world[e + 12], world[e + 13], world[e + 14]);
    const lx = point[0];
    const ly = point[1];
    const lz = point[2];
    turnOf(stepTurn, 0, world, u);
    slerp(stepTurn, 0, turns, 0, stepTurn, 0, share);
    compose(world, u, stepTurn, 0, size, px, py, pz);
    transformPoint(point, 0, world, u, ux, uy, uz);
    px = point[0];
    py = point[1];
    pz = point[2];
    turnOf(stepTurn, 0, world, l);
    slerp(stepTurn, 0, turns, 4, stepTurn, 0, share);
    compose(world, l, stepTurn, 0, size, px, py, pz);
    transformPoint(point, 0, world, l, lx, ly, lz);
    px = point[0];
    py = point[1];
    pz = point[2];
    turnOf(stepTurn, 0, world, e);
    slerp(stepTurn, 0, turns, 8, stepTurn, 0, share);
    compose(world, e, stepTurn, 0, scaleOf(world, e), px, py, pz);
  }
}

type Vector = readonly [number, number, number];
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The turn whose x lies along a way and whose y along an axis square to it. Both are of length one. */
function frameTurn(
  out: Float64Array,
  o: number,
  x: number,
  y: number,
  z: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  quaternionOfColumns(out, o, x, y, z, nx, ny, nz, y * nz - z * ny, z * nx - x * nz, x * ny - y * nx);
}

function inverseFrame(out: Float64Array, o: number, direction: Vector, axis: Vector): void {
  const k = 1 / Math.hypot(...direction);
  const [x, y, z] = [direction[0] * k, direction[1] * k, direction[2] * k];
  // The axis made square to the bone, for a pole that is not quite in the limb's plane at rest.
  const along = axis[0] * x + axis[1] * y + axis[2] * z;
  const n = minus(axis, [x * along, y * along, z * along]);
  const l = 1 / Math.hypot(...n);
  frameTurn(out, o, x, y, z, n[0] * l, n[1] * l, n[2] * l);
  for (let i = 0; i < 3; i++) out[o + i] = -out[o + i];
}

const swung = numbers(4);
const carried = numbers(4);
const twist = numbers(4);

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
  readonly #from: Vector;
  readonly #direction: Vector;
  /** The limb's direction at rest, and what turns the frame back to be square to the rig there. */
  readonly #rest: Vector;
  readonly #square = numbers(4);
  readonly #follows: number;

  constructor(
    node: number,
    places: Pick<LimbPlaces, 'carrier' | 'carrierOffset' | 'target' | 'targetOffset'>,
    from: Vector,
    to: Vector,
    direction: Vector,
    follows: number,
  ) {
    this.reads = [places.carrier, places.target];
    this.writes = [node];
    this.#node = node * 16;
    this.#carrier = places.carrier * 16;
    this.#carrierOffset = places.carrierOffset;
    this.#target = places.target * 16;
    this.#targetOffset = places.targetOffset;
    this.#from = from;
    const k = 1 / Math.hypot(...direction);
    this.#direction = [direction[0] * k, direction[1] * k, direction[2] * k];
    const rest = minus(to, from);
    const l = 1 / Math.hypot(...rest);
    this.#rest = [rest[0] * l, rest[1] * l, rest[2] * l];
    swing(this.#square, 0, rest[0], rest[1], rest[2], direction[0], direction[1], direction[2], 1);
    this.#follows = follows;
  }

  run({ world }: FrameNumbers): void {
    multiply(shape, 0, world, this.#carrier, this.#carrierOffset, 0);
    const size = scaleOf(shape, 0);
    transformPoint(point, 0, shape, 0, this.#from[0], this.#from[1], this.#from[2]);
    const ax = point[0];
    const ay = point[1];
    const az = point[2];
    multiply(goal, 0, world, this.#target, this.#targetOffset, 0);
    turnOf(carried, 0, shape, 0);
    const wx = this.#direction[0];
    const wy = this.#direction[1];
    const wz = this.#direction[2];
    const rx = shape[0] * wx + shape[4] * wy + shape[8] * wz;
    const ry = shape[1] * wx + shape[5] * wy + shape[9] * wz;
    const rz = shape[2] * wx + shape[6] * wy + shape[10] * wz;
    swing(swung, 0, rx, ry, rz, goal[12] - ax, goal[13] - ay, goal[14] - az, 1);
    turnTimes(carried, 0, swung, 0, carried, 0);
    turnTimes(carried, 0, carried, 0, this.#square, 0);
    if (this.#follows > 0) {
      // What the end is turned beyond this, about the limb's own way.
      turnOf(twist, 0, goal, 0);
      for (let i = 0; i < 3; i++) carried[i] = -carried[i];
      turnTimes(twist, 0, carried, 0, twist, 0);
      for (let i = 0; i < 3; i++) carried[i] = -carried[i];
      const sign = twist[3] < 0 ? -1 : 1;
      const x = this.#rest[0];
      const y = this.#rest[1];
      const z = this.#rest[2];
      const angle = 2 * Math.atan2(sign * (twist[0] * x + twist[1] * y + twist[2] * z), sign * twist[3]);
      const half = (angle * this.#follows) / 2;
      const sine = Math.sin(half);
      twist[0] = x * sine;
      twist[1] = y * sine;
      twist[2] = z * sine;
      twist[3] = Math.cos(half);
      turnTimes(carried, 0, carried, 0, twist, 0);
    }
    compose(world, this.#node, carried, 0, size, ax, ay, az);
  }
}
