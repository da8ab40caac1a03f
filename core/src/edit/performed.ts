import type { Curve, NumberCurve, OrientationCurve, OrientationKey } from '../curve/key.ts';
import { thinned } from '../curve/thin.ts';
import { thinnedTurns } from '../curve/thin-turns.ts';
import { quaternionBetween, quaternionExp, quaternionLog, quaternionMultiply } from '../pose/quaternion.ts';
import type { ChannelValue } from '../schema/channel.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { throughSlopes } from '../track/pieces.ts';

/** What a hand did while time went on: values of a channel, each at the frame it was there, in the order of the frames. */
export type Performed = readonly { readonly frame: number; readonly value: ChannelValue }[];

/** How a performance becomes keys. */
export interface PerformedHow {
  /** How much of the hand's trembling is taken out: frames over which it is evened, on each side; 0 leaves it as it was. */
  readonly smooth: number;
  /** How far the keys may be from what is then there, in the channel's unit (radians for turns). */
  readonly tolerance: number;
}

/**
 * The curve of a performance: a value on every whole frame, evened, with as few keys as keep it within the tolerance at every frame.
 * @returns null where it lasts for less than a frame
 */
export function performedCurve(performed: Performed, how: PerformedHow): Curve | null {
  const first = Math.ceil((performed[0]?.frame ?? 0) - 1e-6);
  const last = Math.floor((performed.at(-1)?.frame ?? 0) + 1e-6);
  if (performed.length < 2 || last <= first) return null;
  const turns = typeof performed[0].value !== 'number';
  return turns ? turnsOf(performed, first, last, how) : numbersOf(performed, first, last, how);
}

function numbersOf(
  performed: Performed,
  first: number,
  last: number,
  { smooth, tolerance }: PerformedHow,
): NumberCurve {
  const raw = Array.from({ length: last - first + 1 }, (_, i) => between(performed, first + i) as number);
  const values = evened(raw, smooth);
  // It goes through each value as its neighbours lie, at both ends as it comes and goes.
  const slopes = values.map((value, i) => {
    const [a, b] = [values[i - 1] ?? value, values[i + 1] ?? value];
    return (b - a) / (i === 0 || i === values.length - 1 ? 1 : 2);
  });
  const frames = values.map((_, i) => first + i);
  const keys = throughSlopes(frames, values, slopes).map((key) => ({ ...key, joined: true }));
  return thinned({ type: 'number', keys, before: 'hold', after: 'hold' }, tolerance).curve;
}

function turnsOf(performed: Performed, first: number, last: number, { tolerance }: PerformedHow): OrientationCurve {
  const keys = Array.from({ length: last - first + 1 }, (_, i): OrientationKey => {
    const value = between(performed, first + i) as Quaternion;
    return {
      frame: first + i,
      value: [...value],
      in: { kind: 'linear' },
      out: { kind: 'linear' },
      joined: true,
      role: 'key',
    };
  });
  return thinnedTurns({ type: 'orientation', keys, before: 'hold', after: 'hold' }, tolerance);
}

/** What was there on a frame, between the two places where the hand was seen. */
function between(performed: Performed, frame: number): ChannelValue {
  let i = performed.findIndex((p) => p.frame >= frame - 1e-9);
  if (i < 0) i = performed.length - 1;
  const [b, a] = [performed[i], performed[Math.max(0, i - 1)]];
  const t = b.frame > a.frame ? Math.min(1, Math.max(0, (frame - a.frame) / (b.frame - a.frame))) : 1;
  if (typeof a.value === 'number' && typeof b.value === 'number') return a.value + (b.value - a.value) * t;
  return turned(a.value as Quaternion, b.value as Quaternion, t);
}

/** So far on the shorter way from one turn to another. */
function turned(a: Quaternion, b: Quaternion, t: number): Quaternion {
  const way = quaternionBetween(a, b);
  const [x, y, z] = quaternionLog(way[3] < 0 ? [-way[0], -way[1], -way[2], -way[3]] : way);
  return quaternionMultiply(a, quaternionExp([x * t, y * t, z * t]));
}

/** Values evened by a bell over so many frames each side; both ends stay where they are, mirrored through themselves. */
export function evened(values: readonly number[], frames: number): number[] {
  const reach = Math.ceil(frames);
  if (reach < 1 || values.length < 3) return [...values];
  const bell = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-0.5 * ((k - reach) / (frames / 2)) ** 2));
  const whole = bell.reduce((sum, w) => sum + w, 0);
  const last = values.length - 1;
  const at = (i: number): number => {
    if (i < 0) return 2 * values[0] - values[Math.min(last, -i)];
    return i > last ? 2 * values[last] - values[Math.max(0, 2 * last - i)] : values[i];
  };
  return values.map((_, i) => bell.reduce((sum, w, k) => sum + w * at(i + k - reach), 0) / whole);
}
