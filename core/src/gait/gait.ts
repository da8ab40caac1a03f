import type { NumberCurve } from '../curve/key.ts';
import { type Clip, type PoseLabel, stepPoses } from '../document/clip.ts';
import type { Anatomy } from './anatomy.ts';
import { CycleKeys } from './cycle-keys.ts';
import type { Gait } from './dials.ts';
import { writeFeet } from './feet.ts';
import { clearFloor, fitHeight } from './fitting.ts';
import { areOpposite, beatsOf, type Fall, fallsOf, stancesOf } from './footfall.ts';
import { writeHanging } from './hanging.ts';
import { steadied } from './steadied.ts';
import { Trial } from './trial.ts';
import { writeTrunk } from './trunk.ts';

/** What a gait comes to: keys by `control.channel`, and what its clip says. */
export interface Walked {
  readonly curves: ReadonlyMap<string, NumberCurve>;
  readonly clip: Pick<Clip, 'length' | 'cycles' | 'travel' | 'halves' | 'labels' | 'stances'>;
  readonly note?: string;
}

/** The length of a cycle of two steps. */
export const cycleFrames = (gait: Gait): number => 2 * Math.max(2, Math.round(gait.cadence));

/** How much of a leg must be left for height: a stride that leaves less is shortened. */
const LEAST_ROOM = 0.16;
const MOST_TRIES = 6;

/**
 * Works a gait out for a rig: a cycle in place, whose feet go straight back while they are down as fast as it travels. The body is
 * as high as its legs let it, feet clear the floor, and the head is held as steady as is asked for.
 * @param first the frame the clip begins on
 */
export function walked(anatomy: Anatomy, gait: Gait, first: number): Walked {
  const length = cycleFrames(gait);
  const falls = fallsOf(anatomy, length, {
    falls: [gait.fall1, gait.fall2, gait.fall3, gait.fall4].map((f) => f / 100),
    down: gait.down / 100,
    limp: gait.limp / 100,
  });
  const trial = Trial.of(anatomy.compiled);
  let stride = gait.stride;
  for (let tries = 1; ; tries++) {
    const keys = new CycleKeys({ first, length });
    const travel = (2 * stride * anatomy.legLength) / 100;
    const clip: Walked['clip'] & Pick<Clip, 'first'> = {
      first,
      length,
      cycles: true,
      travel,
      halves: areOpposite(falls, length) ? 'mirrored' : 'free',
      labels: labelsOf(falls, length, gait),
      stances: stancesOf(falls),
    };
    writeFeet(keys, anatomy, gait, falls, clip);
    writeTrunk(keys, anatomy, gait, falls);
    writeHanging(keys, anatomy, gait, falls);
    trial.take(keys.curves());
    const room = fitHeight(trial, keys, anatomy, first);
    if (room < LEAST_ROOM && tries < MOST_TRIES) {
      stride *= ((1 - LEAST_ROOM) / (1 - room)) * 0.98;
      continue;
    }
    trial.take(keys.curves());
    for (let t = 0; t < MOST_TRIES && clearFloor(trial, keys, falls, first); t++) trial.take(keys.curves());
    holdHead(trial, keys, gait, first);
    const note =
      stride < gait.stride
        ? `The legs do not reach that far: the stride is ${Math.round(stride)} % of the leg, not ${Math.round(gait.stride)} %.`
        : undefined;
    return { curves: new Map(keys.curves()), clip, note };
  }
}

/** The poses of a walk by what its hind feet do, or its only ones. */
function labelsOf(falls: readonly Fall[], length: number, gait: Gait): PoseLabel[] {
  const beats = beatsOf(
    falls.filter((f) => f.leg.girdle === 'hips'),
    length,
    gait.heavy / 100,
  );
  return beats
    .flatMap((beat) => stepPoses.map((pose) => ({ frame: ((beat[pose] % length) + length) % length, pose })))
    .sort((a, b) => a.frame - b.frame);
}

/** How much of a lean the head goes along with. */
const HANGS = 0.15;

/** Writes the head's keys: it faces ahead and is turned only by a share of what the chest is. */
function holdHead(trial: Trial, keys: CycleKeys, gait: Gait, first: number): void {
  if (!trial.placed.compiled.controlAt.has('head')) return;
  const { length } = keys;
  const [world, space] = [new Float64Array(length * 16), new Float64Array(length * 16)];
  const [head, own] = [trial.control('head') * 16, trial.space('head') * 16];
  for (let f = 0; f < length; f++) {
    const frame = trial.at(first + f);
    world.set(frame.world.subarray(head, head + 16), f * 16);
    space.set(frame.world.subarray(own, own + 16), f * 16);
  }
  const control = trial.placed.compiled.rig.controls[trial.placed.compiled.controlAt.get('head')!];
  const chin = ((gait.chin + gait.lean * HANGS) * Math.PI) / 180;
  const held = steadied({ frames: length, world, space }, 1 - gait.steady / 100, 'facing', control.order, [chin, 0, 0]);
  // Every other frame, so that the second half can be the mirror image of the first.
  const every = length % 4 === 0 ? 2 : 1;
  for (let f = 0; f < length; f += every) {
    for (const [c, axis] of ['x', 'y', 'z'].entries()) {
      keys.put(`head.turn.${axis}`, f, held[f * 6 + 3 + c], 'smooth', f % (length / 4) === 0 ? 'key' : 'breakdown');
    }
  }
}
