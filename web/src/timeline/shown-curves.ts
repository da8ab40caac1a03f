import { type Curve, CurveReader, findChannel, type NumberCurve, type Shot, splitPath } from '@varrup/core';

/** A curve as the curves view shows it: in the interface's units, in a colour. */
export interface ShownCurve {
  readonly path: string;
  readonly label: string;
  readonly curve: NumberCurve;
  readonly reader: CurveReader;
  /** The name of its colour in the theme. */
  readonly colour: string;
  /** What a value is multiplied by to be shown: turns are shown in degrees. */
  readonly scale: number;
  readonly unit: string;
}

const readers = new WeakMap<Curve, CurveReader>();
const readerOf = (curve: NumberCurve): CurveReader => {
  const known = readers.get(curve) ?? new CurveReader(curve);
  readers.set(curve, known);
  return known;
};

export const unitScale = (unit: string): number => (unit === '°' ? 180 / Math.PI : 1);

/** The number curves of what is picked: of the picked channels where some are, else of the picked members, else all. */
export function shownCurves(shot: Shot, selection: readonly string[], channels: readonly string[]): ShownCurve[] {
  return Object.entries(shot.curves).flatMap(([path, curve]): ShownCurve[] => {
    if (curve.type !== 'number') return [];
    const { member: id, channel: channelId } = splitPath(path);
    const picked = channels.length > 0 ? channels.includes(path) : selection.length === 0 || selection.includes(id);
    const member = shot.members[id];
    const channel = member && findChannel(member, channelId);
    if (!picked || !channel) return [];
    const axis = { x: 'axis-x', y: 'axis-y', z: 'axis-z', r: 'axis-x', g: 'axis-y', b: 'axis-z' }[channel.label];
    const label = `${channel.group} ${channel.label}`.trim();
    const name = selection.length === 1 ? label : `${member.name} · ${label}`;
    const scale = unitScale(channel.unit);
    return [{ path, label: name, curve, reader: readerOf(curve), colour: axis ?? 'umber', scale, unit: channel.unit }];
  });
}

/** Lowest and highest value shown, in the interface's units, with a margin. */
export function valueSpan(curves: readonly ShownCurve[]): { low: number; high: number } {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (const { curve, reader, scale } of curves) {
    const [first, last] = [curve.keys[0].frame, curve.keys[curve.keys.length - 1].frame];
    const step = Math.max(0.5, (last - first) / 2000);
    for (let f = first; f <= last; f += step) {
      const v = reader.at(f) * scale;
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
    for (const key of curve.keys) {
      low = Math.min(low, key.value * scale);
      high = Math.max(high, key.value * scale);
    }
  }
  if (low > high) return { low: -1, high: 1 };
  const margin = Math.max((high - low) * 0.12, 0.05);
  return { low: low - margin, high: high + margin };
}
