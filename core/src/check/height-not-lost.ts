import { type Check, frameText, metresText, percent } from './check.ts';
import { losing } from './losing.ts';

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
  fix: losing('lose height, and time with it'),
};
