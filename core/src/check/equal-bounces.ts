import type { Contact } from '../bounce/bounces.ts';
import { type Check, frameText } from './check.ts';
import { losing } from './losing.ts';

/** Bounces of fewer frames cannot all be different. */
const FEWEST = 4;
/** Contacts whose heights differ by less than this share of the bounce are on level ground. */
const LEVEL = 0.08;

/** Frames of the flight from one contact to the next; null where there is none. */
const flight = (c: Contact, next: Contact | undefined): number | null => (c.rise && next ? next.frame - c.until : null);

const isLevel = (c: Contact, next: Contact) =>
  c.rise !== null && Math.abs(next.value - c.value) <= LEVEL * Math.max(c.rise.height, 1e-6);

export const equalBounces: Check = {
  id: 'equalBounces',
  name: 'Bounces of equal time',
  why: 'Each bounce loses speed, so each is shorter in time than the last. Equal ones look like a machine, or like something on a string.',
  unit: '%',
  tolerance: 95,
  most: 120,
  step: 1,
  weight: 'fault',
  *look(watched, tolerance) {
    for (const { member, path, runs } of watched.landings) {
      for (const run of runs) {
        for (const [i, { contact }] of run.entries()) {
          const next = run[i + 1]?.contact;
          const frames = flight(contact, next);
          if (frames === null || !next) break;
          const lossless = contact.fall.frames * 2;
          const share = (frames / lossless) * 100;
          if (!isLevel(contact, next) || lossless < FEWEST || share <= tolerance) continue;
          yield {
            member,
            path,
            frame: contact.frame,
            until: next.frame,
            value: share,
            text: `${watched.name(member)} is ${frameText(frames)} frames in the air from ${frameText(contact.frame)}, after a fall of ${frameText(contact.fall.frames)}: ${share.toFixed(0)} % of the time it would take if nothing were lost.`,
          };
        }
      }
      yield null;
    }
  },
  fix: losing('shorter, and as high as that'),
};
