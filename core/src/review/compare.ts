import type { Curve, NumberCurve, OrientationCurve } from '../curve/key.ts';
import { compileOrientation, orientationAt } from '../curve/orientation.ts';
import { CurveReader } from '../curve/sample.ts';
import { constantValue, findChannel, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import { type Shot, type ShotDocument, shotTables } from '../document/shot.ts';
import type { ChannelValue } from '../schema/channel.ts';
import type { Quaternion } from '../schema/numbers.ts';

/** What is otherwise in two states of a shot: member by member and channel by channel, with before and after. */

export interface ChannelChange {
  readonly path: string;
  /** Keys it has; null where it is constant. */
  readonly keysBefore: number | null;
  readonly keysAfter: number | null;
  /** Where it differs most: the frame, and what it is there. Turns are told by the angle between them, as 0 before. */
  readonly frame: number;
  readonly before: number;
  readonly after: number;
  /** The frames on which it differs. */
  readonly first: number;
  readonly last: number;
}

export interface MemberChange {
  readonly member: string;
  readonly name: string;
  readonly is: 'came' | 'went' | 'changed';
  readonly channels: readonly ChannelChange[];
  /** Whether anything of it but its motion is another: its form, what carries it, its name. */
  readonly otherwise: boolean;
}

export interface Comparison {
  readonly members: readonly MemberChange[];
  /** What else differs, by the name of its table. */
  readonly others: readonly (keyof ShotDocument)[];
}

/** Values nearer than that are the same. */
const SAME = 1e-7;

/** Tables that are told of member by member, and those whose changes are no changes of the shot's own. */
const APART: ReadonlySet<string> = new Set(['members', 'curves', 'loose', 'notes', 'suggestions']);

/**
 * Compares two states of a shot. What a channel is at a frame is taken from its keys or its constant: what formulas and tracks make of it is
 * not looked at.
 */
export function compareShots(before: Shot, after: Shot): Comparison {
  const changed = new Map<string, ChannelChange[]>();
  for (const path of new Set([...before.curves.keys(), ...after.curves.keys()])) {
    const change = curveChange(before, after, path);
    if (change) listed(changed, splitPath(path).member).push(change);
  }
  const members: MemberChange[] = [];
  for (const id of new Set([...after.members.keys(), ...before.members.keys()])) {
    const [old, now] = [before.members.get(id), after.members.get(id)];
    const channels = changed.get(id) ?? [];
    if (old && now && old !== now) channels.push(...constantChanges(before, after, old, now));
    const otherwise = old !== undefined && now !== undefined && old !== now && !alike(without(old), without(now));
    const is = !old ? 'came' : !now ? 'went' : 'changed';
    if (is !== 'changed' || channels.length > 0 || otherwise)
      members.push({ member: id, name: (now ?? old)!.name, is, channels, otherwise });
  }
  const others = (Object.keys(shotTables) as (keyof typeof shotTables)[]).filter(
    (table) =>
      !APART.has(table) && before[table] !== after[table] && !alike(before[table].toJSON(), after[table].toJSON()),
  );
  const plain = (['rate', 'range', 'play', 'name', 'plan'] as const).filter(
    (part) => !alike(before[part], after[part]),
  );
  return { members, others: [...plain, ...others] };
}

const listed = <T>(lists: Map<string, T[]>, key: string): T[] => {
  const list = lists.get(key) ?? [];
  lists.set(key, list);
  return list;
};

/** What is not told of channel by channel. */
const without = ({ values: _, orientation: __, ...member }: Member): object => member;

function curveChange(before: Shot, after: Shot, path: string): ChannelChange | null {
  const [a, b] = [before.curves.get(path), after.curves.get(path)];
  if (a === b || (a && b && alike(a, b))) return null;
  // Of somebody who is in one of them only, that is told.
  const { member: id, channel } = splitPath(path);
  if (!before.members.has(id) || !after.members.has(id)) return null;
  const [readA, readB] = [readerOf(before, path, a), readerOf(after, path, b)];
  const frames = framesOf(a, b);
  let [most, at, first, last] = [0, frames[0], Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const frame of frames) {
    const gap = gapOf(readA(frame), readB(frame));
    if (gap <= SAME) continue;
    [first, last] = [Math.min(first, frame), Math.max(last, frame)];
    if (gap > most) [most, at] = [gap, frame];
  }
  if (first > last) [first, last] = [frames[0], frames[frames.length - 1]];
  const turning = channel === ORIENTATION;
  return {
    path,
    keysBefore: a ? a.keys.length : null,
    keysAfter: b ? b.keys.length : null,
    frame: at,
    before: turning ? 0 : (readA(at) as number),
    after: turning ? most : (readB(at) as number),
    first,
    last,
  };
}

/** Whole frames, and those of the keys, over which two curves can differ. */
function framesOf(a: Curve | undefined, b: Curve | undefined): number[] {
  const keys = [...(a?.keys ?? []), ...(b?.keys ?? [])].map((k) => k.frame);
  const [low, high] = [Math.floor(Math.min(...keys)), Math.ceil(Math.max(...keys))];
  const step = Math.max(1, Math.ceil((high - low) / 2_000));
  const frames = new Set(keys);
  for (let frame = low; frame <= high; frame += step) frames.add(frame);
  return [...frames].sort((x, y) => x - y);
}

function readerOf(shot: Shot, path: string, curve: Curve | undefined): (frame: number) => ChannelValue {
  if (curve?.type === 'number') {
    const reader = new CurveReader(curve as NumberCurve);
    return (frame) => reader.at(frame);
  }
  if (curve) {
    const compiled = compileOrientation(curve as OrientationCurve);
    return (frame) => {
      const out = new Float64Array(4);
      orientationAt(compiled, frame, out, 0);
      return [out[0], out[1], out[2], out[3]];
    };
  }
  const { member: id, channel } = splitPath(path);
  const member = shot.members.at(id);
  if (channel === ORIENTATION) return () => member.orientation;
  const found = findChannel(member, channel, shot.rigs);
  const value = found ? constantValue(member, found) : 0;
  return () => value;
}

/** How far two values are apart: turns by the angle between them. */
function gapOf(a: ChannelValue, b: ChannelValue): number {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b);
  if (typeof a === 'number' || typeof b === 'number') return Number.POSITIVE_INFINITY;
  const dot = Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3]);
  return 2 * Math.acos(Math.min(1, dot));
}

function constantChanges(before: Shot, after: Shot, old: Member, now: Member): ChannelChange[] {
  const out: ChannelChange[] = [];
  const say = (channel: string, was: number, is: number) => {
    const path = `${old.id}.${channel}`;
    if (before.curves.has(path) || after.curves.has(path) || Math.abs(was - is) <= SAME) return;
    const { first, last } = after.play;
    out.push({ path, keysBefore: null, keysAfter: null, frame: first, before: was, after: is, first, last });
  };
  for (const channel of new Set([...Object.keys(old.values), ...Object.keys(now.values)])) {
    const [a, b] = [findChannel(old, channel, before.rigs), findChannel(now, channel, after.rigs)];
    if (a && b) say(channel, constantValue(old, a), constantValue(now, b));
  }
  if (old.rotation === 'orientation' && now.rotation === 'orientation')
    say(ORIENTATION, 0, gapOf(old.orientation as Quaternion, now.orientation as Quaternion));
  return out;
}

/** Whether two parts of documents say the same. */
export function alike(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((part, i) => alike(part, b[i]));
  const [x, y] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const names = Object.keys(x).filter((name) => x[name] !== undefined);
  return (
    names.length === Object.keys(y).filter((name) => y[name] !== undefined).length &&
    names.every((name) => alike(x[name], y[name]))
  );
}
