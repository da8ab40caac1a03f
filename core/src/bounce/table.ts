import type { Curve, NumberCurve } from '../curve/key.ts';
import { splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
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

/** One bounce of a channel, contact by contact. */
export interface Bounce {
  readonly path: string;
  readonly rows: readonly BounceRow[];
}

/** The bounces of a channel, contact by contact, each bounce as a list. Empty for a channel that does not bounce. */
export const bounceTable = (shot: Shot, path: string): (readonly BounceRow[])[] =>
  bounceTables(shot, [path]).map(({ rows }) => rows);

/** The bounces of many channels, channel by channel: what tells the gaps to the ground is made once for all of them. */
export function bounceTables(shot: Shot, paths: readonly string[]): Bounce[] {
  const gaps = new Gaps(shot);
  return paths.flatMap((path) => {
    const curve = shot.curves.get(path);
    if (curve?.type !== 'number') return [];
    const { member, channel } = splitPath(path);
    const perSecond = shot.rate * shot.rate;
    const flights = new Map(
      flightsOf(curve).map((flight) => [flight.contact.frame, flightGravity(flight) * perSecond]),
    );
    const row = (contact: Contact, index: number, run: readonly Contact[]): BounceRow => ({
      path,
      index,
      contact,
      height: contact.rise?.height ?? null,
      ratio: contact.rise ? contact.rise.height / contact.fall.height : null,
      framesUp: contact.rise?.frames ?? null,
      framesDown: run[index + 1]?.fall.frames ?? null,
      gravity: flights.get(contact.frame) ?? null,
      gap: channel === 'move.y' ? gaps.at(contact.frame, member) : null,
    });
    return bouncesOf(contactsOf(curve)).map((run) => ({ path, rows: run.map(row) }));
  });
}

/** Forms that pulse and colours that flicker go up and down too, but nobody calls that bouncing. */
const PULSES = /^(deform|size|colour|visible)\b/;

/** Curves are asked again and again whether they bounce, by whatever is shown beside them. */
const known = new WeakMap<NumberCurve, boolean>();

function bounces(curve: Curve): boolean {
  if (curve.type !== 'number' || curve.keys.length <= 2) return false;
  const told = known.get(curve) ?? bouncesOf(contactsOf(curve)).length > 0;
  known.set(curve, told);
  return told;
}

/** Channels that bounce, of these members: the ones the table shows of itself. No frame is worked out for it. */
export function bouncingPaths(shot: Shot, members: readonly string[]): string[] {
  const meant = new Set(members);
  return shot.curves.entries().flatMap(([path, curve]) => {
    const { member, channel } = splitPath(path);
    return meant.has(member) && !PULSES.test(channel) && bounces(curve) ? [path] : [];
  });
}

/** How far members are from the ground, made ready when the first is asked for. */
class Gaps {
  readonly #shot: Shot;
  #ready: { readonly program: Program; readonly frame: Frame; readonly ground: Ground } | null = null;

  constructor(shot: Shot) {
    this.#shot = shot;
  }

  at(time: number, member: string): number | null {
    this.#ready ??= this.#make();
    const { program, frame, ground } = this.#ready;
    program.evaluate(time, frame);
    return ground.touch(frame, member)?.gap ?? null;
  }

  #make() {
    const program = new Program(this.#shot);
    return { program, frame: program.createFrame(), ground: new Ground(this.#shot) };
  }
}
