import type { Key } from '../curve/key.ts';
import type { Clip, Stance } from '../document/clip.ts';
import { type Circle, phaseOf } from './circle.ts';

/**
 * Feet held to the ground: while a foot is down its place goes straight back under the body, as fast as the body travels, and
 * nothing else of it changes but its roll over heel, ball and toe.
 */

/** The channels of a foot's control that a stance holds. */
export const heldChannels = ['move.x', 'move.y', 'move.z', 'turn.x', 'turn.y', 'turn.z'] as const;

/** How fast a channel of a foot on the ground changes, a frame. */
export const groundSpeed = ({ travel, length }: Pick<Clip, 'travel' | 'length'>, channel: string): number =>
  channel === 'move.z' ? -travel / length : 0;

/** Values, and rises a frame, nearer than this are the same: arithmetic is not a hand. */
const SAME = 1e-9;

/**
 * Holds one channel of a foot through a stance. Where it is held already nothing changes.
 * @param circle the channel's keys; changed in place
 * @param touched phases an edit has changed: where it has changed the end of the stance and not its beginning, the end leads
 * @param valueAt what the channel shows at a phase where it has no key
 */
export function holdStance(
  circle: Circle,
  stance: Stance,
  clip: Clip,
  speed: number,
  touched: ReadonlySet<number>,
  valueAt: (phase: number) => number,
): void {
  const { length } = clip;
  const frames = stance.to - stance.from;
  if (circle.size === 0 || frames >= length) return;
  const from = phaseOf({ first: 0, length }, stance.from);
  const to = phaseOf({ first: 0, length }, stance.to);
  const begin = circle.get(from) as Key | undefined;
  const end = circle.get(to) as Key | undefined;
  const inside = [...circle.keys()].filter((p) => {
    const along = phaseOf({ first: from, length }, p);
    return along > 0 && along < frames;
  });
  const leads = touched.has(to) && !touched.has(from) && end !== undefined;
  const start = leads ? end.value - speed * frames : (begin?.value ?? valueAt(from));
  const finish = start + speed * frames;
  const straight =
    begin !== undefined &&
    end !== undefined &&
    Math.abs(begin.value - start) < SAME &&
    Math.abs(end.value - finish) < SAME &&
    Math.abs(slopeOf(begin.out, 1, speed) - speed) < SAME &&
    Math.abs(slopeOf(end.in, -1, speed) - speed) < SAME;
  if (straight && inside.length === 0) return;
  for (const phase of inside) circle.delete(phase);
  const gap = (length - frames) / 3;
  circle.set(from, heldKey(begin, clip.first + from, start, speed, gap, frames / 3));
  circle.set(to, heldKey(end, clip.first + to, finish, speed, frames / 3, gap));
}

/** The slope of a handle forward in time, where it says one; one that points at its neighbour goes with the ground here. */
const slopeOf = (handle: Key['in'] | Key['out'], direction: 1 | -1, ground: number): number => {
  if (handle.kind === 'free' && handle.frames > 0) return (direction * handle.rise) / handle.frames;
  if (handle.kind === 'linear') return ground;
  return handle.kind === 'flat' ? 0 : Number.NaN;
};

/** A key at which something on the ground goes straight on, before it and after it. */
export function heldKey(
  old: Key | undefined,
  frame: number,
  value: number,
  speed: number,
  before: number,
  after: number,
): Key {
  const flat = speed === 0;
  return {
    frame,
    value,
    in: flat ? { kind: 'flat' } : { kind: 'free', frames: before, rise: -speed * before },
    out: flat ? { kind: 'flat' } : { kind: 'free', frames: after, rise: speed * after },
    joined: true,
    role: old?.role ?? 'key',
  };
}
