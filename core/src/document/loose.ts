import { z } from 'zod';
import { SAME_FRAME } from '../curve/key.ts';
import { listOf } from '../schema/bounded.ts';
import type { ChannelValue } from '../schema/channel.ts';
import { FrameSchema, QuaternionSchema, ValueSchema } from '../schema/numbers.ts';
import { Refused } from '../schema/refused.ts';
import { Table } from '../table/table.ts';

/** Changes made by hand on animated channels and not keyed yet. Each belongs to the frame it was made on: elsewhere the curves have their way. */

/** As many a channel may have. */
const MOST = 200;

const LooseChangeSchema = z.strictObject({ frame: FrameSchema, value: z.union([ValueSchema, QuaternionSchema]) });
const ordered = (list: readonly { frame: number }[]) => list.every((l, i) => i === 0 || l.frame > list[i - 1].frame);

/** The loose changes of a channel, in the order of their frames. */
export const LooseSchema = listOf(LooseChangeSchema, MOST, 1).refine(ordered, 'must be in order, one a frame');
export type Loose = z.infer<typeof LooseSchema>;
export type LooseTable = Table<Loose>;

const isAt = (frame: number) => (change: { readonly frame: number }) => Math.abs(change.frame - frame) < SAME_FRAME;

/** What a channel has been changed to at a frame; undefined where it has not. */
export const looseAt = (loose: LooseTable, path: string, frame: number): ChannelValue | undefined =>
  loose.get(path)?.find(isAt(frame))?.value;

/** @throws Refused where the channel has more loose changes than one can keep in mind */
export function withLoose(loose: LooseTable, path: string, frame: number, value: ChannelValue): LooseTable {
  const others = (loose.get(path) ?? []).filter((change) => !isAt(frame)(change));
  if (others.length >= MOST)
    throw new Refused(`${MOST} changes of a channel are loose already: key or drop some first.`);
  const change = { frame, value: value as Loose[number]['value'] };
  return loose.with(
    path,
    [...others, change].sort((a, b) => a.frame - b.frame),
  );
}

/** Without what is loose of a channel: at a frame, or at all. */
export function withoutLoose(loose: LooseTable, path: string, frame?: number): LooseTable {
  const list = loose.get(path);
  if (!list) return loose;
  const left = frame === undefined ? [] : list.filter((change) => !isAt(frame)(change));
  if (left.length === list.length) return loose;
  return left.length > 0 ? loose.with(path, left) : loose.without(path);
}

const NOTHING: Table<ChannelValue> = Table.empty();
const known = new WeakMap<LooseTable, Map<number, Table<ChannelValue>>>();

/** What is loose at a frame, by channel. The same table each time it is asked for. */
export function looseStanding(loose: LooseTable, frame: number): Table<ChannelValue> {
  if (loose.size === 0) return NOTHING;
  const frames = known.get(loose) ?? new Map<number, Table<ChannelValue>>();
  known.set(loose, frames);
  const there = frames.get(frame);
  if (there) return there;
  const here = loose.entries().flatMap(([path, list]): [string, ChannelValue][] => {
    const change = list.find(isAt(frame));
    return change ? [[path, change.value]] : [];
  });
  const table = here.length > 0 ? Table.of(here) : NOTHING;
  frames.set(frame, table);
  return table;
}
