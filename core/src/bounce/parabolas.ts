import type { Key, NumberCurve } from '../curve/key.ts';
import { keyIndexAt } from '../curve/reshape.ts';
import { withSplit } from '../curve/split.ts';
import { type Contact, speedOf } from './bounces.ts';

/**
 * Parabolas from keys. A cubic with handles of a third of the way draws a parabola exactly, wherever on it its keys stand; so a
 * fall is right when its slopes are.
 */

/** A handle of a third of the way that leaves a key, or arrives at it, at a slope in value per frame. */
export const slopeHandle = (
  side: 'in' | 'out',
  frames: number,
  slope: number,
): { kind: 'free'; frames: number; rise: number } => ({
  kind: 'free',
  frames: frames / 3,
  rise: ((side === 'out' ? slope : -slope) * frames) / 3,
});

/** A curve on which a contact is sharp: its fall arrives, and its rise leaves, at the speed of a free fall. */
export function withSharpContact(curve: NumberCurve, contact: Contact): NumberCurve {
  let next = withSplit(curve, contact.frame);
  const falls = keyIndexAt(next.keys, contact.frame);
  if (falls < 0) return curve;
  next = shapedLeg(next, contact.fall.top, contact.frame, contact.value + contact.fall.height, contact.value);
  if (contact.rise) {
    next = shapedLeg(next, contact.until, contact.rise.top, contact.value, contact.value + contact.rise.height);
    return next;
  }
  return next;
}

/**
 * Gives the keys from one frame to another the slopes of the half parabola that has its level end at the higher value. Keys
 * between the two are put onto it.
 */
export function shapedLeg(curve: NumberCurve, from: number, to: number, start: number, end: number): NumberCurve {
  const frames = to - from;
  const [top, foot] = start > end ? [from, to] : [to, from];
  const [high, height] = [Math.max(start, end), Math.abs(start - end)];
  const fall = (2 * height) / (frames * frames);
  const slope = (frame: number) => -fall * (frame - top);
  const value = (frame: number) => high - (fall * (frame - top) ** 2) / 2;
  const inside = (k: Key) => k.frame > from + 1e-6 && k.frame < to - 1e-6;
  const near = (k: Key, frame: number) => Math.abs(k.frame - frame) <= 1e-6;
  const { keys } = curve;
  return {
    ...curve,
    keys: keys.map((key, i): Key => {
      const back = i > 0 ? key.frame - keys[i - 1].frame : 0;
      const on = i + 1 < keys.length ? keys[i + 1].frame - key.frame : 0;
      const arrive = slopeHandle('in', back, slope(key.frame));
      const leave = slopeHandle('out', on, slope(key.frame));
      if (inside(key)) return { ...key, value: value(key.frame), in: arrive, out: leave, joined: true };
      if (near(key, from)) return { ...key, out: leave, joined: foot === from ? false : key.joined };
      if (near(key, to)) return { ...key, in: arrive, joined: foot === to ? false : key.joined };
      return key;
    }),
  };
}

/** The speed at which a contact should be reached for its fall, value per frame; above 0. */
export const dueSpeed = (contact: Contact): number => speedOf(contact.fall);
