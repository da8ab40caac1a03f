import { splitPath } from '../document/channels.ts';
import { withDescendants } from '../document/hierarchy.ts';
import { boundsOf } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { deformPoints, isAffine, isDeformed, shapeMatrix } from '../evaluate/shape.ts';
import { surfacePoints } from '../surface/points.ts';
import { isSolid, type Lowest, lowestOf } from '../surface/support.ts';
import { changingPaths } from '../track/arrangement.ts';
import { facesOf } from './faces.ts';

/** How a form stands to the ground nearest to it. */
export interface Touch {
  /** Metres between the two along the ground's normal; below 0 the form is in the ground. */
  readonly gap: number;
  /** The ground's normal. */
  readonly normal: readonly [number, number, number];
  /** Whose ground it is; null is the floor of the stage. */
  readonly member: string | null;
}

/** Where something would come to lie. */
export interface Landing {
  readonly y: number;
  readonly normal: readonly [number, number, number];
  readonly member: string | null;
}

/** A face steeper than this is a wall: nothing lands on it. The cosine of 75°. */
const STEEPEST = 0.26;
/** How far outside a face's edge its middle may be, for a form to be on it still. */
const EDGE = 1e-3;

/** A face in the world: its plane `n · p = level`, and its corners. */
interface WorldFace {
  readonly slot: number;
  readonly own: Float64Array;
  readonly corners: Float64Array;
  readonly normal: Float64Array;
  level: number;
  /** A ball around it, to pass it over quickly: in its own space, and in the world. */
  readonly ownMiddle: readonly [number, number, number];
  readonly ownReach: number;
  readonly middle: Float64Array;
  reach: number;
  /** Whether the corners are still to be placed: most faces are never looked at that closely. */
  stale: boolean;
  /** The frame it was placed for, which its corners are placed from. */
  frame: Frame | null;
}

/** A form that may touch the ground. */
interface Mover {
  readonly lowest: Lowest;
  readonly points: Float64Array;
  readonly scratch: Float64Array;
  readonly middle: readonly [number, number, number];
  readonly size: number;
  /** 1 for the slots it cannot land on: its own, and of what hangs on it or carries it. */
  readonly own: Uint8Array;
}

const matrix = new Float64Array(16);

/**
 * What things in a shot can land on: the flat faces of its set pieces, and the floor of the stage at height 0. One piece may
 * land on another that moves.
 */
export class Ground {
  readonly #shot: Shot;
  readonly #moving: ReadonlySet<string>;
  #standing: WorldFace[] | null = null;
  #faces: WorldFace[] = [];
  /**
   * The ball round each face and its plane, eight numbers each: every form is held against every face in every frame, and nearly all are
   * far from one another. A wall has no ball, which no distance is within.
   */
  #balls = new Float64Array(0);
  #at: Frame | null = null;
  #time = Number.NaN;
  readonly #movers = new Map<string, Mover>();

  constructor(shot: Shot) {
    this.#shot = shot;
    this.#moving = movingMembers(shot);
  }

  /** How a member stands to the ground nearest to it; null for what has no body. */
  touch(frame: Frame, id: string): Touch | null {
    const slot = frame.layout.slotOf.get(id);
    const member = this.#shot.members.get(id);
    if (slot === undefined || !member || !isSolid(member)) return null;
    this.#goTo(frame);
    const mover = this.#mover(id, frame);
    shapeMatrix(frame, slot, matrix);
    const bent = isDeformed(frame, slot) && !isAffine(frame, slot);
    if (bent) this.#bend(mover, frame, slot);
    const middle = placed(mover.middle);
    let best: Touch = { gap: this.#reach(mover, bent, 0, 1, 0), normal: [0, 1, 0], member: null };
    // Deep in the floor of the stage is still in it; deep in another piece may be beyond it.
    const size = mover.size * Math.hypot(matrix[4], matrix[5], matrix[6]);
    const most = mover.size * mostOf(matrix, 0);
    const balls = this.#balls;
    const mx = middle[0];
    const my = middle[1];
    const mz = middle[2];
    let reach = EDGE + size + Math.abs(best.gap);
    for (let i = 0, b = 0; i < this.#faces.length; i++, b += 8) {
      // What is further away than this is neither over the face nor nearer to it than to what has been found.
      const near = balls[b + 3] + reach;
      const dx = mx - balls[b];
      const dy = my - balls[b + 1];
      const dz = mz - balls[b + 2];
      const apart = dx * dx + dy * dy + dz * dz;
      if (!(apart <= near * near)) continue;
      const nx = balls[b + 4];
      const ny = balls[b + 5];
      const nz = balls[b + 6];
      // It is not over the face where its middle is further aside than the face reaches; and its lowest point is not further from
      // its middle than it is large: what those say already need not be worked out.
      const height = nx * mx + ny * my + nz * mz - balls[b + 7];
      const aside = balls[b + 3] + EDGE;
      if (apart - height * height > aside * aside) continue;
      if (!bent && (height + most < -size || height - most >= Math.abs(best.gap))) continue;
      const face = this.#faces[i];
      if (mover.own[face.slot] === 1) continue;
      const gap = this.#reach(mover, bent, nx, ny, nz) - face.level;
      if (gap < -size || Math.abs(gap) >= Math.abs(best.gap) || !over(face, middle)) continue;
      best = { gap, normal: [nx, ny, nz], member: frame.layout.ids[face.slot] };
      reach = EDGE + size + Math.abs(gap);
    }
    return best;
  }

  /** How high the highest ground is at a place seen from above, at or below a height; the floor of the stage is 0. */
  heightAt(frame: Frame, x: number, z: number, below: number): number {
    this.#goTo(frame);
    let best = 0;
    for (const face of this.#faces) {
      const [nx, ny, nz] = face.normal;
      if (ny < STEEPEST) continue;
      const y = (face.level - nx * x - nz * z) / ny;
      if (y <= below + EDGE && y > best && over(face, Float64Array.of(x, y, z))) best = y;
    }
    return best;
  }

  /**
   * Where a member comes to lie on the highest ground below a height, if it is put at `x` and `z` in the world without being
   * turned or resized.
   * @returns the height of its origin there, and the ground's normal
   */
  landing(frame: Frame, id: string, x: number, z: number, below: number): Landing {
    this.#goTo(frame);
    const slot = frame.layout.slotOf.get(id)!;
    const mover = this.#mover(id, frame);
    shapeMatrix(frame, slot, matrix);
    matrix[12] = x;
    matrix[13] = 0;
    matrix[14] = z;
    let best: Landing = { y: -this.#reach(mover, false, 0, 1, 0), normal: [0, 1, 0], member: null };
    for (const face of this.#faces) {
      const n = face.normal;
      const nx = n[0];
      const ny = n[1];
      const nz = n[2];
      if (ny < STEEPEST || mover.own[face.slot] === 1) continue;
      matrix[13] = 0;
      const y = (face.level - this.#reach(mover, false, nx, ny, nz)) / ny;
      if (y > below + EDGE || y <= best.y) continue;
      matrix[13] = y;
      if (over(face, placed(mover.middle))) best = { y, normal: [nx, ny, nz], member: frame.layout.ids[face.slot] };
    }
    return best;
  }

  /** The lowest a mover gets along a normal, in the world. */
  #reach(mover: Mover, bent: boolean, nx: number, ny: number, nz: number): number {
    const m = matrix;
    if (bent) {
      const p = mover.scratch;
      let least = Number.POSITIVE_INFINITY;
      for (let i = 0; i < p.length; i += 3) least = Math.min(least, nx * p[i] + ny * p[i + 1] + nz * p[i + 2]);
      return least;
    }
    const x = m[0] * nx + m[1] * ny + m[2] * nz;
    const y = m[4] * nx + m[5] * ny + m[6] * nz;
    const z = m[8] * nx + m[9] * ny + m[10] * nz;
    return nx * m[12] + ny * m[13] + nz * m[14] + mover.lowest(x, y, z);
  }

  /** A bent form's points in the world. */
  #bend(mover: Mover, frame: Frame, slot: number): void {
    mover.scratch.set(mover.points);
    deformPoints(frame, slot, mover.scratch);
    const p = mover.scratch;
    const w = frame.world;
    const at = slot * 16;
    for (let i = 0; i < p.length; i += 3) {
      const [x, y, z] = [p[i], p[i + 1], p[i + 2]];
      for (let r = 0; r < 3; r++) p[i + r] = w[at + r] * x + w[at + 4 + r] * y + w[at + 8 + r] * z + w[at + 12 + r];
    }
  }

  #mover(id: string, { layout }: Frame): Mover {
    const known = this.#movers.get(id);
    if (known && known.own.length === layout.ids.length) return known;
    const member = this.#shot.members.at(id);
    const [x0, y0, z0, x1, y1, z1] = boundsOf(member, this.#shot.rigs);
    const own = withDescendants(this.#shot, [id]);
    for (let up = member.parent; up !== null && this.#shot.members.has(up); up = this.#shot.members.at(up).parent)
      own.add(up);
    const ownSlots = Uint8Array.from(layout.ids, (other) => (own.has(other) ? 1 : 0));
    const points = member.deformers.length > 0 ? surfacePoints(member, this.#shot.rigs) : new Float64Array(0);
    const mover: Mover = {
      lowest: lowestOf(member, this.#shot.rigs),
      points,
      scratch: new Float64Array(points.length),
      middle: [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2],
      size: Math.hypot(x1 - x0, y1 - y0, z1 - z0) / 2,
      own: ownSlots,
    };
    this.#movers.set(id, mover);
    return mover;
  }

  /** Brings the faces to where they are at a frame; those that never move are placed once. */
  #goTo(frame: Frame): void {
    if (this.#at?.layout === frame.layout && this.#time === frame.at) return;
    if (!this.#standing || this.#at?.layout !== frame.layout) {
      const all = frame.layout.ids.flatMap((id, slot) =>
        facesOf(this.#shot.members.at(id)).map((own) => newFace(slot, own)),
      );
      for (const face of all) place(face, frame);
      this.#standing = all.filter((f) => !this.#moving.has(frame.layout.ids[f.slot]));
      this.#faces = [...this.#standing, ...all.filter((f) => this.#moving.has(frame.layout.ids[f.slot]))];
      this.#balls = new Float64Array(this.#faces.length * 8);
      for (let i = 0; i < this.#faces.length; i++) this.#noteBall(i);
    } else {
      for (let i = this.#standing.length; i < this.#faces.length; i++) {
        place(this.#faces[i], frame);
        this.#noteBall(i);
      }
    }
    this.#at = frame;
    this.#time = frame.at;
  }

  #noteBall(i: number): void {
    const { middle, reach, normal, level } = this.#faces[i];
    const balls = this.#balls;
    for (let c = 0; c < 3; c++) {
      balls[i * 8 + c] = middle[c];
      balls[i * 8 + 4 + c] = normal[c];
    }
    balls[i * 8 + 3] = normal[1] < STEEPEST ? Number.NaN : reach;
    balls[i * 8 + 7] = level;
  }
}

/** Members that move, or are carried by one that does. */
export function movingMembers(shot: Shot): Set<string> {
  const driven = new Set<string>();
  for (const path of changingPaths(shot)) {
    const { member, channel } = splitPath(path);
    if (/^(move|turn|size|pivot|orientation)/.test(channel)) driven.add(member);
  }
  return withDescendants(shot, [...driven]);
}

function newFace(slot: number, own: Float64Array): WorldFace {
  const middle: [number, number, number] = [0, 0, 0];
  const count = own.length / 3;
  for (let i = 0; i < own.length; i++) middle[i % 3] += own[i] / count;
  let reach = 0;
  for (let i = 0; i < own.length; i += 3)
    reach = Math.max(reach, Math.hypot(own[i] - middle[0], own[i + 1] - middle[1], own[i + 2] - middle[2]));
  return {
    slot,
    own,
    corners: new Float64Array(own.length),
    normal: new Float64Array(3),
    level: 0,
    ownMiddle: middle,
    ownReach: reach,
    middle: new Float64Array(3),
    reach: 0,
    stale: true,
    frame: null,
  };
}

/** Writes a point of a face's own space, in the world. */
function placeCorner(
  face: WorldFace,
  w: Float64Array,
  x: number,
  y: number,
  z: number,
  out: Float64Array,
  to: number,
): void {
  const at = face.slot * 16;
  out[to] = w[at] * x + w[at + 4] * y + w[at + 8] * z + w[at + 12];
  out[to + 1] = w[at + 1] * x + w[at + 5] * y + w[at + 9] * z + w[at + 13];
  out[to + 2] = w[at + 2] * x + w[at + 6] * y + w[at + 10] * z + w[at + 14];
}

/** Places a face's plane and the ball around it; its corners wait until they are needed. */
function place(face: WorldFace, frame: Frame): void {
  const { own, corners, normal, middle, ownMiddle } = face;
  const w = frame.world;
  for (let i = 0; i < 9; i += 3) placeCorner(face, w, own[i], own[i + 1], own[i + 2], corners, i);
  placeCorner(face, w, ownMiddle[0], ownMiddle[1], ownMiddle[2], middle, 0);
  const [ax, ay, az] = [corners[3] - corners[0], corners[4] - corners[1], corners[5] - corners[2]];
  const [bx, by, bz] = [corners[6] - corners[3], corners[7] - corners[4], corners[8] - corners[5]];
  normal[0] = ay * bz - az * by;
  normal[1] = az * bx - ax * bz;
  normal[2] = ax * by - ay * bx;
  const length = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) || 1;
  for (let r = 0; r < 3; r++) normal[r] /= length;
  face.level = normal[0] * corners[0] + normal[1] * corners[1] + normal[2] * corners[2];
  face.reach = face.ownReach * mostOf(w, face.slot * 16);
  face.stale = true;
  face.frame = frame;
}

/** However it is turned, no length grows by more than the root of the sum of squares of a matrix. */
function mostOf(m: Float64Array, at: number): number {
  let squares = 0;
  for (let c = 0; c < 12; c += 4) for (let r = 0; r < 3; r++) squares += m[at + c + r] * m[at + c + r];
  return Math.sqrt(squares);
}

/** A face's corners in the world. */
function cornersOf(face: WorldFace): Float64Array {
  if (face.stale && face.frame) {
    const { own } = face;
    for (let i = 0; i < own.length; i += 3)
      placeCorner(face, face.frame.world, own[i], own[i + 1], own[i + 2], face.corners, i);
    face.stale = false;
  }
  return face.corners;
}

const at = new Float64Array(3);
function placed([x, y, z]: readonly [number, number, number]): Float64Array {
  for (let r = 0; r < 3; r++) at[r] = matrix[r] * x + matrix[4 + r] * y + matrix[8 + r] * z + matrix[12 + r];
  return at;
}

/** Whether a point lies over a face, seen along the face's normal. */
function over(face: WorldFace, point: Float64Array): boolean {
  const { normal, middle } = face;
  const height = normal[0] * point[0] + normal[1] * point[1] + normal[2] * point[2] - face.level;
  const px = point[0] - height * normal[0];
  const py = point[1] - height * normal[1];
  const pz = point[2] - height * normal[2];
  const gx = px - middle[0];
  const gy = py - middle[1];
  const gz = pz - middle[2];
  const reach = face.reach + EDGE;
  if (gx * gx + gy * gy + gz * gz > reach * reach) return false;
  const corners = cornersOf(face);
  for (let i = 0; i < corners.length; i += 3) {
    const j = (i + 3) % corners.length;
    const [ex, ey, ez] = [corners[j] - corners[i], corners[j + 1] - corners[i + 1], corners[j + 2] - corners[i + 2]];
    const [qx, qy, qz] = [px - corners[i], py - corners[i + 1], pz - corners[i + 2]];
    const side = normal[0] * (ey * qz - ez * qy) + normal[1] * (ez * qx - ex * qz) + normal[2] * (ex * qy - ey * qx);
    if (side < -EDGE * Math.hypot(ex, ey, ez)) return false;
  }
  return true;
}
