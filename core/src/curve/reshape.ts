import { type Quaternion, withinBounds } from '../schema/numbers.ts';
import { handleReach, LEAST_REACH } from './handles.ts';
import {
  type Curve,
  type InHandle,
  type Key,
  type NumberCurve,
  type OrientationCurve,
  type OrientationKey,
  type OutHandle,
  type PlainKind,
  SAME_FRAME,
  smoothKey,
  type Tuning,
} from './key.ts';
import { compileOrientation, orientationAt } from './orientation.ts';

/** Pure changes of one curve: each returns a new curve and leaves the given one alone. Keys stay in order. */

/** The index of the key on a frame, or -1. */
export function keyIndexAt(keys: readonly { frame: number }[], frame: number): number {
  let low = 0;
  let high = keys.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const gap = keys[middle].frame - frame;
    if (Math.abs(gap) <= SAME_FRAME) return middle;
    if (gap < 0) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}

/**
 * Sets the value on a frame. A key that is there keeps its shape; a new one is smooth, or carries on the way of the
 * stretch it falls into where that is stepped or linear.
 */
export function withKey(curve: NumberCurve | undefined, frame: number, value: number): NumberCurve {
  if (!curve) return { type: 'number', keys: [smoothKey(frame, value)], before: 'hold', after: 'hold' };
  const at = keyIndexAt(curve.keys, frame);
  if (at >= 0) return { ...curve, keys: curve.keys.with(at, { ...curve.keys[at], value }) };
  return { ...curve, keys: insert(curve.keys, { ...carriedOn(curve.keys, frame), frame, value }) };
}

export function withOrientationKey(
  curve: OrientationCurve | undefined,
  frame: number,
  value: Quaternion,
): OrientationCurve {
  const fresh: OrientationKey = {
    frame,
    value: [...value],
    in: { kind: 'smooth' },
    out: { kind: 'smooth' },
    joined: true,
    role: 'key',
  };
  if (!curve) return { type: 'orientation', keys: [fresh], before: 'hold', after: 'hold' };
  const at = keyIndexAt(curve.keys, frame);
  if (at >= 0) return { ...curve, keys: curve.keys.with(at, { ...curve.keys[at], value: [...value] }) };
  return { ...curve, keys: insert(curve.keys, fresh) };
}

function carriedOn(keys: readonly Key[], frame: number): Omit<Key, 'frame' | 'value'> {
  const before = keys.findLast((k) => k.frame < frame);
  const out = before?.out.kind;
  if (out === 'stepped') return { in: { kind: 'linear' }, out: { kind: 'stepped' }, joined: false, role: 'key' };
  if (out === 'linear') return { in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false, role: 'key' };
  return { in: { kind: 'smooth' }, out: { kind: 'smooth' }, joined: true, role: 'key' };
}

function insert<K extends { frame: number }>(keys: readonly K[], key: K): K[] {
  const at = keys.findIndex((k) => k.frame > key.frame);
  return keys.toSpliced(at < 0 ? keys.length : at, 0, key);
}

/** Takes the keys on these frames away; null when none is left. */
export function withoutKeys<C extends Curve>(curve: C, frames: readonly number[]): C | null {
  const drop = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
  const keys = (curve.keys as readonly { frame: number }[]).filter((_, i) => !drop.has(i));
  if (keys.length === 0) return null;
  return { ...curve, keys };
}

/** A frame that is whole but for rounding is whole. */
export const tidyFrame = (frame: number): number =>
  Math.abs(frame - Math.round(frame)) <= SAME_FRAME ? Math.round(frame) : frame;

/**
 * Sets the kind of a key's handles. Going over to `free` keeps the shape: the handle stays where it was.
 * `stepped` concerns only the way out of the key.
 */
export function withHandleKind<C extends Curve>(
  curve: C,
  frame: number,
  side: 'in' | 'out' | 'both',
  kind: PlainKind,
): C {
  const index = keyIndexAt(curve.keys, frame);
  if (index < 0) return curve;
  if (curve.type === 'orientation') {
    if (kind === 'free') return curve;
    const key = { ...curve.keys[index] };
    if (side !== 'in') key.out = { kind };
    if (side !== 'out' && kind !== 'stepped') key.in = { kind };
    return { ...curve, keys: (curve.keys as OrientationKey[]).with(index, key) };
  }
  const key: Key = { ...curve.keys[index] };
  if (side !== 'in') key.out = handleOf(curve, index, 'out', kind);
  if (side !== 'out' && kind !== 'stepped') key.in = handleOf(curve, index, 'in', kind) as InHandle;
  // Only level and smooth handles point one way on both sides by themselves.
  if (side === 'both') key.joined = kind === 'smooth' || kind === 'flat' ? true : kind === 'free' && key.joined;
  else key.joined = false;
  return { ...curve, keys: (curve.keys as Key[]).with(index, key) };
}

function handleOf(curve: NumberCurve, index: number, side: 'in' | 'out', kind: PlainKind): OutHandle {
  if (kind !== 'free') return { kind };
  const reach = handleReach(curve, index, side);
  return { kind: 'free', frames: reach?.frames ?? 1, rise: reach?.rise ?? 0 };
}

/** Says a key's shape in tension, continuity and bias, on both sides. */
export function withTuning(curve: NumberCurve, frame: number, tuning: Tuning): NumberCurve {
  const index = keyIndexAt(curve.keys, frame);
  if (index < 0) return curve;
  const handle = { kind: 'tuned' as const, ...tuning };
  const key: Key = { ...curve.keys[index], in: handle, out: handle, joined: tuning.continuity === 0 };
  return { ...curve, keys: curve.keys.with(index, key) };
}

/** A key's shape by what it makes of the way to its neighbours, so that it can be carried to keys further apart. */
export interface ShapeOfKey {
  readonly in: ShapeSide;
  readonly out: ShapeSide;
  readonly joined: boolean;
}
type ShapeSide =
  | { readonly kind: 'as'; readonly handle: InHandle | OutHandle }
  /** Shares of the frames and of the rise to the neighbour; where the neighbour is level, the rise itself. */
  | { readonly kind: 'share'; readonly frames: number; readonly share: number | null; readonly rise: number };

/** Two values nearer than this are level: there is no share of nothing. */
const LEVEL = 1e-9;

/** The shape of a key, to be given to others with `withShape`. */
export function shapeOf(curve: NumberCurve, index: number): ShapeOfKey {
  const side = (which: 'in' | 'out'): ShapeSide => {
    const handle = curve.keys[index][which];
    const other = curve.keys[which === 'in' ? index - 1 : index + 1];
    if (handle.kind !== 'free' || !other) return { kind: 'as', handle };
    const gap = Math.abs(other.frame - curve.keys[index].frame);
    const climb = other.value - curve.keys[index].value;
    const reach = handleReach(curve, index, which) ?? handle;
    return {
      kind: 'share',
      frames: reach.frames / gap,
      share: Math.abs(climb) > LEVEL ? reach.rise / climb : null,
      rise: reach.rise,
    };
  };
  return { in: side('in'), out: side('out'), joined: curve.keys[index].joined };
}

/** Gives a key the shape of another: a sharp landing stays as sharp for a small bounce as it was for a high one. */
export function withShape(curve: NumberCurve, frame: number, shape: ShapeOfKey): NumberCurve {
  const index = keyIndexAt(curve.keys, frame);
  if (index < 0) return curve;
  const key = curve.keys[index];
  const handle = <H extends InHandle | OutHandle>(which: 'in' | 'out', side: ShapeSide): H => {
    if (side.kind === 'as') return side.handle as H;
    const other = curve.keys[which === 'in' ? index - 1 : index + 1];
    if (!other) return key[which] as H;
    const gap = other.value - key.value;
    const rise = side.share === null || Math.abs(gap) <= LEVEL ? side.rise : side.share * gap;
    return { kind: 'free', frames: side.frames * Math.abs(other.frame - key.frame), rise: withinBounds(rise) } as H;
  };
  const shaped: Key = { ...key, in: handle('in', shape.in), out: handle('out', shape.out), joined: shape.joined };
  const agree = Math.abs(slopeOf(shaped.in, -1) - slopeOf(shaped.out, 1)) < 1e-9;
  const free = shaped.in.kind === 'free' && shaped.out.kind === 'free';
  return { ...curve, keys: curve.keys.with(index, free && !agree ? { ...shaped, joined: false } : shaped) };
}

const slopeOf = (handle: InHandle | OutHandle, direction: 1 | -1) =>
  handle.kind === 'free' && handle.frames > LEAST_REACH ? (direction * handle.rise) / handle.frames : 0;

/**
 * Sets where a handle ends. While the key is joined the other handle turns with it, keeping its length in frames.
 * @param frames reach away from the key, in frames; what is negative counts as 0
 */
export function withHandle(
  curve: NumberCurve,
  frame: number,
  side: 'in' | 'out',
  frames: number,
  rise: number,
): NumberCurve {
  const index = keyIndexAt(curve.keys, frame);
  if (index < 0) return curve;
  const reach = Math.max(0, frames);
  const key: Key = { ...curve.keys[index], [side]: { kind: 'free', frames: reach, rise } };
  const other = side === 'in' ? 'out' : 'in';
  if (key.joined && key.out.kind !== 'stepped') {
    const length = handleReach(curve, index, other)?.frames ?? 1;
    const slope = reach >= LEAST_REACH ? rise / reach : 0;
    key[other] = { kind: 'free', frames: length, rise: withinBounds(-slope * length) };
  }
  return { ...curve, keys: curve.keys.with(index, key) };
}

/** Breaks or joins a key's two handles. Joining turns both onto their common direction. */
export function withJoined(curve: NumberCurve, frame: number, joined: boolean): NumberCurve {
  const index = keyIndexAt(curve.keys, frame);
  if (index < 0 || curve.keys[index].joined === joined) return curve;
  const key: Key = { ...curve.keys[index], joined };
  const agree = key.in.kind === key.out.kind && (key.in.kind === 'smooth' || key.in.kind === 'flat');
  if (joined && !agree && key.out.kind !== 'stepped') {
    const into = handleReach(curve, index, 'in') ?? { frames: 1, rise: 0 };
    const outOf = handleReach(curve, index, 'out') ?? { frames: 1, rise: 0 };
    const reach = into.frames + outOf.frames;
    const slope = reach >= LEAST_REACH ? (outOf.rise - into.rise) / reach : 0;
    key.in = { kind: 'free', frames: into.frames, rise: withinBounds(-slope * into.frames) };
    key.out = { kind: 'free', frames: outOf.frames, rise: withinBounds(slope * outOf.frames) };
  }
  return { ...curve, keys: curve.keys.with(index, key) };
}

/** The orientation of a curve at one frame. */
export function orientationValueAt(curve: OrientationCurve, frame: number): Quaternion {
  const out = new Float64Array(4);
  orientationAt(compileOrientation(curve), frame, out, 0);
  return [out[0], out[1], out[2], out[3]];
}
