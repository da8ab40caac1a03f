import { atGround, cosineBetween, smoothed, stepsOf } from './arc-shape.ts';
import { type Check, type Draft, metresText } from './check.ts';
import { lookedAt, type Watched } from './watched.ts';

/** Steps shorter than this, in metres, are not seen; nor are those far below the fastest. */
const SEEN = 4e-3;
const SLOW = 0.1;
/** How nearly alike the steps before and after must be, for the one between to be the odd one. */
const ALIKE = 0.5;

/** Frames whose step is out of line with the steps before and after it. */
export function* spacingFaults(
  watched: Watched,
  member: string,
  tolerance: number,
): Iterable<{ frame: number; off: number; step: number; due: number }> {
  const steps = stepsOf(watched, member);
  const { lengths } = steps;
  for (let i = 1; i + 1 < steps.count; i++) {
    const [a, here, b] = [lengths[i - 1], lengths[i], lengths[i + 1]];
    const due = (a + b) / 2;
    const largest = Math.max(due, here);
    if (largest < Math.max(SEEN, steps.fastest * SLOW) || due < SEEN || Math.abs(a - b) > ALIKE * due) continue;
    // Slowing down to a stop and going on is even too: then the step is what those before it, or after it, led to.
    const led = [due, 2 * a - (lengths[i - 2] ?? a), 2 * b - (lengths[i + 2] ?? b)];
    const off = (Math.min(...led.map((v) => Math.abs(here - Math.max(0, v)))) / largest) * 100;
    // Where it turns round, the step between is short by right.
    if (off <= tolerance || cosineBetween(steps, i - 1, i + 1) < 0) continue;
    const frame = steps.first + i;
    if (watched.isTold(member, frame) && !atGround(watched, member, frame) && !atGround(watched, member, frame + 1))
      yield { frame, off, step: here, due };
  }
}

export const unevenSpacing: Check = {
  id: 'unevenSpacing',
  name: 'Uneven spacing',
  why: 'From frame to frame the distances grow and shrink gradually. One that does not fit in is a hitch: the thing stumbles over nothing.',
  unit: '%',
  tolerance: 60,
  most: 100,
  step: 5,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const member of watched.travellers) {
      for (const { frame, off, step, due } of spacingFaults(watched, member, tolerance)) {
        yield {
          member,
          frame,
          until: frame + 1,
          value: off,
          text: `${watched.name(member)} goes ${metresText(step)} from ${frame} to ${frame + 1}, where the frames before and after go ${metresText(due)}.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'even it out',
    apply: (shot, finding) =>
      smoothed(shot, finding, (next) => {
        const count = (w: Watched) => [...spacingFaults(w, finding.member, finding.tolerance)].length;
        return count(lookedAt(next)) < count(lookedAt(shot));
      }),
  },
};
