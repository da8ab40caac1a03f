import { counterparts } from '../../clip/halves.ts';
import type { Curve } from '../../curve/key.ts';
import { keyIndexAt, tidyFrame } from '../../curve/reshape.ts';
import { type AnyKey, keysOfCurve } from '../../curve/turn-back.ts';
import { splitPath } from '../../document/channels.ts';
import { withoutLoose } from '../../document/loose.ts';
import type { Shot } from '../../document/shot.ts';
import { countWords } from '../../document/words.ts';
import { keyImage } from '../../rig/image.ts';
import { defineCommand } from '../edit.ts';
import {
  type CollisionAnswer,
  type KeySelection,
  planRetiming,
  type Retiming,
  type RetimingPlan,
  withRetiming,
} from '../retiming.ts';
import { countKeys, removeKeys } from './keys.ts';

/** Changes of time, of any selection of keys. */

const verbs: Record<Retiming['kind'], string> = {
  move: 'move',
  scale: 'scale the time of',
  reverse: 'reverse',
  whole: 'put on whole frames:',
  onto: 'bring onto beats:',
};

/** Moves, scales or reverses keys, or puts them on whole frames. */
export const retimeKeys = defineCommand<{
  keys: KeySelection;
  how: Retiming;
  collision: CollisionAnswer;
  /** The plan of this very retiming, where it has been made already. */
  plan?: RetimingPlan;
}>({
  name: 'key.retime',
  label: ({ keys, how }) => `${verbs[how.kind]} ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, how, collision, plan }) =>
    withRetiming(shot, plan?.shot === shot ? plan : planRetiming(shot, keys, how, collision)),
});

/** The keys of curves from a frame on. */
export const keysFrom = (shot: Shot, paths: readonly string[], frame: number): KeySelection =>
  keysWhere(shot, paths, (f) => f >= frame - 1e-6);

function keysWhere(shot: Shot, paths: readonly string[], want: (frame: number) => boolean): KeySelection {
  const entries = paths.flatMap((path) => {
    const frames =
      shot.curves
        .get(path)
        ?.keys.map((k) => k.frame)
        .filter(want) ?? [];
    return frames.length > 0 ? [[path, frames] as const] : [];
  });
  return Object.fromEntries(entries);
}

/** Moves everything from a frame on, and with it whatever comes after. */
export const rippleKeys = defineCommand<{
  paths: readonly string[];
  from: number;
  by: number;
  collision: CollisionAnswer;
}>({
  name: 'key.ripple',
  label: ({ from, by }) => `move everything from ${Math.round(from)} on by ${by}`,
  apply: (shot, { paths, from, by, collision }) =>
    withRetiming(shot, planRetiming(shot, keysFrom(shot, paths, from), { kind: 'move', by }, collision)),
});

/**
 * Puts frames in after a frame, or takes some out there (`count` below 0): all later keys move. No more are taken out than
 * there are between this frame's keys and the next.
 */
export const insertFrames = defineCommand<{ paths: readonly string[]; after: number; count: number }>({
  name: 'key.insertFrames',
  label: ({ after, count }) =>
    `${count > 0 ? 'put in' : 'take out'} ${countWords(Math.abs(count), 'frame')} after ${Math.round(after)}`,
  apply(shot, { paths, after, count }) {
    const later = keysWhere(shot, paths, (f) => f > after + 1e-6);
    // A key that has none before it has only this frame itself to keep clear of.
    const first = runSpan(later)?.first ?? after + 1;
    const by = Math.max(count, Math.min(0, Math.ceil(after) + 1 - Math.floor(first)));
    return withRetiming(shot, planRetiming(shot, later, { kind: 'move', by }, 'stop'));
  },
});

/**
 * Takes picked keys away together with their time: what comes after them follows the key before them as closely as it
 * followed the last of them.
 * @param paths the rows that close up: all that play together, also those without a picked key
 */
export const cutKeys = defineCommand<{ keys: KeySelection; paths: readonly string[] }>({
  name: 'key.cut',
  label: ({ keys }) => `cut ${countWords(countKeys(keys), 'key')} out and close the gap`,
  apply(shot, { keys, paths }) {
    const span = runSpan(keys);
    if (!span) return shot;
    const rest = removeKeys.apply(shot, { keys });
    const before = runSpan(keysWhere(rest, paths, (f) => f < span.first - 1e-6));
    const by = (before?.last ?? span.first) - span.last;
    const later = keysWhere(rest, paths, (f) => f > span.last + 1e-6);
    return by === 0 ? rest : withRetiming(rest, planRetiming(rest, later, { kind: 'move', by }, 'push'));
  },
});

/** Moves the keys of each group in turn a step further than those of the group before: one row after another. */
export const staggerKeys = defineCommand<{
  groups: readonly KeySelection[];
  step: number;
  collision: CollisionAnswer;
}>({
  name: 'key.stagger',
  label: ({ groups, step }) => `offset ${groups.length} rows by ${step} each`,
  apply: (shot, { groups, step, collision }) =>
    groups.reduce(
      (next, keys, i) => withRetiming(next, planRetiming(next, keys, { kind: 'move', by: i * step }, collision)),
      shot,
    ),
});

/**
 * Repeats a run of keys, end to end. Where a copy begins on the frame of the last key before it, the two are one: it arrives
 * as the run ends and leaves as the run begins.
 * @param gap frames from the run's last key to the first of the next copy
 * @param travel each copy goes on from where the one before it ended
 */
export const repeatKeys = defineCommand<{
  keys: KeySelection;
  times: number;
  gap: number;
  travel: boolean;
  collision: CollisionAnswer;
}>({
  name: 'key.repeat',
  label: ({ keys, times }) => `repeat ${countWords(countKeys(keys), 'key')} ${times} ${times === 1 ? 'time' : 'times'}`,
  apply(shot, { keys, times, gap, travel, collision }) {
    const span = runSpan(keys);
    if (!span || times < 1) return shot;
    const period = span.last - span.first + gap;
    if (period <= 0) return shot;
    const end = span.last + times * period;
    if (collision === 'stop' && inTheWay(shot, keys, span.last, end) > 0) return shot;
    const curves = shot.curves.edit();
    for (const [path, frames] of Object.entries(keys)) {
      const curve = shot.curves.get(path);
      if (!curve) continue;
      curves.set(
        path,
        repeated(curve, frames, {
          last: span.last,
          end,
          period,
          times,
          travel,
          push: collision === 'push',
        }),
      );
    }
    return { ...shot, curves: curves.done() };
  },
});

/** From the first to the last picked frame; null when nothing is picked. */
export function runSpan(keys: KeySelection): { first: number; last: number } | null {
  let [first, last] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const frames of Object.values(keys)) {
    for (const f of frames) {
      first = Math.min(first, f);
      last = Math.max(last, f);
    }
  }
  return first <= last ? { first, last } : null;
}

/** How many keys that are not picked stand where the copies of a repeated run will. */
export function inTheWay(shot: Shot, keys: KeySelection, from: number, to: number): number {
  return Object.entries(keys).reduce((n, [path, frames]) => {
    const there = shot.curves
      .get(path)
      ?.keys.filter((k) => k.frame > from && k.frame <= to && !frames.includes(k.frame));
    return n + (there?.length ?? 0);
  }, 0);
}

interface Repeat {
  readonly last: number;
  readonly end: number;
  readonly period: number;
  readonly times: number;
  readonly travel: boolean;
  readonly push: boolean;
}

function repeated(curve: Curve, frames: readonly number[], repeat: Repeat): Curve {
  const all = keysOfCurve(curve);
  const picked = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
  const run = all.filter((_, i) => picked.has(i));
  if (run.length === 0) return curve;
  const gain = gainOf(run);
  const out: AnyKey[] = all.filter((k, i) => picked.has(i) || k.frame <= repeat.last);
  for (let copy = 1; copy <= repeat.times; copy++) {
    for (const key of run) {
      const frame = tidyFrame(key.frame + copy * repeat.period);
      const value =
        typeof key.value === 'number' && repeat.travel ? key.value + copy * gain : (key.value as AnyKey['value']);
      const fresh = { ...key, frame, value } as AnyKey;
      const there = out.at(-1)!;
      if (Math.abs(there.frame - frame) > 1e-6) out.push(fresh);
      else
        out[out.length - 1] = {
          ...fresh,
          in: there.in,
          joined: fresh.joined && there.in.kind === fresh.in.kind,
        } as AnyKey;
    }
  }
  const shift = repeat.end - repeat.last;
  for (const [i, key] of all.entries()) {
    if (picked.has(i) || key.frame <= repeat.last) continue;
    if (repeat.push) out.push({ ...key, frame: tidyFrame(key.frame + shift) } as AnyKey);
    else if (key.frame > repeat.end) out.push(key);
  }
  return { ...curve, keys: out } as Curve;
}

const gainOf = (run: readonly AnyKey[]): number => {
  const [first, last] = [run[0].value, run[run.length - 1].value];
  return typeof first === 'number' && typeof last === 'number' ? last - first : 0;
};

/** Whether every row of a run ends with the value it began with, so that end and next beginning can be one key. */
export function closesOnItself(shot: Shot, keys: KeySelection): boolean {
  return Object.entries(keys).every(([path, frames]) => {
    const curve = shot.curves.get(path);
    if (!curve || frames.length < 2) return false;
    const at = (frame: number) => keysOfCurve(curve)[keyIndexAt(curve.keys, frame)]?.value;
    const span = runSpan({ [path]: frames })!;
    const [first, last] = [at(span.first), at(span.last)];
    if (typeof first === 'number' && typeof last === 'number') return Math.abs(first - last) < 1e-6;
    return String(first) === String(last);
  });
}

/** Keys as they are carried from place to place: by channel path, first key on frame 0. */
export type CarriedKeys = Readonly<Record<string, readonly AnyKey[]>>;

/** Takes a copy of picked keys along, to be set down elsewhere. */
export function carryKeys(shot: Shot, keys: KeySelection): CarriedKeys {
  const span = runSpan(keys);
  if (!span) return {};
  const entries = Object.entries(keys).flatMap(([path, frames]) => {
    const curve = shot.curves.get(path);
    const found = curve ? keysOfCurve(curve).filter((k) => frames.some((f) => Math.abs(f - k.frame) < 1e-6)) : [];
    return found.length > 0
      ? [[path, found.map((k) => ({ ...k, frame: tidyFrame(k.frame - span.first) }))] as const]
      : [];
  });
  return Object.fromEntries(entries);
}

/**
 * Carried keys with their sides changed: what was keyed on the left is for the right, turned about. Channels that have no other side
 * keep theirs, turned about where a mirror does that.
 */
export function mirroredKeys(shot: Shot, carried: CarriedKeys): CarriedKeys {
  const sides = new Map<string, ReturnType<typeof counterparts>>();
  const entries = Object.entries(carried).map(([path, keys]) => {
    const member = shot.members.get(splitPath(path).member);
    if (member?.kind !== 'control' || member.parent === null) return [path, keys] as const;
    const counterpartOf = sides.get(member.parent) ?? counterparts(shot, { rig: member.parent });
    sides.set(member.parent, counterpartOf);
    const other = counterpartOf(path);
    return other ? ([other.path, keys.map((k) => keyImage(k, other.sign))] as const) : ([path, keys] as const);
  });
  return Object.fromEntries(entries);
}

/** Sets carried keys down, the first of them on `frame`. Keys that are there are replaced. */
export const putDownKeys = defineCommand<{ carried: CarriedKeys; frame: number }>({
  name: 'key.paste',
  label: ({ carried, frame }) =>
    `paste ${countWords(
      Object.values(carried).reduce((n, k) => n + k.length, 0),
      'key',
    )} at ${Math.round(frame)}`,
  apply(shot, { carried, frame }) {
    const curves = shot.curves.edit();
    let { loose } = shot;
    for (const [path, keys] of Object.entries(carried)) {
      const put = keys.map((k) => ({ ...k, frame: tidyFrame(k.frame + frame) }));
      const old = curves.get(path);
      const stay = old ? keysOfCurve(old).filter((k) => keyIndexAt(put, k.frame) < 0) : [];
      const type = typeof put[0].value === 'number' ? 'number' : 'orientation';
      const base = old?.type === type ? old : { type, before: 'hold', after: 'hold' };
      curves.set(path, { ...base, keys: [...stay, ...put].sort((a, b) => a.frame - b.frame) } as Curve);
      for (const { frame: at } of put) loose = withoutLoose(loose, path, at);
    }
    return { ...shot, curves: curves.done(), loose };
  },
});
