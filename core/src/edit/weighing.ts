import { alike } from '../clip/circle.ts';
import type { Curve } from '../curve/key.ts';
import { orientationValueAt } from '../curve/reshape.ts';
import { CurveReader } from '../curve/sample.ts';
import { type AnyKey, keysOfCurve } from '../curve/turn-back.ts';
import { findChannel, splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import { channelValue } from '../evaluate/channel-value.ts';
import { quaternionBetween } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';

/** What a trial would change, in numbers: shown beside it before it is kept. */

/** How far a channel would go from what it was, and where that is furthest. */
export interface Departure {
  readonly path: string;
  readonly frame: number;
  /** In what the document holds: metres, radians, or plain. */
  readonly by: number;
}

export interface Weighed {
  /** Channels whose keys change. */
  readonly channels: number;
  readonly come: number;
  readonly go: number;
  /** Keys that are the same on another frame. */
  readonly move: number;
  /** Keys that hold something else, or lead elsewhere, on their frame. */
  readonly change: number;
  /** For each unit the largest departure, those that depart at all. */
  readonly furthest: Readonly<Partial<Record<'m' | '°' | '', Departure>>>;
}

/** Curves are looked at on so many frames all together. */
const MOST_LOOKS = 20_000;

/** Smaller departures are arithmetic. */
const NOTHING = 1e-7;

/** Weighs what lies between two versions of a shot. Costs what differs, and no more than some thousand looks at curves. */
export function weigh(before: Shot, after: Shot): Weighed {
  const changed: { path: string; old?: Curve; now?: Curve }[] = [];
  before.curves.changesTo(after.curves, (path, old, now) => changed.push({ path, old, now }));
  const counts = { come: 0, go: 0, move: 0, change: 0 };
  const furthest: Partial<Record<'m' | '°' | '', Departure>> = {};
  const looks = Math.max(8, Math.floor(MOST_LOOKS / Math.max(1, changed.length)));
  for (const { path, old, now } of changed) {
    count(old ? keysOfCurve(old) : [], now ? keysOfCurve(now) : [], counts);
    const { member, channel } = splitPath(path);
    const owner = after.members.get(member) ?? before.members.get(member);
    const unit = owner && (findChannel(owner, channel, after.rigs)?.unit ?? '');
    const departure = departureOf(path, [before, old], [after, now], looks);
    if (unit !== undefined && departure && departure.by > (furthest[unit]?.by ?? NOTHING)) furthest[unit] = departure;
  }
  return { channels: changed.length, ...counts, furthest };
}

function count(
  before: readonly AnyKey[],
  after: readonly AnyKey[],
  counts: { come: number; go: number; move: number; change: number },
): void {
  // The same keys in the same order have been moved, whatever frames they have changed among themselves.
  if (before.length === after.length && before.every((key, i) => sameValue(key, after[i]))) {
    before.forEach((key, i) => {
      if (key.frame !== after[i].frame) counts.move++;
      else if (!alike(key, after[i])) counts.change++;
    });
    return;
  }
  const then = new Map(before.map((k) => [k.frame, k]));
  const come: AnyKey[] = [];
  for (const key of after) {
    const old = then.get(key.frame);
    if (!old) come.push(key);
    else if (!alike(old, key)) counts.change++;
    then.delete(key.frame);
  }
  const gone = [...then.values()];
  for (const key of come) {
    const from = gone.findIndex((k) => sameValue(k, key));
    if (from < 0) counts.come++;
    else {
      gone.splice(from, 1);
      counts.move++;
    }
  }
  counts.go += gone.length;
}

const sameValue = ({ value: a }: AnyKey, { value: b }: AnyKey): boolean =>
  typeof a === 'number' || typeof b === 'number' ? a === b : a.every((v, i) => v === b[i]);

/** Where a channel departs furthest from what it was, over the frames of its keys. */
function departureOf(
  path: string,
  before: readonly [Shot, Curve | undefined],
  after: readonly [Shot, Curve | undefined],
  looks: number,
): Departure | null {
  const frames = [before, after].flatMap(([, curve]) => (curve ? keysOfCurve(curve).map((k) => k.frame) : []));
  const [first, last] = [Math.ceil(Math.min(...frames)), Math.floor(Math.max(...frames))];
  const step = Math.max(1, Math.ceil((last - first) / looks));
  const [then, now] = [readerOf(path, ...before), readerOf(path, ...after)];
  let most: Departure | null = null;
  for (let frame = first; frame <= last; frame += step) {
    const by = apart(then(frame), now(frame));
    if (by > (most?.by ?? 0)) most = { path, frame, by };
  }
  return most;
}

function readerOf(path: string, shot: Shot, curve: Curve | undefined) {
  if (curve?.type === 'number') {
    const reader = new CurveReader(curve);
    return (frame: number) => reader.at(frame);
  }
  if (curve) return (frame: number) => orientationValueAt(curve, frame);
  const constant = channelValue(shot, path, 0);
  return () => constant;
}

type Read = number | Quaternion | undefined;

function apart(a: Read, b: Read): number {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b);
  if (typeof a !== 'object' || typeof b !== 'object') return 0;
  const [x, y, z, w] = quaternionBetween(a, b);
  return 2 * Math.atan2(Math.hypot(x, y, z), Math.abs(w));
}
