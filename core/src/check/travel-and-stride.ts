import { clipAtWork } from '../clip/at-work.ts';
import type { Shot } from '../document/shot.ts';
import { setTravel } from '../edit/commands/clips.ts';
import { type Check, type Draft, metresText } from './check.ts';
import { TOUCHES, type WatchedCycle } from './cycles.ts';
import { stances } from './foot-slides.ts';
import { lookedAt } from './watched.ts';

/** How far the feet would carry a body in one cycle, by how fast they go back while they are down; null where none is down. */
export function strideOf(cycle: WatchedCycle): number | null {
  let [back, frames] = [0, 0];
  for (const foot of cycle.feet) {
    for (const [from, to] of stances(cycle, foot)) {
      for (let i = from; i < to; i++) {
        const down = [0, 3, 6].filter((c) => [i * 9, i * 9 + 9].every((at) => foot.points[at + c + 1] <= TOUCHES));
        if (down.length === 0) continue;
        const [c] = down;
        back -= foot.points[i * 9 + 9 + c + 2] - foot.points[i * 9 + c + 2];
        frames++;
      }
    }
  }
  return frames < 3 ? null : (back / frames) * cycle.length;
}

export const travelAndStride: Check = {
  id: 'travelAndStride',
  name: 'Travel and stride disagree',
  why: 'What the feet push back is how far the body gets. Where the clip says something else, every step slides.',
  unit: 'mm',
  tolerance: 5,
  most: 1_000,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance): Iterable<Draft | null> {
    for (const cycle of watched.wholeCycles) {
      const stride = cycle.clip && strideOf(cycle);
      if (!cycle.clip || stride === null) continue;
      const off = Math.abs(stride - cycle.clip.travel) * 1000;
      if (off > tolerance)
        yield {
          member: cycle.rig,
          frame: cycle.first,
          value: off,
          text: `${watched.name(cycle.rig)}: the feet go ${stride.toFixed(3)} m in a cycle, the clip travels ${cycle.clip.travel.toFixed(3)} m: ${metresText(off / 1000)} apart.`,
        };
      yield null;
    }
  },
  fix: {
    words: 'travel as far as the feet go',
    apply(shot, finding): Shot {
      const clip = clipAtWork(shot, finding.member);
      const cycle = lookedAt(shot).cycles.find((c) => c.rig === finding.member);
      const stride = cycle ? strideOf(cycle) : null;
      return clip && stride !== null ? setTravel.apply(shot, { id: clip.id, change: { travel: stride } }) : shot;
    },
  },
};
