import { findFlips, unrollTurns } from '../edit/commands/flips.ts';
import { type Check, frameText } from './check.ts';
import type { Watched } from './watched.ts';

export const flip: Check = {
  id: 'flip',
  name: 'Flip',
  why: 'Between two poses that are nearly alike the angles go nearly once round. It spins for a frame or two, and nobody meant it to.',
  unit: '°',
  tolerance: null,
  weight: 'fault',
  *look(watched) {
    for (const id of watched.shot.members.keys()) {
      for (const { from, to, jump } of findFlips(watched.shot, [id])) {
        if (rolls(watched, id, from, to, jump)) continue;
        const degrees = (jump * 180) / Math.PI;
        yield {
          member: id,
          frame: from,
          until: to,
          value: degrees,
          text: `The turn of ${watched.name(id)} goes round by ${degrees.toFixed(0)}° between ${frameText(from)} and ${frameText(to)}, where little would do.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'unroll',
    all: true,
    apply: (shot, { member }) => unrollTurns.apply(shot, { ids: [member] }),
  },
};

/** Whether a ball turns just as far as it goes: then it rolls. */
function rolls(watched: Watched, id: string, from: number, to: number, jump: number): boolean {
  const member = watched.member(id);
  const places = watched.places.get(id);
  if (member.kind !== 'ball' || !places) return false;
  let way = 0;
  for (let f = Math.max(from, watched.first); f < Math.min(to, watched.last); f++) {
    const i = (f - watched.first) * 3;
    way += Math.hypot(places[i + 3] - places[i], places[i + 5] - places[i + 2]);
  }
  return Math.abs(jump * member.shape.radius - way) < 0.1 * way;
}
