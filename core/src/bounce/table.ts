import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { Program } from '../evaluate/program.ts';
import { Ground } from '../ground/ground.ts';
import { bouncesOf, type Contact, contactsOf } from './bounces.ts';
import { flightGravity, flightsOf } from './flights.ts';

/** One row of the bounce table. */
export interface BounceRow {
  readonly path: string;
  /** Which contact of its bounce, from 0. */
  readonly index: number;
  readonly contact: Contact;
  /** How high it rises again; null at the last. */
  readonly height: number | null;
  /** That height as a share of the fall before it. */
  readonly ratio: number | null;
  readonly framesUp: number | null;
  /** Frames down to the next contact; null at the last. */
  readonly framesDown: number | null;
  /** The gravity of its flight to the next contact, in the channel's unit per second²; null at the last. */
  readonly gravity: number | null;
  /** Metres between it and the ground; null for what has no body, or does not go up and down the stage. */
  readonly gap: number | null;
}

/** The bounces of a channel, contact by contact, each bounce as a list. Empty for a channel that does not bounce. */
export function bounceTable(shot: Shot, path: string): BounceRow[][] {
  const curve = shot.curves.get(path);
  if (curve?.type !== 'number') return [];
  const { member, channel } = splitPath(path);
  const gaps = channel === 'move.y' ? gapReader(shot, member) : null;
  const perSecond = shot.rate * shot.rate;
  const flights = new Map(flightsOf(curve).map((flight) => [flight.contact.frame, flightGravity(flight) * perSecond]));
  return bouncesOf(contactsOf(curve)).map((run) =>
    run.map((contact, index) => {
      const next = run[index + 1];
      return {
        path,
        index,
        contact,
        height: contact.rise?.height ?? null,
        ratio: contact.rise ? contact.rise.height / contact.fall.height : null,
        framesUp: contact.rise?.frames ?? null,
        framesDown: next?.fall.frames ?? null,
        gravity: flights.get(contact.frame) ?? null,
        gap: gaps?.(contact.frame) ?? null,
      };
    }),
  );
}

/** Forms that pulse and colours that flicker go up and down too, but nobody calls that bouncing. */
const PULSES = /^(deform|size|colour|visible)\b/;

/** Channels that bounce, of these members: the ones the table shows of itself. */
export const bouncingPaths = (shot: Shot, members: readonly string[]): string[] =>
  shot.curves
    .entries()
    .filter(
      ([path, curve]) =>
        members.includes(splitPath(path).member) &&
        !PULSES.test(splitPath(path).channel) &&
        curve.type === 'number' &&
        curve.keys.length > 2,
    )
    .map(([path]) => path)
    .filter((path) => bounceTable(shot, path).length > 0);

function gapReader(shot: Shot, member: string): (time: number) => number | null {
  const program = new Program(shot);
  const frame = program.createFrame();
  const ground = new Ground(shot);
  return (time) => {
    program.evaluate(time, frame);
    return ground.touch(frame, member)?.gap ?? null;
  };
}
