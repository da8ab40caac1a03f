import { type Curve, SAME_FRAME } from '../curve/key.ts';
import { tidyFrame } from '../curve/reshape.ts';
import { sameHandle } from '../curve/same.ts';
import { type AnyKey, keysOfCurve } from '../curve/turn-back.ts';
import type { Clip } from '../document/clip.ts';

/** The keys of a cycle as they stand on a circle: the seam is one place like any other, and so is its key. */

/** Keys by their phase: frames from the clip's beginning, from 0 up to its length. */
export type Circle = Map<number, AnyKey>;

/** Where in a clip a frame is, from 0 up to its length. */
export function phaseOf({ first, length }: Pick<Clip, 'first' | 'length'>, frame: number): number {
  const phase = tidyFrame((((frame - first) % length) + length) % length);
  return phase > length - SAME_FRAME ? 0 : phase;
}

/**
 * The keys of a curve on the circle of a clip.
 *
 * What an edit did to one end of the seam counts for both: the end that differs from how it was decides, and an end that was
 * taken away takes the other along. A key brought to a place where another stands takes that place, if the other did not move.
 * @param before the curve before the edit
 */
export function circleOf(curve: Curve, clip: Clip, before: Curve | undefined): Circle {
  const circle: Circle = new Map();
  const old = new Set<unknown>(before?.keys);
  const ends = endsOf(curve, clip);
  const oldEnds = before ? endsOf(before, clip) : null;
  const torn = oldEnds?.first && oldEnds.last && !(ends.first && ends.last) && old.has(ends.first ?? ends.last);
  for (const key of keysOfCurve(curve)) {
    if (torn && (key === ends.first || key === ends.last)) continue;
    const phase = phaseOf(clip, key.frame);
    const there = circle.get(phase);
    if (!there || (old.has(there) && !old.has(key))) circle.set(phase, key);
  }
  return circle;
}

function endsOf(curve: Curve, { first, length }: Clip): { first?: AnyKey; last?: AnyKey } {
  const keys = keysOfCurve(curve);
  const at = (frame: number) => keys.find((k) => Math.abs(k.frame - frame) <= SAME_FRAME);
  return { first: at(first), last: at(first + length) };
}

/** A circle as a curve: from the clip's first frame to its last, with the key at the seam at both ends. */
export function laidOut(circle: Circle, type: Curve['type'], { first, length }: Clip): Curve | null {
  const phases = [...circle.keys()].sort((a, b) => a - b);
  if (phases.length === 0) return null;
  const put = (key: AnyKey, frame: number): AnyKey => (key.frame === frame ? key : { ...key, frame });
  const keys = phases.map((p) => put(circle.get(p)!, first + p));
  if (phases[0] === 0 && keys.length > 1) keys.push({ ...keys[0], frame: first + length });
  return { type, keys, before: 'cycle', after: 'cycle', period: length } as Curve;
}

/** Whether a curve is as `laidOut` would make it. */
export function isSealed(curve: Curve, clip: Clip): boolean {
  const { first, length } = clip;
  const keys = keysOfCurve(curve);
  if (curve.before !== 'cycle' || curve.after !== 'cycle' || curve.period !== length) return false;
  if (keys.some((k) => k.frame < first || k.frame > first + length)) return false;
  const ends = endsOf(curve, clip);
  if (!ends.first && !ends.last) return true;
  if (keys.length === 1) return ends.first !== undefined;
  return !!ends.first && !!ends.last && alike(ends.first, ends.last);
}

/** Whether two keys are the same but for their frame. */
export const alike = (a: AnyKey, b: AnyKey): boolean =>
  a === b ||
  (a.joined === b.joined &&
    a.role === b.role &&
    sameValue(a.value, b.value) &&
    sameHandle(a.in, b.in) &&
    sameHandle(a.out, b.out));

const sameValue = (a: AnyKey['value'], b: AnyKey['value']): boolean =>
  typeof a === 'number' || typeof b === 'number' ? a === b : a.every((v, i) => v === b[i]);
