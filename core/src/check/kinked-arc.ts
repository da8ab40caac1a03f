import { atGround, cosineBetween, type Steps, smoothed, stepsOf } from './arc-shape.ts';
import type { Check, Draft } from './check.ts';
import { spacingFaults } from './uneven-spacing.ts';
import { lookedAt, type Watched } from './watched.ts';

/** Steps shorter than this, in metres, have no direction anybody sees; nor have those far below the fastest. */
const SEEN = 3e-3;
const SLOW = 0.05;
/** How many times harder than beside it the way must be bent for a kink: in a tight curve, or at the top of a throw, it is bent evenly. */
const SHARPER = 2.5;
/** Turns sharper than this turn back: that is a change of mind, not a kink. */
const BACK = 150;

const degrees = (cosine: number) => (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;

/** How much a step differs from the one before it, in metres. */
function bent({ by }: Steps, i: number): number {
  const at = i * 3;
  return Math.hypot(by[at] - by[at - 3], by[at + 1] - by[at - 2], by[at + 2] - by[at - 1]);
}

/** The kinks of a member's way, by frame with their angle. */
function* kinks(watched: Watched, member: string, tolerance: number): Iterable<{ frame: number; angle: number }> {
  const steps = stepsOf(watched, member);
  const least = Math.max(SEEN, steps.fastest * SLOW);
  const angle = (i: number) =>
    steps.lengths[i] < least || steps.lengths[i - 1] < least ? 0 : degrees(cosineBetween(steps, i - 1, i));
  // Whether a bend is sharper than those beside it is only known with a step beyond both of its own.
  for (let i = 2; i + 1 < steps.count; i++) {
    const here = angle(i);
    if (here <= tolerance || here >= BACK) continue;
    if (bent(steps, i) < SHARPER * Math.max(bent(steps, i - 1), bent(steps, i + 1))) continue;
    const frame = steps.first + i;
    if (watched.isTold(member, frame) && !atGround(watched, member, frame)) yield { frame, angle: here };
  }
}

export const kinkedArc: Check = {
  id: 'kinkedArc',
  name: 'Kinked arc',
  why: 'Living things and thrown things move in arcs. A corner in one is a jerk the eye catches, even when it cannot say where.',
  unit: '°',
  tolerance: 35,
  most: 150,
  step: 5,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const member of watched.travellers) {
      for (const { frame, angle } of kinks(watched, member, tolerance)) {
        yield {
          member,
          frame,
          value: angle,
          text: `The arc of ${watched.name(member)} has a corner of ${angle.toFixed(0)}° at ${frame}.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'smooth it',
    apply: (shot, finding) =>
      smoothed(shot, finding, (next) => {
        const [before, after] = [lookedAt(shot), lookedAt(next)];
        const count = (w: Watched) => [...kinks(w, finding.member, finding.tolerance)].length;
        const uneven = (w: Watched) => [...spacingFaults(w, finding.member, 60)].length;
        return count(after) < count(before) && uneven(after) <= uneven(before);
      }),
  },
};
