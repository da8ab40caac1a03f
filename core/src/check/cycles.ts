import { jointOutlines } from '../body/extent.ts';
import { clipAtWork } from '../clip/at-work.ts';
import { lackingOf } from '../clip/lacking.ts';
import { controlsOf } from '../document/casting.ts';
import { splitPath } from '../document/channels.ts';
import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { invert, transformPoint } from '../pose/affine.ts';
import type { RigFoot, RigLimb } from '../rig/definition.ts';
import type { PlacedRig } from '../rig/placed.ts';

/** Lower than this above the ground a part touches it, metres. */
export const TOUCHES = 3e-3;

/** A foot through a cycle. */
export interface WatchedFoot {
  /** The member that is its control, and what the rig calls it. */
  readonly member: string;
  readonly control: string;
  readonly limb: RigLimb;
  readonly foot: RigFoot;
  /** Heel, ball and toe in each frame, in the rig's space: nine numbers. */
  readonly points: Float64Array;
  /** How far forward its control is in each frame. */
  readonly forward: Float64Array;
}

/**
 * One round of a rig's cycle, looked at as if the rig stayed in place: whatever way it takes over the stage, a walk is right or
 * wrong by itself. All places are in the rig's own space; the ground is its floor.
 */
export class WatchedCycle {
  readonly rig: string;
  readonly placed: PlacedRig;
  /** The clip, or null for keys that cycle without one. */
  readonly clip: Clip | null;
  /** It is being posed still: what is said of whole cycles is not said of it yet. */
  readonly isBegun: boolean;
  readonly first: number;
  readonly length: number;
  /** Where each joint is, three numbers a joint and frame, both ends of the cycle included. */
  readonly joints: Float64Array;
  /** The lowest point of each joint's body. */
  readonly lowest: Float64Array;
  /** Matrices of the controls called hips and head, 16 numbers a frame; null for rigs without one. */
  readonly hips: Float64Array | null;
  readonly head: Float64Array | null;
  readonly feet: readonly WatchedFoot[];
  readonly #outlines: readonly Float64Array[];

  constructor(shot: Shot, placed: PlacedRig, rig: string, span: { first: number; length: number; clip: Clip | null }) {
    const { compiled } = placed;
    const { joints } = compiled.rig;
    this.rig = rig;
    this.placed = placed;
    this.clip = span.clip;
    this.isBegun = span.clip !== null && lackingOf(shot, span.clip) !== null;
    this.first = span.first;
    this.length = span.length;
    const frames = span.length + 1;
    this.joints = new Float64Array(frames * joints.length * 3);
    this.lowest = new Float64Array(frames * joints.length);
    const matrices = (id: string) => (compiled.controlAt.has(id) ? new Float64Array(frames * 16) : null);
    this.hips = matrices('hips');
    this.head = matrices('head');
    const members = new Map(controlsOf(shot, rig).map((c) => [c.shape.control, c.id]));
    this.feet = compiled.rig.feet.flatMap((foot) => {
      const limb = compiled.rig.limbs.find((l) => l.target.is === 'foot' && l.target.id === foot.id);
      const member = members.get(foot.control);
      return limb && member
        ? [
            {
              member,
              control: foot.control,
              limb,
              foot,
              points: new Float64Array(frames * 9),
              forward: new Float64Array(frames),
            },
          ]
        : [];
    });
    this.#outlines = jointOutlines(compiled);
  }

  /** How far the ground goes back under the rig, metres a frame. */
  get groundSpeed(): number {
    return (this.clip?.travel ?? 0) / this.length;
  }

  /** Notes a frame of its own, the `i`th from its first. */
  note(frame: Frame, i: number): void {
    const { compiled, joints: first, root } = this.placed;
    invert(toRig, 0, frame.world, root * 16);
    const count = compiled.rig.joints.length;
    for (let j = 0; j < count; j++) {
      const at = (first + j) * 16;
      const { world } = frame;
      transformPoint(this.joints, (i * count + j) * 3, toRig, 0, world[at + 12], world[at + 13], world[at + 14]);
      this.lowest[i * count + j] = this.#lowestOf(frame, j);
    }
    this.#noteMatrix(frame, 'hips', this.hips, i);
    this.#noteMatrix(frame, 'head', this.head, i);
    for (const { foot, limb, control, points, forward } of this.feet) {
      const { world } = frame;
      const at = this.placed.controls[compiled.controlAt.get(control)!] * 16 + 12;
      transformPoint(point, 0, toRig, 0, world[at], world[at + 1], world[at + 2]);
      forward[i] = point[2];
      const sole = compiled.rig.joints.find((j) => j.by?.kind === 'foot' && j.by.foot === foot.id)?.id ?? limb.end;
      // A hoof is one piece; a foot that rolls has its heel on the part that lifts.
      const heel = foot.ball[1] > 0.01 ? sole : limb.end;
      this.#notePoint(frame, heel, foot.heel, points, i * 9);
      this.#notePoint(frame, sole, foot.ball[1] > 0.01 ? foot.heel : foot.ball, points, i * 9 + 3);
      this.#notePoint(frame, sole, foot.toe, points, i * 9 + 6);
    }
  }

  #lowestOf({ world }: Frame, j: number): number {
    const outline = this.#outlines[j];
    const at = (this.placed.joints + j) * 16;
    let lowest = Number.POSITIVE_INFINITY;
    for (let p = 0; p < outline.length; p += 3) {
      transformPoint(point, 0, world, at, outline[p], outline[p + 1], outline[p + 2]);
      lowest = Math.min(lowest, toRig[1] * point[0] + toRig[5] * point[1] + toRig[9] * point[2] + toRig[13]);
    }
    return lowest;
  }

  #noteMatrix({ world }: Frame, id: string, into: Float64Array | null, i: number): void {
    const c = this.placed.compiled.controlAt.get(id);
    if (!into || c === undefined) return;
    const at = this.placed.controls[c] * 16;
    for (let column = 0; column < 4; column++) {
      const [x, y, z] = [world[at + column * 4], world[at + column * 4 + 1], world[at + column * 4 + 2]];
      const w = column === 3 ? 1 : 0;
      for (let r = 0; r < 3; r++)
        into[i * 16 + column * 4 + r] = toRig[r] * x + toRig[4 + r] * y + toRig[8 + r] * z + toRig[12 + r] * w;
      into[i * 16 + column * 4 + 3] = w;
    }
  }

  /** Where a place of the rig at rest is now that a joint carries it. */
  #notePoint(
    { world }: Frame,
    joint: string,
    place: readonly [number, number, number],
    out: Float64Array,
    at: number,
  ): void {
    const { compiled, joints } = this.placed;
    const j = compiled.jointAt.get(joint)!;
    invert(undone, 0, compiled.rests, j * 16);
    transformPoint(point, 0, undone, 0, place[0], place[1], place[2]);
    transformPoint(point, 0, world, (joints + j) * 16, point[0], point[1], point[2]);
    transformPoint(out, at, toRig, 0, point[0], point[1], point[2]);
  }

  /** How high a joint is above the rig's floor in a frame. */
  height(joint: string, i: number): number {
    const { jointAt, rig } = this.placed.compiled;
    return this.joints[(i * rig.joints.length + jointAt.get(joint)!) * 3 + 1];
  }

  /** Whether a foot is on the ground in a frame: as its clip says, or as it looks. */
  isDown(foot: WatchedFoot, i: number): boolean {
    const stances = this.clip?.stances[foot.control];
    if (stances && stances.length > 0) {
      const { length } = this;
      return stances.some(({ from, to }) => [-length, 0, length].some((k) => from + k <= i && i <= to + k));
    }
    return [1, 4, 7].some((c) => foot.points[i * 9 + c] < TOUCHES);
  }
}

const toRig = new Float64Array(16);
const undone = new Float64Array(16);
const point = new Float64Array(3);

/** The rigs of a shot that do a cycle: those with a clip that repeats, and those whose keys cycle without one. */
export function* cyclesIn(shot: Shot, rigs: readonly PlacedRig[], ids: readonly string[]): Iterable<WatchedCycle> {
  for (const placed of rigs) {
    const rig = ids[placed.slot];
    const clip = clipAtWork(shot, rig);
    if (clip) {
      if (clip.cycles) yield new WatchedCycle(shot, placed, rig, { first: clip.first, length: clip.length, clip });
      continue;
    }
    const span = sharedSpan(shot, rig);
    if (span) yield new WatchedCycle(shot, placed, rig, { ...span, clip: null });
  }
}

/** The frames that most of a rig's cycling curves cycle over; null where none do. */
function sharedSpan(shot: Shot, rig: string): { first: number; length: number } | null {
  const count = new Map<string, { first: number; length: number; n: number }>();
  for (const [path, curve] of shot.curves.entries()) {
    const member = shot.members.get(splitPath(path).member);
    if (member?.kind !== 'control' || member.parent !== rig) continue;
    if (curve.keys.length < 2 || !['cycle', 'travel'].includes(curve.after)) continue;
    const first = curve.keys[0].frame;
    const length = curve.keys[curve.keys.length - 1].frame - first;
    if (!Number.isInteger(first) || !Number.isInteger(length) || length < 4 || length > 1_000) continue;
    const key = `${first} ${length}`;
    count.set(key, { first, length, n: (count.get(key)?.n ?? 0) + 1 });
  }
  return [...count.values()].sort((a, b) => b.n - a.n)[0] ?? null;
}

/** What people call the part a joint belongs to. */
export function partName({ compiled }: PlacedRig, joint: string): string {
  const { controls, limbs } = compiled.rig;
  const stands = controls.find((c) => c.stands.includes(joint));
  if (stands) return stands.name;
  const limb = limbs.find((l) => [l.upper, l.lower, l.end].includes(joint));
  if (limb) return limb.name;
  return controls.find((c) => c.id === joint)?.name ?? joint;
}
