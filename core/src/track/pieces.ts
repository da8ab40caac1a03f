import { closedCurve } from '../curve/closed.ts';
import { handleReach } from '../curve/handles.ts';
import { type InHandle, type Key, type NumberCurve, type OutHandle, SAME_FRAME } from '../curve/key.ts';
import { withSplit } from '../curve/split.ts';

/** Pieces of curves, whose keys say all there is to say: nothing of them follows a neighbour. */

const free = (frames: number, rise: number): InHandle => ({ kind: 'free', frames, rise });

const known = new WeakMap<NumberCurve, { readonly closed: NumberCurve; readonly keys: readonly Key[] }>();

/** A curve that is closed where it repeats, and its keys with handles that are what they are, whoever comes next to them. */
function pinned(curve: NumberCurve): { readonly closed: NumberCurve; readonly keys: readonly Key[] } {
  const there = known.get(curve);
  if (there) return there;
  const closed = closedCurve(curve);
  const made = { closed, keys: pinnedKeys(closed) };
  known.set(curve, made);
  return made;
}

function pinnedKeys(curve: NumberCurve): Key[] {
  return curve.keys.map((key, i): Key => {
    const [arrive, leave] = [handleReach(curve, i, 'in'), handleReach(curve, i, 'out')];
    return {
      ...key,
      in: arrive ? free(arrive.frames, arrive.rise) : { kind: 'flat' },
      out: leave ? free(leave.frames, leave.rise) : key.out.kind === 'stepped' ? key.out : { kind: 'flat' },
      joined: false,
    };
  });
}

/**
 * A curve between two frames, with a key on both, exactly as it is there; one that repeats is laid out round by round.
 * @param map from its frames to others @param scale how many of those a frame of it is
 */
export function pieceOf(
  curve: NumberCurve,
  from: number,
  to: number,
  map: (frame: number) => number,
  scale: number,
): Key[] {
  const { closed, keys } = pinned(curve);
  const [first, last] = [keys[0], keys[keys.length - 1]];
  const period = last.frame - first.frame;
  const rounds: Key[] = [];
  if (keys.length > 1 && period > 0 && (closed.after === 'cycle' || closed.after === 'travel')) {
    const gain = closed.after === 'travel' ? last.value - first.value : 0;
    for (let n = Math.floor((from - first.frame) / period); n <= Math.ceil((to - first.frame) / period); n++)
      keys.forEach((key, i) => {
        const here = { ...key, frame: key.frame + n * period, value: key.value + n * gain };
        const before = rounds[rounds.length - 1];
        // The key at the seam is the end of one round and the beginning of the next.
        if (i === 0 && before && Math.abs(before.frame - here.frame) < SAME_FRAME)
          rounds[rounds.length - 1] = { ...before, out: here.out };
        else rounds.push(here);
      });
  } else rounds.push(...keys);
  const level = (frame: number, value: number): Key => ({
    frame,
    value,
    in: { kind: 'flat' },
    out: { kind: 'flat' },
    joined: false,
    role: 'key',
  });
  // Beyond its keys it stays.
  if (rounds[0].frame > from) rounds.unshift(level(from, rounds[0].value));
  if (rounds[rounds.length - 1].frame < to) rounds.push(level(to, rounds[rounds.length - 1].value));
  const whole: NumberCurve = { type: 'number', keys: rounds, before: 'hold', after: 'hold' };
  const cut = withSplit(withSplit(whole, from), to);
  return cut.keys
    .filter((k) => k.frame >= from - SAME_FRAME && k.frame <= to + SAME_FRAME)
    .map((k) => ({ ...k, frame: map(k.frame), in: scaled(k.in, scale), out: scaled(k.out, scale) }));
}

const scaled = <H extends InHandle | OutHandle>(handle: H, by: number): H =>
  handle.kind === 'free' ? { ...handle, frames: handle.frames * by } : handle;

/** Keys through values that go on at slopes, each stretch a cubic (Hermite). */
export function throughSlopes(frames: readonly number[], values: readonly number[], slopes: readonly number[]): Key[] {
  return frames.map((frame, i) => {
    const [back, on] = [frame - (frames[i - 1] ?? frame), (frames[i + 1] ?? frame) - frame];
    return keyAt(frame, values[i], back, (-slopes[i] * back) / 3, on, (slopes[i] * on) / 3);
  });
}

/** A key with free handles that reach a third of the way to its neighbours. @param back how far the one before is; 0 where there is none */
const keyAt = (frame: number, value: number, back: number, into: number, on: number, out: number): Key => ({
  frame,
  value,
  in: back > 0 ? free(back / 3, into) : { kind: 'flat' },
  out: on > 0 ? free(on / 3, out) : { kind: 'flat' },
  joined: false,
  role: 'key',
});

/** How far from a cubic the way between two keys may be before there is one more between them; in the channel's unit. */
const NO_CUBIC = 2e-5;
/** As many frames a stretch has at most, and as often it is halved. */
const LONGEST = 4;
const MOST_HALVED = 5;

/** Keys for what is read between two frames: cubics through four places of each stretch, which is halved where they are not what is read. */
export function throughCubics(read: (frame: number) => number, from: number, to: number): Key[] {
  const keys: Key[] = [];
  let [into, back] = [0, 0];
  const put = (start: number, end: number, a: number, d: number, halved: number): void => {
    const long = end - start;
    const [b, c] = [read(start + long / 3), read(start + (2 * long) / 3)];
    const out = (-5 * a + 18 * b - 9 * c + 2 * d) / 6;
    const come = (2 * a - 9 * b + 18 * c - 5 * d) / 6;
    const isThere = (t: number) => {
      const u = 1 - t;
      const value = u * u * u * a + 3 * u * u * t * out + 3 * u * t * t * come + t * t * t * d;
      return Math.abs(value - read(start + t * long)) < NO_CUBIC;
    };
    if (halved === MOST_HALVED || (isThere(0.5) && isThere(1 / 6) && isThere(5 / 6))) {
      keys.push(keyAt(start, a, back, into, long, out - a));
      [into, back] = [come - d, long];
      return;
    }
    const middle = start + long / 2;
    const m = read(middle);
    put(start, middle, a, m, halved + 1);
    put(middle, end, m, d, halved + 1);
  };
  const count = Math.max(1, Math.ceil((to - from) / LONGEST));
  let value = read(from);
  for (let i = 0; i < count; i++) {
    const [start, end] = [from + ((to - from) * i) / count, from + ((to - from) * (i + 1)) / count];
    const next = read(end);
    put(start, end, value, next, 0);
    value = next;
  }
  keys.push(keyAt(to, value, back, into, 0, 0));
  return keys;
}

/** How long before a jump what was before it holds. */
const JUMP = 1e-3;

/** Pieces one after another as one curve. Where one ends elsewhere than the next begins it jumps there. */
export function joinedPieces(pieces: readonly (readonly Key[])[]): Key[] {
  const out: Key[] = [];
  for (const piece of pieces) {
    if (piece.length === 0) continue;
    const [start] = piece;
    const before = out[out.length - 1];
    if (!before || before.frame < start.frame - SAME_FRAME) out.push(...piece);
    else if (Math.abs(before.value - start.value) < 1e-12) {
      out[out.length - 1] = { ...before, out: start.out };
      out.push(...piece.slice(1));
    } else {
      const held: Key = { ...before, frame: before.frame - JUMP, out: { kind: 'stepped' } };
      // Where a key stands there already, that one holds.
      const stands = out[out.length - 2];
      if (stands && stands.frame > held.frame - SAME_FRAME) out.splice(-2, 2, { ...stands, out: held.out });
      else out[out.length - 1] = held;
      out.push(...piece);
    }
  }
  return out;
}
