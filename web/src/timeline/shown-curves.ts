import {
  boundsOf,
  type Channel,
  type Curve,
  CurveReader,
  findChannel,
  hasForm,
  type Member,
  type NumberCurve,
  rangeOf,
  type Shot,
  splitPath,
} from '@varrup/core';

/** A curve as the curves view shows it: in the interface's units, in a colour. */
export interface ShownCurve {
  readonly path: string;
  readonly label: string;
  readonly curve: NumberCurve;
  readonly reader: CurveReader;
  /** The name of its colour in the theme. */
  readonly colour: string;
  /** A value is shown as `value * scale + shift`. Turns are shown in degrees; a normalised curve from 0 to 1. */
  readonly scale: number;
  readonly shift: number;
  /** What a value is multiplied by to be written in its unit. */
  readonly unitScale: number;
  /** From where to where its values may be set. */
  readonly range: { readonly min: number; readonly max: number };
  readonly unit: string;
  /** Heights that mean something to it: where the floor is, how far it may go. In the channel's own measure. */
  readonly marks: readonly { readonly value: number; readonly word: string }[];
}

/** Which curves are seen. */
export interface CurveChoice {
  readonly selection: readonly string[];
  readonly channels: readonly string[];
  readonly pinned: readonly string[];
  readonly hidden: readonly string[];
  readonly isolated: readonly string[];
  readonly normal: boolean;
}

const readers = new WeakMap<Curve, CurveReader>();
const readerOf = (curve: NumberCurve): CurveReader => {
  const known = readers.get(curve) ?? new CurveReader(curve);
  readers.set(curve, known);
  return known;
};

export const unitScale = (unit: string): number => (unit === '°' ? 180 / Math.PI : 1);

/**
 * The number curves to be seen: the isolated ones alone while there are any; else those of the picked channels, or of the
 * picked members, or of everybody, and the pinned ones beside them. Hidden ones are among them only in name: see `visible`.
 */
export function shownCurves(shot: Shot, choice: CurveChoice): ShownCurve[] {
  const { selection, channels } = choice;
  const [picked, members] = [new Set(channels), new Set(selection)];
  const [pinned, isolated] = [new Set(choice.pinned), new Set(choice.isolated)];
  return shot.curves.entries().flatMap(([path, curve]): ShownCurve[] => {
    if (curve.type !== 'number') return [];
    const { member: id } = splitPath(path);
    const meant = picked.size > 0 ? picked.has(path) : members.size === 0 || members.has(id);
    if (isolated.size > 0 ? !isolated.has(path) : !meant && !pinned.has(path)) return [];
    const shown = shownCurve(shot, path, curve, choice.normal, selection.length === 1 && members.has(id));
    return shown ? [shown] : [];
  });
}

/** One curve made ready to be shown; null where its channel has gone. */
export function shownCurve(
  shot: Shot,
  path: string,
  curve: NumberCurve,
  normal: boolean,
  alone: boolean,
): ShownCurve | null {
  const { member: id, channel: channelId } = splitPath(path);
  const member = shot.members.get(id);
  const channel = member && findChannel(member, channelId, shot.rigs);
  if (!channel) return null;
  const family = channel.group === 'turn' ? 'turn' : 'axis';
  const axis = { x: 'x', y: 'y', z: 'z', r: 'x', g: 'y', b: 'z' }[channel.label];
  const label = `${channel.group} ${channel.label}`.trim();
  const reader = readerOf(curve);
  const own = unitScale(channel.unit);
  const [scale, shift] = normal ? normalised(curve, reader) : [own, 0];
  const name = alone ? label : `${member.name} · ${label}`;
  return {
    path,
    label: name,
    curve,
    reader,
    colour: axis ? `${family}-${axis}` : 'umber',
    scale,
    shift,
    unitScale: own,
    range: rangeOf(channel),
    marks: marksOf(shot, member, channel),
    unit: channel.unit,
  };
}

/** Kinds that stand on the floor with their lowest point. */
const standing = (member: Member) => member.parent === null && hasForm(member.kind) && member.kind !== 'plane';

function marksOf(shot: Shot, member: Member, channel: Channel): ShownCurve['marks'] {
  const marks: { value: number; word: string }[] = [];
  if (channel.id === 'move.y' && standing(member)) {
    const [, lowest] = boundsOf(member, shot.rigs);
    const { 'size.y': size = 1, 'pivot.y': pivot = 0 } = member.values;
    marks.push({ value: -(pivot + size * (lowest - pivot)), word: 'on the floor' });
  }
  if (channel.min !== undefined) marks.push({ value: channel.min, word: 'least' });
  if (channel.max !== undefined) marks.push({ value: channel.max, word: 'most' });
  return marks;
}

const ranges = new WeakMap<Curve, { low: number; high: number }>();

/** What brings a curve's own lowest and highest value to 0 and 1; a level one to the middle. */
function normalised(curve: NumberCurve, reader: CurveReader): [scale: number, shift: number] {
  const range = ranges.get(curve) ?? reachOf(curve, reader);
  ranges.set(curve, range);
  const size = range.high - range.low;
  return size > 1e-12 ? [1 / size, -range.low / size] : [1, 0.5 - range.low];
}

function reachOf(curve: NumberCurve, reader: CurveReader): { low: number; high: number } {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (v: number) => {
    low = Math.min(low, v);
    high = Math.max(high, v);
  };
  const [first, last] = [curve.keys[0].frame, curve.keys[curve.keys.length - 1].frame];
  const step = Math.max(0.5, (last - first) / 2000);
  for (let f = first; f <= last; f += step) take(reader.at(f));
  for (const key of curve.keys) take(key.value);
  return { low, high };
}

/** Lowest and highest value shown, with a margin. */
export function valueSpan(curves: readonly ShownCurve[]): { low: number; high: number } {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const { curve, reader, scale, shift } of curves) {
    const range = ranges.get(curve) ?? reachOf(curve, reader);
    ranges.set(curve, range);
    low = Math.min(low, range.low * scale + shift);
    high = Math.max(high, range.high * scale + shift);
  }
  if (low > high) return { low: -1, high: 1 };
  const margin = Math.max((high - low) * 0.12, 0.05);
  return { low: low - margin, high: high + margin };
}
