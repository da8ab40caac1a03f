import { bezierParameter } from './bezier.ts';
import { handleReach } from './handles.ts';
import type { InHandle, Key, NumberCurve, OutHandle } from './key.ts';
import { keyIndexAt } from './reshape.ts';

/**
 * Puts a key on a curve without changing it anywhere: the Bézier the frame falls into is cut in two there (de Casteljau).
 * Handles that follow their neighbours are pinned where the new key would turn them.
 * @returns the curve itself where there is a key already, and beyond the keys
 */
export function withSplit(curve: NumberCurve, frame: number): NumberCurve {
  const { keys } = curve;
  if (keyIndexAt(keys, frame) >= 0 || frame < keys[0].frame || frame > keys[keys.length - 1].frame) return curve;
  const i = keys.findLastIndex((k) => k.frame < frame);
  const [a, b] = [keys[i], keys[i + 1]];
  if (a.out.kind === 'stepped') {
    const held: Key = { ...a, frame, in: { kind: 'linear' }, joined: false };
    return { ...curve, keys: keys.toSpliced(i + 1, 0, held) };
  }
  const pinned = withPinned(withPinned(curve, i, 'in'), i + 1, 'out').keys;
  const leave = handleReach(curve, i, 'out')!;
  const arrive = handleReach(curve, i + 1, 'in')!;
  const gap = b.frame - a.frame;
  const share = (frame - a.frame) / gap;
  const u = bezierParameter(leave.frames / gap, 1 - arrive.frames / gap, share, 1 - share);
  const [left, right] = [
    cut([0, leave.frames, gap - arrive.frames, gap], u),
    cut([0, leave.rise, b.value - a.value + arrive.rise, b.value - a.value], u),
  ];
  const free = (frames: number, rise: number): InHandle => ({ kind: 'free', frames: Math.max(0, frames), rise });
  const middle: Key = {
    frame,
    value: a.value + right.middle,
    in: free(left.middle - left.before, right.before - right.middle),
    out: free(left.after - left.middle, right.after - right.middle),
    joined: true,
    role: 'key',
  };
  const first: Key = { ...pinned[i], out: free(left.first, right.first) };
  const last: Key = { ...pinned[i + 1], in: free(gap - left.last, right.last - (b.value - a.value)) };
  return { ...curve, keys: pinned.toSpliced(i, 2, first, middle, last) };
}

/** The points of a cubic cut at `u`: of the first half its handle, its second handle and its end, and so on. */
function cut([p0, p1, p2, p3]: readonly [number, number, number, number], u: number) {
  const mix = (a: number, b: number) => a + (b - a) * u;
  const [q0, q1, q2] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)];
  const [before, after] = [mix(q0, q1), mix(q1, q2)];
  return { first: q0, before, middle: mix(before, after), after, last: q2 };
}

/** A curve on which one handle no longer follows the neighbours: it is free, and where it was. */
export function withPinned(curve: NumberCurve, index: number, side: 'in' | 'out'): NumberCurve {
  const key = curve.keys[index];
  const handle: InHandle | OutHandle = key[side];
  if (handle.kind !== 'smooth' && handle.kind !== 'tuned') return curve;
  const reach = handleReach(curve, index, side);
  if (!reach) return curve;
  return { ...curve, keys: curve.keys.with(index, { ...key, [side]: { kind: 'free', ...reach } }) };
}
