import { bouncesOf, type Contact, contactsOf } from '../bounce/bounces.ts';
import { withArc } from '../bounce/remake.ts';
import type { Shot } from '../document/shot.ts';
import { type Check, frameText, metresText, percent } from './check.ts';

/** The share of its height a bounce keeps, where its times do not say. */
const USUAL = 0.6;

export const heightNotLost: Check = {
  id: 'heightNotLost',
  name: 'Height not lost',
  why: 'Something is lost at every contact, so no bounce comes up as high as it fell. Without a loss one can see, it looks as if it would never stop.',
  unit: '%',
  tolerance: 85,
  most: 150,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const { member, path, landings } of watched.landings) {
      for (const { contact } of landings) {
        if (!contact.rise) continue;
        const share = contact.rise.height / contact.fall.height;
        if (share * 100 <= tolerance) continue;
        yield {
          member,
          path,
          frame: contact.frame,
          until: contact.rise.top,
          value: share * 100,
          text: `${watched.name(member)} comes up ${metresText(contact.rise.height)} at ${frameText(contact.rise.top)} after a fall of ${metresText(contact.fall.height)}: ${percent(share)} of it.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'lose height',
    all: true,
    apply: (shot, { path, tolerance }) => (path === null ? shot : lowered(shot, path, tolerance / 100)),
  },
};

/** Brings every bounce of a channel that comes up too high down to what its time says, each from the one before. */
function lowered(shot: Shot, path: string, most: number): Shot {
  const old = shot.curves.get(path);
  if (old?.type !== 'number') return shot;
  let curve = old;
  for (const run of bouncesOf(contactsOf(old))) {
    let [fall, time] = [run[0].fall.height, run[0].fall.frames * 2];
    for (const [i, contact] of run.entries()) {
      const next = run[i + 1] as Contact | undefined;
      if (!contact.rise || !next) break;
      const frames = next.frame - contact.until;
      let height = contact.rise.height;
      if (height / fall > most) {
        const kept = (frames / time) ** 2;
        height = fall * (kept > 0.15 && kept < most ? kept : Math.min(USUAL, most));
        curve = withArc(curve, { from: contact.until, to: next.frame, start: contact.value, end: next.value, height });
      }
      [fall, time] = [height + contact.value - next.value, frames];
    }
  }
  return { ...shot, curves: shot.curves.with(path, curve) };
}
