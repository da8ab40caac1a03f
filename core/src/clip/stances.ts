import type { Key } from '../curve/key.ts';
import type { Clip, Stance } from '../document/clip.ts';
import { type Circle, phaseOf } from './circle.ts';

/**
 * Feet held to the ground: while a foot is down what touches the ground goes straight back under the body, as fast as the body
 * travels. How the foot rolls meanwhile is the animator's: by its dials, or turned by its control, which then goes on and up as much
 * as keeps what touches in its place.
 */

/** The channels of a foot's control that a stance holds: how it is turned before where it is. */
export const turns = ['turn.x', 'turn.y', 'turn.z'] as const;
export const moves = ['move.x', 'move.y', 'move.z'] as const;
export const heldChannels = [...moves, ...turns] as const;

/** How fast a channel of a foot on the ground changes, a frame. */
export const groundSpeed = ({ travel, length }: Pick<Clip, 'travel' | 'length'>, channel: string): number =>
  channel === 'move.z' ? -travel / length : 0;

/** Values, and rises a frame, nearer than this are the same: arithmetic is not a hand. */
const SAME = 1e-6;

/** Where keys alone leave a foot further from its way than this on a whole frame, metres, one more is put there. */
const ASTRAY = 2e-4;

/** Frames over which the slope of a way is measured. */
const NEAR = 1e-3;

/** The way a channel of a foot takes while it stands. */
export interface GroundWay {
  /** How fast the ground takes it along, a frame. */
  readonly speed: number;
  /** What it gives way to at a phase, as the foot rolls; null where that is nothing throughout. */
  readonly shift: ((phase: number) => number) | null;
}

/**
 * Holds one channel of a foot through a stance: every key in it is put on its way over the ground. Where it is held already nothing
 * changes. No key goes; the ends of the stance get one, and so do frames where the foot rolls so that keys alone would lead it astray.
 * @param circle the channel's keys; changed in place
 * @param touched phases an edit has changed: a key of the stance that a hand has put somewhere takes the whole of it there; of several
 *   the beginning leads, then the first
 * @param valueAt what the channel shows at a phase where it has no key
 */
export function holdStance(
  circle: Circle,
  stance: Stance,
  clip: Clip,
  { speed, shift }: GroundWay,
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
  const own = [from, ...inside, to];
  const leads = touched.has(from) ? from : (own.find((p) => touched.has(p) && at(p)) ?? from);
  const way = (phase: number) => speed * along(phase) - (shift ? shift(phase) : 0);
  const start = (at(leads)?.value ?? valueAt(leads)) - way(leads);
  const wanted = (phase: number) => start + way(phase);
  const slope = (phase: number, side: 1 | -1) =>
    shift ? speed - (side * (shift(phase + side * NEAR) - shift(phase))) / NEAR : speed;
  // Before its beginning and after its end the foot is in the air: there it goes on as it goes on the ground.
  const slopes = (phase: number): Slopes => [
    slope(phase, phase === from ? 1 : -1),
    slope(phase, phase === to ? -1 : 1),
  ];
  const isHeld = (phase: number): boolean => {
    const key = at(phase);
    if (!key || Math.abs(key.value - wanted(phase)) >= SAME) return false;
    const [before, after] = slopes(phase);
    return (
      (phase === from || Math.abs(slopeOf(key.in, -1, speed) - before) < SAME) &&
      (phase === to || Math.abs(slopeOf(key.out, 1, speed) - after) < SAME)
    );
  };
  const posts = shift ? withRolls(own, along, from, length, wanted, slopes) : own;
  if (posts.every(isHeld)) return;
  const [last, next] = gaps(circle, from, to, length);
  posts.forEach((phase, i) => {
    const before = i === 0 ? last : along(phase) - along(posts[i - 1]);
    const after = i === posts.length - 1 ? next : along(posts[i + 1]) - along(phase);
    circle.set(phase, heldKey(at(phase), clip.first + phase, wanted(phase), slopes(phase), before / 3, after / 3));
  });
}

/** Turns nearer than this are one and the same to a foot that stands, radians: half a degree. */
const SAME_TURN = Math.PI / 360;

/**
 * Whether a foot stands turned one way through a stance: none of its keys there is turned otherwise. A turn that a hand has keyed into a
 * stance is a roll, and stays.
 */
export function isOneTurn(circle: Circle, stance: Stance, length: number): boolean {
  const from = phaseOf({ first: 0, length }, stance.from);
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const [phase, { value }] of circle) {
    if (typeof value !== 'number' || phaseOf({ first: from, length }, phase) > stance.to - stance.from) continue;
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return high - low < SAME_TURN || high < low;
}

/** How steep a key is before it and after it, a frame. */
export type Slopes = readonly [before: number, after: number];

/** The posts of a stance with more of them on whole frames, until the way between any two is the one that is wanted. */
function withRolls(
  posts: readonly number[],
  along: (phase: number) => number,
  from: number,
  length: number,
  wanted: (phase: number) => number,
  slopes: (phase: number) => Slopes,
): number[] {
  const out = [...posts];
  for (let i = 0; i < out.length - 1; ) {
    const [a, b] = [along(out[i]), along(out[i + 1])];
    const span = b - a;
    const [value, slope] = [wanted(out[i]), slopes(out[i])[1]];
    const [end, endSlope] = [wanted(out[i + 1]), slopes(out[i + 1])[0]];
    let worst = { phase: -1, off: ASTRAY };
    for (let f = Math.floor(a) + 1; f < b; f++) {
      const t = (f - a) / span;
      const u = 1 - t;
      const kept = u * u * (1 + 2 * t) * value + t * t * (1 + 2 * u) * end + t * u * span * (u * slope - t * endSlope);
      const phase = phaseOf({ first: 0, length }, from + f);
      const off = Math.abs(kept - wanted(phase));
      if (off > worst.off) worst = { phase, off };
    }
    if (worst.phase < 0) i++;
    else out.splice(i + 1, 0, worst.phase);
  }
  return out;
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

/** A key at which something goes as steep as is said before it and after it. */
export function heldKey(
  old: Key | undefined,
  frame: number,
  value: number,
  [steepBefore, steepAfter]: Slopes,
  before: number,
  after: number,
): Key {
  const flat = Math.abs(steepBefore) < 1e-12 && Math.abs(steepAfter) < 1e-12;
  return {
    frame,
    value,
    in: flat ? { kind: 'flat' } : { kind: 'free', frames: before, rise: -steepBefore * before },
    out: flat ? { kind: 'flat' } : { kind: 'free', frames: after, rise: steepAfter * after },
    joined: Math.abs(steepBefore - steepAfter) < SAME,
    role: old?.role ?? 'key',
  };
}
