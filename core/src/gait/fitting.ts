import { jointOutlines } from '../body/extent.ts';
import type { NumberCurve } from '../curve/key.ts';
import type { Anatomy, Leg } from './anatomy.ts';
import type { CycleKeys } from './cycle-keys.ts';
import { liftMore } from './feet.ts';
import type { Fall } from './footfall.ts';
import { Trial } from './trial.ts';

/** How much of a leg's length a step may use: below where a check would speak, and before the reach grows soft. */
export const STRAIGHTEST = 0.985;
/** Feet in the air are kept this far above the floor, metres. */
const CLEAR = 0.004;
/** Frames are looked at this far apart. */
const EVERY = 0.5;

/** What the legs of a body leave it: how much higher it could be, and how much of a leg is left for height, a share. */
interface Headroom {
  /** Metres; below 0 it is too high already. Infinite where no leg reaches its place along the floor at all. */
  readonly higher: number;
  /** 0 or less where a stride is too long. */
  readonly left: number;
}

/** Looks at the legs of what is on trial, over a whole cycle. */
function headroom(trial: Trial, { legs }: Anatomy, first: number, length: number): Headroom {
  const hips = legs.map(({ limb }) => trial.joint(limb.upper));
  let higher = Number.POSITIVE_INFINITY;
  let left = Number.POSITIVE_INFINITY;
  for (let f = 0; f < length; f += EVERY) {
    const { world } = trial.at(first + f);
    // Where the leg cannot reach, its end is not where it should be: its sole says where it should.
    legs.forEach((leg, l) => {
      const hip = hips[l] * 16 + 12;
      const target = targetOf(trial, leg);
      const far = Math.hypot(world[hip] - target[0], world[hip + 2] - target[2]);
      const longest = leg.reach * STRAIGHTEST;
      left = Math.min(left, 1 - far / longest);
      if (far >= longest) return;
      higher = Math.min(higher, target[1] + Math.sqrt(longest * longest - far * far) - world[hip + 1]);
    });
  }
  return { higher, left };
}

/**
 * Sets the body as high as its legs let it: at the frame where one is stretched most, that one is as straight as a leg should be.
 * @returns the least share of a leg's length its way along the floor leaves for height; 0 or less where a stride is too long
 */
export function fitHeight(trial: Trial, keys: CycleKeys, anatomy: Anatomy, first: number): number {
  const { higher, left } = headroom(trial, anatomy, first, keys.length);
  if (Number.isFinite(higher)) keys.change('body.move.y', (value) => value + higher);
  return left;
}

/**
 * How much a body has to be lowered for its legs to reach, metres; 0 where they do.
 * @param curves its keys, by `control.channel`
 */
export function tooHigh(
  anatomy: Anatomy,
  curves: Iterable<readonly [string, NumberCurve]>,
  first: number,
  length: number,
): number {
  const trial = Trial.of(anatomy.compiled);
  trial.take(curves);
  const { higher } = headroom(trial, anatomy, first, length);
  return Number.isFinite(higher) ? Math.max(0, -higher) : 0;
}

const point = new Float64Array(3);

/** Where the end of a leg is to be: what its foot says, whether the leg gets there or not. */
function targetOf(trial: Trial, { limb, foot, place }: Leg): Float64Array {
  const { frame, placed } = trial;
  const { world } = frame;
  const rests = placed.compiled.rests;
  const end = placed.compiled.jointAt.get(limb.end)! * 16 + 12;
  const c = trial.control(foot.control) * 16;
  const dial = (name: string) => frame.value(frame.layout.ids[trial.control(foot.control)], name) ?? 0;
  // About the foot's own points, at rest: heel, toe, then the ball that lifts what is above it.
  let [y, z] = [rests[end + 1], rests[end + 2]];
  [y, z] = rolled(y, z, dial('ball'), foot.ball);
  [y, z] = rolled(y, z, dial('toe'), foot.toe);
  [y, z] = rolled(y, z, -dial('heel'), foot.heel);
  const [lx, ly, lz] = [rests[end] - place[0], y - place[1], z - place[2]];
  for (let r = 0; r < 3; r++)
    point[r] = world[c + r] * lx + world[c + 4 + r] * ly + world[c + 8 + r] * lz + world[c + 12 + r];
  return point;
}

function rolled(y: number, z: number, angle: number, [, py, pz]: readonly [number, number, number]): [number, number] {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return [py + (y - py) * c - (z - pz) * s, pz + (y - py) * s + (z - pz) * c];
}

/** Lifts feet that would go through the floor on their way. @returns whether any had to be */
export function clearFloor(trial: Trial, keys: CycleKeys, falls: readonly Fall[], first: number): boolean {
  const { length } = keys;
  const lacking = falls.map(() => 0);
  for (let phase = 0; phase < length; phase += EVERY) {
    trial.at(first + phase);
    falls.forEach(({ leg, from, frames }, i) => {
      const along = (((phase - from) % length) + length) % length;
      if (along <= frames) return;
      // Near the ends of its way a foot touches the floor as it should.
      const edge = Math.min(along - frames, length - along);
      const wanted = edge > 1 ? CLEAR * Math.min(1, (edge - 1) / 2) : -0.0005;
      lacking[i] = Math.max(lacking[i], wanted - lowestOf(trial, leg));
    });
  }
  falls.forEach(({ leg }, i) => {
    if (lacking[i] > 1e-6) liftMore(keys, leg.control, lacking[i] * 1.6 + 0.002);
  });
  return lacking.some((l) => l > 1e-6);
}

/** How high the lowest point of a foot is now, metres. */
function lowestOf({ placed, frame }: Trial, leg: Leg): number {
  const { compiled, joints } = placed;
  const { world } = frame;
  const outlines = jointOutlines(compiled);
  let lowest = Number.POSITIVE_INFINITY;
  for (const id of compiled.rig.controls[compiled.controlAt.get(leg.control)!].stands) {
    const j = compiled.jointAt.get(id)!;
    const at = (joints + j) * 16;
    const o = outlines[j];
    for (let p = 0; p < o.length; p += 3) {
      lowest = Math.min(
        lowest,
        world[at + 1] * o[p] + world[at + 5] * o[p + 1] + world[at + 9] * o[p + 2] + world[at + 13],
      );
    }
  }
  return lowest;
}
