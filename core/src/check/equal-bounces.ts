import { bouncesOf, type Contact, contactsOf } from '../bounce/bounces.ts';
import { withArc, withTimeMap } from '../bounce/remake.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { type Check, frameText } from './check.ts';

/** Bounces of fewer frames cannot all be different. */
const FEWEST = 4;
/** How much shorter a bounce is made than the last, where its heights do not say. */
const USUAL = 0.75;
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
  fix: {
    words: 'each shorter',
    all: true,
    apply: (shot, { path, tolerance }) => (path === null ? shot : shortened(shot, path, tolerance / 100)),
  },
};

/**
 * Makes each flight of the channel's bounces that is not shorter than the last as much shorter as its height says, and moves what
 * comes after along with it.
 */
function shortened(shot: Shot, path: string, most: number): Shot {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return shot;
  let next = shot;
  // From the last bounce to the first, so that those still to be done are where they were.
  for (const run of bouncesOf(contactsOf(curve)).reverse()) next = shortenedRun(next, path, run, most);
  return next;
}

function shortenedRun(shot: Shot, path: string, run: readonly Contact[], most: number): Shot {
  const map: [number, number][] = [[run[0].frame, run[0].frame]];
  const arcs: { from: number; to: number; i: number }[] = [];
  let last = run[0].fall.frames * 2;
  let at = run[0].frame;
  for (let i = 0; i + 1 < run.length; i++) {
    const [contact, next] = [run[i], run[i + 1]];
    const frames = flight(contact, next);
    if (frames === null) break;
    const lost = Math.sqrt(contact.rise!.height / contact.fall.height);
    const due = lost > 0.3 && lost < 0.93 ? lost : USUAL;
    const long = isLevel(contact, next) && last >= FEWEST && frames > last * most;
    const made = long ? Math.max(2, Math.min(Math.round(last * due), Math.ceil(last * most) - 1)) : frames;
    const from = at + (contact.until - contact.frame);
    at = from + made;
    map.push([contact.until, from], [next.frame, at]);
    if (long) arcs.push({ from, to: at, i });
    // The fall that ends this flight is as much shorter as the flight is.
    last = (next.fall.frames * 2 * made) / frames;
  }
  if (arcs.length === 0) return shot;
  const rising = map.filter(([f], i) => i === 0 || f > map[i - 1][0]);
  const moved = withTimeMap(shot, splitPath(path).member, rising);
  let curve = moved.curves.get(path);
  for (const { from, to, i } of arcs) {
    if (curve?.type !== 'number') continue;
    curve = withArc(curve, { from, to, start: run[i].value, end: run[i + 1].value, height: run[i].rise!.height });
  }
  return curve ? { ...moved, curves: moved.curves.with(path, curve) } : moved;
}
