import type { Stance } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { setStances } from '../edit/commands/clips.ts';
import { runsOf } from './bodies.ts';
import { type Check, type Draft, frameText } from './check.ts';
import { TOUCHES, type WatchedCycle, type WatchedFoot } from './cycles.ts';

/** A foot that only brushes the floor for a frame or two in passing does not stand on it. */
const STANDS = 3;

/** How far what touches the ground in one frame and the next goes over it, metres; 0 where nothing touches in both. */
export function slideAt({ groundSpeed }: WatchedCycle, { points }: WatchedFoot, i: number): number {
  let most = 0;
  for (const c of [0, 3, 6]) {
    const [a, b] = [i * 9 + c, i * 9 + 9 + c];
    if (points[a + 1] > TOUCHES || points[b + 1] > TOUCHES) continue;
    most = Math.max(most, Math.hypot(points[b] - points[a], points[b + 2] - points[a + 2] + groundSpeed));
  }
  return most;
}

/** The runs of frames a foot is down in, within one round. */
export const stances = (cycle: WatchedCycle, foot: WatchedFoot): [number, number][] =>
  runsOf(cycle.length + 1, (i) => cycle.isDown(foot, i)).filter(([a, b]) => b - a + 1 >= STANDS);

export const footSlides: Check = {
  id: 'footSlides',
  name: 'Foot slides',
  why: 'A foot that carries the body stands still. When it slips over the floor, however little, the body has no weight.',
  unit: 'mm a frame',
  tolerance: 0.5,
  most: 50,
  step: 0.1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of watched.wholeCycles) {
      for (const foot of cycle.feet) {
        for (const [from, to] of stances(cycle, foot)) {
          let worst = { i: from, slid: 0 };
          for (let i = from; i < to; i++) {
            const slid = slideAt(cycle, foot, i) * 1000;
            // Where it slides evenly the first frame is told, and not one that arithmetic makes the worst.
            if (slid > worst.slid + 1e-6) worst = { i, slid };
          }
          if (worst.slid <= tolerance) continue;
          const frame = cycle.first + worst.i;
          yield {
            member: foot.member,
            frame,
            until: cycle.first + to,
            value: worst.slid,
            unfixable: cycle.clip === null,
            text: `${watched.name(cycle.rig)}: ${watched.name(foot.member)} slides ${worst.slid.toFixed(1)} mm a frame at ${frameText(frame)}.`,
          };
        }
        yield null;
      }
    }
  },
  fix: {
    words: 'hold it to the ground',
    apply(shot, { member, frame, until }): Shot {
      const control = shot.rigs.controlOf(shot.members.at(member));
      const rig = shot.members.get(member)?.parent;
      const clip = shot.clips.values().find((c) => c.rig === rig && c.kept === null);
      if (!control || !clip || until === null) return shot;
      const there = clip.stances[control.id] ?? [];
      // Setting what is there already holds it again, as far as something has come between.
      if (there.length > 0) return setStances.apply(shot, { id: clip.id, control: control.id, stances: there });
      const stance: Stance = { from: Math.max(0, Math.floor(frame! - clip.first)), to: Math.ceil(until - clip.first) };
      return setStances.apply(shot, { id: clip.id, control: control.id, stances: [stance] });
    },
  },
};
