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
 * Holds one channel of a foot through a stance: every key in it is put on one straight way. Where it is held already nothing changes.
 * @param circle the channel's keys; changed in place
 * @param touched phases an edit has changed: a key of the stance that a hand has put somewhere takes the whole of it there; of several
 *   the beginning leads, then the first
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
  const along = (phase: number) => phaseOf({ first: from, length }, phase);
  const isInside = (phase: number) => along(phase) > 0 && along(phase) < frames;
  const inside = [...circle.keys()].filter(isInside).sort((a, b) => along(a) - along(b));
  const at = (phase: number) => circle.get(phase) as Key | undefined;
  const posts = [from, ...inside, to];
  const leads = touched.has(from) ? from : (posts.find((p) => touched.has(p) && at(p)) ?? from);
  const start = (at(leads)?.value ?? valueAt(leads)) - speed * along(leads);
  const wanted = (phase: number) => start + speed * along(phase);
  const isHeld = (phase: number): boolean => {
    const key = at(phase);
    return (
      key !== undefined &&
      Math.abs(key.value - wanted(phase)) < SAME &&
      (phase === from || Math.abs(slopeOf(key.in, -1, speed) - speed) < SAME) &&
      (phase === to || Math.abs(slopeOf(key.out, 1, speed) - speed) < SAME)
    );
  };
  if (posts.every(isHeld)) return;
  const [last, next] = gaps(circle, from, to, length);
  posts.forEach((phase, i) => {
    const before = i === 0 ? last : along(phase) - along(posts[i - 1]);
    const after = i === posts.length - 1 ? next : along(posts[i + 1]) - along(phase);
    circle.set(phase, heldKey(at(phase), clip.first + phase, wanted(phase), speed, before / 3, after / 3));
  });
}

/** Frames from the beginning of a stance back to the key before it, and from its end on to the key after it. */
function gaps(circle: Circle, from: number, to: number, length: number): [last: number, next: number] {
  const air = phaseOf({ first: to, length }, from);
  const outside = [...circle.keys()].map((p) => phaseOf({ first: to, length }, p)).filter((p) => p > 0 && p < air);
  return outside.length > 0 ? [air - Math.max(...outside), Math.min(...outside)] : [air, air];
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
