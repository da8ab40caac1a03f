import { outsideBy, supportArea, writeCentre } from '../body/balance.ts';
import { jointOutlines } from '../body/extent.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { transformPoint } from '../pose/affine.ts';
import type { RigLimb } from '../rig/definition.ts';
import type { PlacedRig } from '../rig/placed.ts';

/** What is noted of one rig at every whole frame, for all the checks that look at bodies. */
export class WatchedBody {
  readonly rig: string;
  readonly placed: PlacedRig;
  readonly limbs: readonly RigLimb[];
  /** How much of its length each limb uses, frame by frame; 0 while it does not reach. */
  readonly reach: Float64Array;
  /** How far each limb's end is from where it is wanted, metres. */
  readonly missed: Float64Array;
  /** The lowest point of each joint's body, metres above the floor. */
  readonly lowest: Float64Array;
  /** The centre of mass, three numbers a frame. */
  readonly centre: Float64Array;
  /** How far it is outside the area the rig stands on; infinite where it stands on nothing. */
  readonly outside: Float64Array;
  /** Where each control is, three numbers a control and frame. */
  readonly places: Float64Array;
  readonly #told: readonly [number, number];
  readonly #outlines: readonly Float64Array[];

  /** @param told the frames in which its faults are told, both included */
  constructor(rig: string, placed: PlacedRig, frames: number, told: readonly [number, number]) {
    const { limbs, joints, controls } = placed.compiled.rig;
    this.rig = rig;
    this.#told = told;
    this.placed = placed;
    this.limbs = limbs;
    this.reach = new Float64Array(limbs.length * frames);
    this.missed = new Float64Array(limbs.length * frames);
    this.lowest = new Float64Array(joints.length * frames);
    this.centre = new Float64Array(frames * 3);
    this.outside = new Float64Array(frames);
    this.places = new Float64Array(controls.length * frames * 3);
    this.#outlines = jointOutlines(placed.compiled);
  }

  /** Runs of frames in which something is so, of those in which its faults are told. */
  runs(frames: number, is: (i: number) => boolean): [number, number][] {
    const [from, to] = this.#told;
    return runsOf(frames, (i) => i >= from && i <= to && is(i));
  }

  /** The member that is a control of the rig. */
  member(frame: Frame, control: string): string {
    return frame.layout.ids[this.placed.controls[this.placed.compiled.controlAt.get(control)!]];
  }

  /** The value of a control's dial at a frame. */
  dial(frame: Frame, control: string, dial: string): number {
    return frame.value(this.member(frame, control), dial) ?? 0;
  }

  /** Notes a frame, the `i`th that is looked at. */
  note(shot: Shot, frame: Frame, i: number): void {
    this.limbs.forEach((limb, l) => {
      this.#noteLimb(frame, limb, i * this.limbs.length + l);
    });
    this.#outlines.forEach((outline, j) => {
      const at = (this.placed.joints + j) * 16;
      let lowest = Number.POSITIVE_INFINITY;
      for (let p = 0; p < outline.length; p += 3) {
        const { world } = frame;
        const y = world[at + 1] * outline[p] + world[at + 5] * outline[p + 1] + world[at + 9] * outline[p + 2];
        lowest = Math.min(lowest, y + world[at + 13]);
      }
      this.lowest[i * this.#outlines.length + j] = lowest;
    });
    const { controls } = this.placed;
    for (let c = 0; c < controls.length; c++) {
      for (let r = 0; r < 3; r++) {
        this.places[(i * controls.length + c) * 3 + r] = frame.world[controls[c] * 16 + 12 + r];
      }
    }
    const area = supportArea(shot, frame, this.placed);
    this.outside[i] = writeCentre(frame, this.placed, this.centre, i * 3)
      ? outsideBy(area, this.centre[i * 3], this.centre[i * 3 + 2])
      : Number.POSITIVE_INFINITY;
  }

  #noteLimb(frame: Frame, limb: RigLimb, at: number): void {
    const { compiled, joints, controls } = this.placed;
    const { world } = frame;
    const place = (id: string) => (joints + compiled.jointAt.get(id)!) * 16 + 12;
    const between = (a: number, b: number) =>
      Math.hypot(world[a] - world[b], world[a + 1] - world[b + 1], world[a + 2] - world[b + 2]);
    const reaching = this.dial(frame, limb.dials, 'reach') > 0.999;
    const [u, l, e] = [place(limb.upper), place(limb.lower), place(limb.end)];
    const length = between(u, l) + between(l, e);
    this.reach[at] = reaching ? between(u, e) / length : 0;
    if (!reaching || limb.target.is !== 'control') return;
    const c = compiled.controlAt.get(limb.target.id)!;
    const control = compiled.rig.controls[c];
    const rest = compiled.jointAt.get(limb.end)! * 16 + 12;
    const { rests } = compiled;
    const [x, y, z] = control.place;
    transformPoint(point, 0, world, controls[c] * 16, rests[rest] - x, rests[rest + 1] - y, rests[rest + 2] - z);
    this.missed[at] = Math.hypot(world[e] - point[0], world[e + 1] - point[1], world[e + 2] - point[2]);
  }
}

const point = new Float64Array(3);

/** Runs of frames, first to last, in which something is so. */
export function runsOf(count: number, is: (i: number) => boolean): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i < count; i++) {
    if (!is(i)) continue;
    const last = out.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else out.push([i, i]);
  }
  return out;
}

/** A camera at a frame: its place, its axes, and what its angle of view makes of a metre a metre away. */
export interface FilmingCamera {
  readonly world: ArrayLike<number>;
  readonly at: number;
  readonly view: number;
}
