import { eachOutlinePoint } from '../body/extent.ts';
import { oneAFrame } from '../clip/labels.ts';
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
const LEAST_ROOM = 0.2;
/** Nothing of a body may be lower than this, metres. */
const LOWEST = -0.0008;
const MOST_TRIES = 20;
const MOST_LIFTS = 6;

/**
 * Works a gait out for a rig: a cycle in place, whose feet go straight back while they are down as fast as it travels. The body is
 * as high as its legs let it, feet clear the floor, and the head is held as steady as is asked for. What legs do not reach, and what
 * would go through the floor, is eased until it holds.
 * @param first the frame the clip begins on
 */
export function walked(anatomy: Anatomy, gait: Gait, first: number): Walked {
  const length = cycleFrames(gait);
  const falls = fallsOf(anatomy, length, {
    falls: [gait.fall1, gait.fall2, gait.fall3, gait.fall4].map((f) => f / 100),
    down: gait.down / 100,
    limp: gait.limp / 100,
  });
  let eased = gait;
  let sank = false;
  for (let tries = 1; ; tries++) {
    const attempt = tried(anatomy, eased, falls, { first, length });
    if (attempt.room < LEAST_ROOM && tries < MOST_TRIES) {
      eased = { ...eased, stride: eased.stride * ((1 - LEAST_ROOM) / (1 - attempt.room)) * 0.96 };
    } else if (attempt.lowest < LOWEST && tries < MOST_TRIES) {
      eased = lessOf(eased);
      sank = true;
    } else {
      return { curves: new Map(attempt.keys.curves()), clip: attempt.clip, note: noteOn(gait, eased, sank) };
    }
  }
}

/** A gait as it comes out. */
interface Attempt {
  readonly keys: CycleKeys;
  readonly clip: Walked['clip'];
  /** The least share of a leg that is left for height. */
  readonly room: number;
  /** The height of the lowest point of the body, metres. */
  readonly lowest: number;
}

/** Writes a gait and sets its body, feet and head. One whose legs do not reach is left as it is. */
function tried(anatomy: Anatomy, gait: Gait, falls: readonly Fall[], span: Pick<Clip, 'first' | 'length'>): Attempt {
  const { first, length } = span;
  const clip: Walked['clip'] = {
    length,
    cycles: true,
    travel: (2 * gait.stride * anatomy.legLength) / 100,
    halves: gait.limp === 0 && areOpposite(falls, length) ? 'mirrored' : 'free',
    labels: labelsOf(falls, length, gait),
    stances: stancesOf(falls),
  };
  const keys = new CycleKeys({ ...clip, first });
  writeFeet(keys, anatomy, gait, falls, clip);
  writeTrunk(keys, anatomy, gait, falls);
  writeHanging(keys, anatomy, gait, falls);
  const trial = Trial.of(anatomy.compiled);
  trial.take(keys.trial());
  const room = fitHeight(trial, keys, anatomy, first);
  if (room < LEAST_ROOM) return { keys, clip, room, lowest: 0 };
  trial.take(keys.trial());
  for (let t = 0; t < MOST_LIFTS && clearFloor(trial, keys, falls, first); t++) trial.take(keys.trial());
  return { keys, clip, room, lowest: holdHead(trial, keys, gait, first) };
}

/** The same, less of it: for what would go through the floor. */
const lessOf = (gait: Gait): Gait => ({
  ...gait,
  stride: gait.stride * 0.85,
  bob: gait.bob * 0.7,
  lean: gait.lean * 0.6,
  flex: gait.flex * 0.7,
  chin: gait.chin * 0.8,
});

function noteOn(asked: Gait, made: Gait, sank: boolean): string | undefined {
  if (made === asked) return undefined;
  const stride = `the stride is ${Math.round(made.stride)} % of the leg, not ${Math.round(asked.stride)} %`;
  return sank
    ? `That would go through the floor: ${stride}, and it leans and sinks less.`
    : `The legs do not reach that far: ${stride}.`;
}

/** The poses of a walk by what its hind feet do, or its only ones. */
function labelsOf(falls: readonly Fall[], length: number, gait: Gait): PoseLabel[] {
  const beats = beatsOf(
    falls.filter((f) => f.leg.girdle === 'hips'),
    length,
    gait.heavy / 100,
  );
  return oneAFrame(
    beats
      .flatMap((beat) => stepPoses.map((pose) => ({ frame: ((beat[pose] % length) + length) % length, pose })))
      .sort((a, b) => a.frame - b.frame),
  );
}

/** How much of a lean the head goes along with. */
const HANGS = 0.15;

/**
 * Writes the head's keys: it faces ahead and is turned only by a share of what the chest is.
 * @returns the height of the lowest point of the whole body over the cycle, metres
 */
function holdHead(trial: Trial, keys: CycleKeys, gait: Gait, first: number): number {
  const { compiled } = trial.placed;
  const { length } = keys;
  const [world, space] = [new Float64Array(length * 16), new Float64Array(length * 16)];
  const there = compiled.controlAt.has('head');
  const [head, own] = there ? [trial.control('head') * 16, trial.space('head') * 16] : [0, 0];
  let lowest = Number.POSITIVE_INFINITY;
  for (let f = 0; f < length; f++) {
    const frame = trial.at(first + f);
    world.set(frame.world.subarray(head, head + 16), f * 16);
    space.set(frame.world.subarray(own, own + 16), f * 16);
    eachOutlinePoint(frame, trial.placed, (_x, y) => {
      lowest = Math.min(lowest, y);
    });
  }
  if (!there) return lowest;
  const control = compiled.rig.controls[compiled.controlAt.get('head')!];
  const chin = ((gait.chin + gait.lean * HANGS) * Math.PI) / 180;
  const held = steadied({ frames: length, world, space }, 1 - gait.steady / 100, 'facing', control.order, [chin, 0, 0]);
  // Every other frame, so that the second half can be the mirror image of the first.
  const every = length % 4 === 0 ? 2 : 1;
  for (let f = 0; f < length; f += every) {
    for (const [c, axis] of ['x', 'y', 'z'].entries()) {
      const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } = control.limits[`turn.${axis}`] ?? {};
      const turn = Math.min(max, Math.max(min, held[f * 6 + 3 + c]));
      keys.put(`head.turn.${axis}`, f, turn, 'smooth', f % (length / 4) === 0 ? 'key' : 'breakdown');
    }
  }
  return lowest;
}
