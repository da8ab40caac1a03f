import { clipAtWork } from '../../clip/at-work.ts';
import type { Curve, Key, OrientationKey } from '../../curve/key.ts';
import { channelPath, ORIENTATION, shownChannels } from '../../document/channels.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { countWords } from '../../document/words.ts';
import { defineCommand } from '../../edit/edit.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import type { CurveColumn, CurveTable } from './table.ts';

/** Curves of a table that found their channels in a shot, and columns that found none, with why. */
export interface FoundCurves {
  readonly curves: ReadonlyMap<string, Curve>;
  readonly left: readonly string[];
}

const perUnit = { '°': Math.PI / 180, m: 1, '': 1 } as const;

/**
 * Finds the channels of a table in a shot, by the names of members and channels, and makes curves of them: a key for each number,
 * straight from one to the next. Where the table has another rate the frames are spread from its first one on.
 */
export function curvesFor(shot: Shot, table: CurveTable): FoundCurves {
  const curves = new Map<string, Curve>();
  const left: string[] = [];
  const byName = new Map<string, Member[]>();
  for (const member of shot.members.values()) byName.set(member.name, [...(byName.get(member.name) ?? []), member]);
  const first = table.frames[0] ?? 0;
  const frames = table.frames.map((f) => first + ((f - first) * shot.rate) / table.rate);
  const turns = new Map<string, (CurveColumn | undefined)[]>();
  for (const column of table.columns) {
    const say = (why: string) => left.push(`${column.member}: ${column.channel}: ${why}`);
    const found = byName.get(column.member) ?? [];
    if (found.length !== 1) {
      say(found.length === 0 ? 'nobody in the shot is called so' : `${found.length} in the shot are called so`);
      continue;
    }
    const [member] = found;
    if (isCycling(shot, member)) {
      say('its rig does a clip that cycles; lay the clip by first');
      continue;
    }
    const letter = new RegExp(`^${ORIENTATION} ([xyzw])$`).exec(column.channel)?.[1];
    if (letter && member.rotation === 'orientation') {
      const four = turns.get(member.id) ?? [];
      four['xyzw'.indexOf(letter)] = column;
      turns.set(member.id, four);
      continue;
    }
    const channel = shownChannels(member, shot.rigs).find((c) => `${c.group} ${c.label}`.trim() === column.channel);
    if (!channel || channel.id === ORIENTATION) say('it has no such channel');
    else {
      const keys = numberKeys(frames, column.values, perUnit[channel.unit]);
      if (keys.length === 0) say('there are no numbers');
      else curves.set(channelPath(member.id, channel.id), { type: 'number', keys, before: 'hold', after: 'hold' });
    }
  }
  for (const [id, four] of turns) {
    const keys = turnKeys(frames, four);
    if (keys.length > 0)
      curves.set(channelPath(id, ORIENTATION), { type: 'orientation', keys, before: 'hold', after: 'hold' });
    else left.push(`${shot.members.at(id).name}: ${ORIENTATION}: its four columns are not all there`);
  }
  return { curves, left };
}

function isCycling(shot: Shot, { id, kind, parent }: Member): boolean {
  const rig = kind === 'control' ? parent : id;
  return rig !== null && clipAtWork(shot, rig)?.cycles === true;
}

const straight = { in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' } as const;

const numberKeys = (frames: readonly number[], values: CurveColumn['values'], unit: number): Key[] =>
  frames.flatMap((frame, f) => {
    const value = values[f];
    return value === null ? [] : [{ frame, value: value * unit, ...straight }];
  });

function turnKeys(frames: readonly number[], four: readonly (CurveColumn | undefined)[]): OrientationKey[] {
  return frames.flatMap((frame, f) => {
    const parts = [0, 1, 2, 3].map((k) => four[k]?.values[f] ?? null);
    if (parts.some((v) => v === null)) return [];
    const length = Math.hypot(...(parts as number[]));
    if (length < 1e-3) return [];
    const value = (parts as number[]).map((v) => v / length) as unknown as Quaternion;
    return [{ frame, value, ...straight }];
  });
}

/** Gives channels the curves that came in, in place of what they had. */
export const takeInCurves = defineCommand<{ curves: Readonly<Record<string, Curve>> }>({
  name: 'curves.takeIn',
  label: ({ curves }) => `take in ${countWords(Object.keys(curves).length, 'curve')}`,
  apply: (shot, { curves }) => ({
    ...shot,
    curves: shot.curves.withAll(Object.entries(curves)),
    loose: shot.loose.withoutAll(Object.keys(curves)),
  }),
});
