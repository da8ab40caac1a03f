import type { Anatomy, Arm } from './anatomy.ts';
import type { CycleKeys } from './cycle-keys.ts';
import type { Gait } from './dials.ts';
import { type Fall, forwardness } from './footfall.ts';

const rad = (degrees: number) => (degrees * Math.PI) / 180;

/** What hangs on a body and comes after it: arms and tails, each part of a chain later than the last. */
export function writeHanging(keys: CycleKeys, anatomy: Anatomy, gait: Gait, falls: readonly Fall[]): void {
  for (const arm of anatomy.arms) {
    // An arm goes with the leg of the other side.
    const leg = falls.find((f) => f.leg.girdle === 'hips' && f.leg.side !== arm.side);
    if (leg && (arm.side === 'left' || arm.side === 'right')) writeArm(keys, gait, arm, leg);
  }
  writeTail(keys, anatomy, gait, falls);
}

/** How far the shoulders lean for each degree of the body's own: the chest goes on from it. */
const LEANT = 1.35;

function writeArm(keys: CycleKeys, gait: Gait, { side, joints, dials, fingers }: Arm, leg: Fall): void {
  const out = side === 'left' ? 1 : -1;
  const lag = Math.round(gait.armLag);
  const { length } = keys;
  const quarter = length / 8;
  // Arms hang from where the trunk leans to: straight down, but for a little they are carried along.
  const hangs = rad(gait.lean) * LEANT * 0.75;
  keys.put(`${dials}.reach`, 0, 0, 'flat');
  const [arm, forearm, hand] = joints;
  keys.put(`${arm}.turn.z`, 0, out * rad(gait.apart - 5), 'flat');
  // A hand that hangs is half closed.
  if (fingers) {
    keys.put(`${fingers}.fist`, 0, 0.3, 'flat');
    keys.put(`${fingers}.thumb`, 0, 0.25, 'flat');
  }
  // The frames of the leg's poses: its contact, half way back, where it leaves, half way forward, and between.
  for (let k = 0; k < 8; k++) {
    const frame = leg.from + Math.round(k * quarter);
    // An arm swings more evenly than a leg goes: a wave between where the leg is furthest forward and furthest back.
    const ahead = (forwardness(leg, frame, length) + 2 * Math.cos((2 * Math.PI * (frame - leg.from)) / length)) / 3;
    const role = k % 2 === 0 ? 'key' : 'breakdown';
    keys.put(`${arm}.turn.x`, frame + Math.round(lag / 2), -rad(gait.swing) * (ahead + 0.12) - hangs, 'smooth', role);
    const bend = gait.elbow * (1 + 0.5 * ahead) + gait.swing * 0.15 * (1 + ahead);
    keys.put(`${forearm}.turn.x`, frame + lag + Math.round(lag / 2), -rad(bend), 'smooth', role);
    keys.put(`${hand}.turn.x`, frame + 2 * lag + Math.round(lag / 2), -rad(gait.swing * 0.35) * ahead, 'smooth', role);
  }
}

/** Frames that each part of a tail is behind the one before it. */
const TAIL_LAG = 2;

function writeTail(keys: CycleKeys, { has }: Anatomy, gait: Gait, falls: readonly Fall[]): void {
  const chain = ['tail', 'tailTip'].filter(has);
  const { length } = keys;
  const [left, right] = falls.filter((f) => f.leg.girdle === 'hips');
  const bounce = keys.reader('body.move.y');
  const low = Math.min(...Array.from({ length }, (_, f) => bounce(f)));
  const high = Math.max(...Array.from({ length }, (_, f) => bounce(f)));
  chain.forEach((part, i) => {
    for (let k = 0; k < 8; k++) {
      const frame = left.from + Math.round((k * length) / 8);
      const turned = (forwardness(right, frame, length) - forwardness(left, frame, length)) / 2;
      const at = frame + TAIL_LAG * (i + 1);
      const role = k % 2 === 0 ? 'key' : 'breakdown';
      keys.put(`${part}.turn.y`, at, rad(gait.tail * (1 + 0.4 * i)) * turned, 'smooth', role);
      // As the body drops the tail stays up behind it.
      const risen = high > low ? (bounce(keys.phase(frame)) - low) / (high - low) - 0.5 : 0;
      keys.put(`${part}.turn.x`, at, rad(gait.tail) * (0.9 * risen), 'smooth', role);
    }
  });
  for (const ear of ['earL', 'earR'].filter(has)) {
    const out = ear === 'earL' ? 1 : -1;
    for (let k = 0; k < 8; k++) {
      const frame = left.from + Math.round((k * length) / 8);
      const risen = high > low ? (bounce(keys.phase(frame)) - low) / (high - low) - 0.5 : 0;
      // Each flops more with the leg of its own side: two ears that do the same are one ear.
      const own = 1 + 0.6 * out * forwardness(left, frame, length);
      keys.put(
        `${ear}.turn.z`,
        frame + TAIL_LAG,
        -out * rad(14) * risen * own,
        'smooth',
        k % 2 === 0 ? 'key' : 'breakdown',
      );
    }
  }
}
