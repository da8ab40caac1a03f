import type { NumberCurve } from '../curve/key.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { bouncesOf, type Contact, contactsOf, gravityOf } from './bounces.ts';
import { withArc, withTimeMap } from './remake.ts';

/** Flights: from one contact to the next, under one gravity. */

/** A contact that something is thrown up from, the contact it comes down at, and the run both belong to. */
export interface Flight {
  readonly contact: Contact & { readonly rise: NonNullable<Contact['rise']> };
  readonly next: Contact;
  readonly run: readonly Contact[];
}

/** The flights of a channel's bounces, in order. */
export const flightsOf = (curve: NumberCurve): Flight[] =>
  bouncesOf(contactsOf(curve)).flatMap((run) =>
    run.flatMap((contact, i): Flight[] => {
      const next = run[i + 1];
      return contact.rise && next ? [{ contact: { ...contact, rise: contact.rise }, next, run }] : [];
    }),
  );

/** The flight that rises from a contact at a frame. */
export function flightFrom(shot: Shot, path: string, frame: number): Flight | undefined {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return undefined;
  return flightsOf(curve).find(({ contact }) => Math.abs(contact.frame - frame) < 0.01);
}

export const framesOf = ({ contact, next }: Flight): number => next.frame - contact.until;

/**
 * The even acceleration, in value per frame², that makes a flight as high as it is in its time: it rises for √(2h/g) and falls for
 * √(2(h + d)/g), where d is how much lower it ends.
 */
export function flightGravity(flight: Flight): number {
  const { height } = flight.contact.rise;
  const drop = flight.contact.value - flight.next.value;
  return (Math.sqrt(2 * height) + Math.sqrt(Math.max(0, 2 * (height + drop)))) ** 2 / framesOf(flight) ** 2;
}

/** How high a flight of so many frames comes above its start, under a gravity and with an end so much lower. */
export function heightUnder(gravity: number, frames: number, drop: number): number {
  const leaves = (gravity * frames) / 2 - drop / frames;
  return leaves > 0 ? leaves ** 2 / (2 * gravity) : 0;
}

/** The gravity of a run of bounces: that of its first fall. */
export const runGravity = (run: readonly Contact[]): number => gravityOf(run[0].fall);

/** Gives a flight another time and the height that a gravity asks for in it. What comes after moves along; keys stay on their whole frames. */
export function withFlight(shot: Shot, path: string, flight: Flight, gravity: number, frames: number): Shot {
  const { contact, next } = flight;
  const to = contact.until + frames;
  const map = [
    [contact.until, contact.until],
    [next.frame, to],
  ] as const;
  const moved = Math.abs(to - next.frame) < 1e-9 ? shot : withTimeMap(shot, splitPath(path).member, map);
  const curve = moved.curves.get(path);
  if (curve?.type !== 'number') return shot;
  const least = Math.max(0, next.value - contact.value) + 1e-4;
  const height = Math.max(least, heightUnder(gravity, frames, contact.value - next.value));
  const arc = { from: contact.until, to, start: contact.value, end: next.value, height };
  return { ...moved, curves: moved.curves.with(path, withArc(curve, arc)) };
}

/** The share of its time that a flight may have of the one before, so that one sees that something is lost. */
const MOST_KEPT = 0.9;
/** The share it is given where it has too much. */
const USUAL = 0.8;

/**
 * Makes flights ones that have lost something: each shorter, in whole frames, than the fall before it would give it, where it is not, and as
 * high as its time says under the gravity of that fall. One that is followed by a flight that is to stay stays longer than that.
 * @param frames the contacts they rise from
 */
export function withLoss(shot: Shot, path: string, frames: readonly number[]): Shot {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return shot;
  // Contacts keep their order while their frames move.
  const named = new Set(
    flightsOf(curve).flatMap(({ contact }, i) => (frames.some((f) => Math.abs(f - contact.frame) < 0.5) ? [i] : [])),
  );
  let next = shot;
  for (const i of [...named].sort((x, y) => x - y)) {
    const now = next.curves.get(path);
    const flight = now?.type === 'number' ? flightsOf(now)[i] : undefined;
    if (flight) next = withFlight(next, path, flight, gravityOf(flight.contact.fall), lossy(flight, named.has(i + 1)));
  }
  return next;
}

/** How many frames a flight may have. @param isFree whether what follows it is made shorter as well */
function lossy(flight: Flight, isFree: boolean): number {
  const { contact, next, run } = flight;
  const lossless = contact.fall.frames * 2;
  const most = Math.max(2, Math.floor(lossless * MOST_KEPT));
  const frames = framesOf(flight);
  if (frames <= most) return frames;
  const after = run[run.indexOf(next) + 1];
  const follows = !isFree && next.rise && after ? after.frame - next.until : 0;
  const least = Math.min(most, Math.max(2, Math.ceil(follows / MOST_KEPT)));
  return Math.min(most, Math.max(least, Math.round(lossless * USUAL)));
}

/** Gives every flight of the run that begins at a contact one gravity, that of its first fall: heights follow from times. */
export function withOneGravity(shot: Shot, path: string, first: number): Shot {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return shot;
  const run = bouncesOf(contactsOf(curve)).find(([contact]) => Math.abs(contact.frame - first) < 0.01);
  if (!run) return shot;
  const gravity = runGravity(run);
  return run.reduce((next, { frame }) => {
    const flight = flightFrom(next, path, frame);
    return flight ? withFlight(next, path, flight, gravity, framesOf(flight)) : next;
  }, shot);
}
