import { contactsOf, speedOf } from '../bounce/bounces.ts';
import { withSharpContact } from '../bounce/parabolas.ts';
import { type Check, frameText, percent } from './check.ts';

export const easedLanding: Check = {
  id: 'easedLanding',
  name: 'Eased landing',
  why: 'A falling thing is fastest when it hits the ground. If it slows down before, it seems to decide where to stop, and has no weight.',
  unit: '%',
  tolerance: 60,
  most: 100,
  step: 5,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const { member, path, landings } of watched.landings) {
      for (const { contact } of landings) {
        const share = -contact.arrive / speedOf(contact.fall);
        if (share * 100 >= tolerance) continue;
        yield {
          member,
          path,
          frame: contact.frame,
          value: share * 100,
          text: `${watched.name(member)} slows down before it lands at ${frameText(contact.frame)}: it arrives with ${percent(share)} of the speed its fall gives it.`,
        };
      }
      yield null;
    }
  },
  fix: {
    words: 'sharp contact',
    apply(shot, { path, frame }) {
      const curve = path === null ? undefined : shot.curves.get(path);
      if (path === null || frame === null || curve?.type !== 'number') return shot;
      const contact = contactsOf(curve).find((c) => Math.abs(c.frame - frame) < 0.5);
      return contact ? { ...shot, curves: shot.curves.with(path, withSharpContact(curve, contact)) } : shot;
    },
  },
};
