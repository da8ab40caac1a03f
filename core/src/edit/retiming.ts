import type { Curve } from '../curve/key.ts';
import { keyIndexAt, tidyFrame } from '../curve/reshape.ts';
import { type AnyKey, keysOfCurve, stretchedKey, turnedBack } from '../curve/turn-back.ts';
import type { Shot } from '../document/shot.ts';
import { FRAMES, withinBounds } from '../schema/numbers.ts';

/** Keys picked by hand: for each channel path the frames of its keys. */
export type KeySelection = Readonly<Record<string, readonly number[]>>;

/** A change of when keys are. */
export type Retiming =
  | { readonly kind: 'move'; readonly by: number }
  /** `factor` 0.5 is twice as fast. `whole`: keys that can, land on whole frames. */
  | { readonly kind: 'scale'; readonly about: number; readonly factor: number; readonly whole: boolean }
  /** Played backwards between the first and the last of the picked keys. */
  | { readonly kind: 'reverse' }
  /** Each to the nearest whole frame. */
  | { readonly kind: 'whole' }
  /** Each to the nearest of these frames, which are in order: onto the beats of a sound. Of several the first has it, and none goes past another. */
  | { readonly kind: 'onto'; readonly frames: readonly number[] };

/**
 * What happens to the other keys where picked ones would land on them or go past them. `replace`: a key that is landed on
 * goes. `push`: keys in the way are moved along. `stop`: the picked keys halt a frame before the first one in the way.
 */
export const collisionAnswers = ['replace', 'push', 'stop'] as const;
export type CollisionAnswer = (typeof collisionAnswers)[number];

/** What a retiming will do, before it is done. */
export interface RetimingPlan {
  /** The shot it is for. */
  readonly shot: Shot;
  /** The retiming as it will be done: `stop` may shorten it. */
  readonly how: Retiming;
  readonly collision: CollisionAnswer;
  readonly stopped: boolean;
  /** It would have led beyond the frames a document can hold, and so leads nowhere. */
  readonly outside: boolean;
  readonly replaced: number;
  readonly pushed: number;
  /** Keys that stay between frames, because the whole frame is taken. */
  readonly between: number;
  /** Where the picked keys will be. */
  readonly keys: KeySelection;
  readonly curves: readonly CurvePlan[];
}

interface CurvePlan {
  readonly path: string;
  readonly curve: Curve;
  /** Places of the picked keys in the curve, in order, and the frames they go to. */
  readonly picked: readonly number[];
  readonly frames: readonly number[];
  readonly room: Room;
}

/** What becomes of the keys that are not picked. */
interface Room {
  /** Frames of the other keys, those that stay where they are their own. Null where all of them stay, and the picked ones between them. */
  readonly others: ReadonlyMap<number, number> | null;
  readonly gone: ReadonlySet<number>;
}
const UNTOUCHED: Room = { others: null, gone: new Set() };

/** Keys keep this much apart, in frames, when they push or stop one another; less where they were closer before. */
const APART = 1;

/**
 * Works out a retiming of picked keys without doing it.
 * @param copy the picked keys stay, and copies of them go
 */
export function planRetiming(
  shot: Shot,
  keys: KeySelection,
  wanted: Retiming,
  collision: CollisionAnswer,
  copy = false,
): RetimingPlan {
  const sources = pickedOf(shot, keys);
  const how = collision === 'stop' ? stopped(sources, wanted, copy) : wanted;
  const landed = landings(sources, how);
  // What would leave the frames a document can hold stays where it is.
  const fits = landed.every(({ frames }) => frames.every((f) => f >= FRAMES.first && f <= FRAMES.last));
  return fits
    ? { ...planOf(shot, sources, landed, how, collision, copy), stopped: how !== wanted }
    : { ...planOf(shot, sources, landings(sources, NOTHING), NOTHING, collision, copy), stopped: true, outside: true };
}

interface Landing {
  readonly frames: number[];
  readonly left: number;
}

const landings = (sources: readonly Source[], how: Retiming): Landing[] => {
  const span = extentOf(sources);
  return sources.map(({ curve, picked }) => landing(keysOfCurve(curve), picked, how, span));
};

function planOf(
  shot: Shot,
  sources: readonly Source[],
  landed: readonly Landing[],
  how: Retiming,
  collision: CollisionAnswer,
  copy: boolean,
): RetimingPlan {
  const curves = sources.map(({ path, curve, picked }, i): CurvePlan => {
    const { frames } = landed[i];
    return { path, curve, picked, frames, room: makeRoom(keysOfCurve(curve), picked, frames, collision, how, copy) };
  });
  return {
    shot,
    how,
    collision,
    stopped: false,
    outside: false,
    replaced: curves.reduce((n, c) => n + c.room.gone.size, 0),
    pushed: curves.reduce((n, c) => n + pushedOf(c), 0),
    between: landed.reduce((n, l) => n + l.left, 0),
    keys: Object.fromEntries(curves.map((c) => [c.path, c.frames])),
    curves,
  };
}

function pushedOf({ curve, room }: CurvePlan): number {
  let pushed = 0;
  for (const [i, frame] of room.others ?? []) if (curve.keys[i].frame !== frame) pushed++;
  return pushed;
}

/** The shot with a plan carried out. `rise` is added to the values of number keys. */
export function withRetiming(shot: Shot, plan: RetimingPlan, rise = 0, copy = false): Shot {
  if (plan.curves.length === 0 || (idle(plan.how) && rise === 0)) return shot;
  const curves = shot.curves.edit();
  for (const part of plan.curves) curves.set(part.path, carriedOut(part, plan.how, rise, copy));
  return { ...shot, curves: curves.done() };
}

const NOTHING: Retiming = { kind: 'move', by: 0 };

const idle = (how: Retiming) =>
  (how.kind === 'move' && how.by === 0) || (how.kind === 'scale' && how.factor === 1 && !how.whole);

function carriedOut(part: CurvePlan, how: Retiming, rise: number, copy: boolean): Curve {
  const all = keysOfCurve(part.curve);
  const { others, gone } = part.room;
  if (!others && how.kind === 'move') {
    const keys = all.slice();
    part.picked.forEach((i, k) => {
      keys[i] = placedAt(all[i], part.frames[k], rise);
    });
    return { ...part.curve, keys } as Curve;
  }
  const picked = new Set(part.picked);
  const run = part.picked.map((i) => all[i]);
  const shaped =
    how.kind === 'reverse'
      ? // The run comes out in its new order; frames of the plan are in the order of the old keys.
        turnedBack(run).reverse()
      : how.kind === 'scale' && how.factor !== 1
        ? run.map((k) => stretchedKey(k, how.factor))
        : run;
  const moved = shaped.map((key, i) => placedAt(key, part.frames[i], rise));
  const stay = all.flatMap((key, i) => {
    if (gone.has(i)) return [];
    if (picked.has(i)) return copy ? [key] : [];
    const frame = others?.get(i) ?? key.frame;
    return [frame === key.frame ? key : { ...key, frame }];
  });
  return { ...part.curve, keys: [...stay, ...moved].sort((a, b) => a.frame - b.frame) } as Curve;
}

const placedAt = <K extends AnyKey>(key: K, frame: number, rise: number): K => ({
  ...key,
  frame,
  value: typeof key.value === 'number' ? withinBounds(key.value + rise) : key.value,
});

interface Source {
  readonly path: string;
  readonly curve: Curve;
  readonly picked: readonly number[];
}

function pickedOf(shot: Shot, keys: KeySelection): Source[] {
  return Object.entries(keys).flatMap(([path, frames]) => {
    const curve = shot.curves.get(path);
    if (!curve) return [];
    const found = frames.map((f) => keyIndexAt(curve.keys, f)).filter((i) => i >= 0);
    const inOrder = found.every((i, k) => k === 0 || i > found[k - 1]);
    const picked = inOrder ? found : [...new Set(found)].sort((a, b) => a - b);
    return picked.length > 0 ? [{ path, curve, picked }] : [];
  });
}

function extentOf(sources: readonly Source[]): { first: number; last: number } {
  let [first, last] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { curve, picked } of sources) {
    first = Math.min(first, curve.keys[picked[0]].frame);
    last = Math.max(last, curve.keys[picked[picked.length - 1]].frame);
  }
  return { first, last };
}

/** Where the picked keys of one curve land, in the order they have now, and how many stay off the whole frames. */
function landing(
  all: readonly AnyKey[],
  picked: readonly number[],
  how: Retiming,
  span: { first: number; last: number },
): Landing {
  const at = picked.map((i) => all[i].frame);
  switch (how.kind) {
    case 'move':
      return { frames: at.map((f) => tidyFrame(f + how.by)), left: 0 };
    case 'reverse':
      return { frames: at.map((f) => tidyFrame(span.first + span.last - f)), left: 0 };
    case 'scale': {
      const scaled = at.map((f) => tidyFrame(how.about + (f - how.about) * how.factor));
      return how.whole ? toWhole(scaled, new Set()) : { frames: scaled, left: 0 };
    }
    case 'whole': {
      const own = new Set(picked);
      return toWhole(at, new Set(all.filter((_, i) => !own.has(i)).map((k) => k.frame)));
    }
    case 'onto': {
      const own = new Set(picked);
      return onto(
        at,
        how.frames,
        all.filter((_, i) => !own.has(i)).map((k) => k.frame),
      );
    }
  }
}

/** Each onto the nearest of some marks, but for those to whom another is in the way, or whose mark is taken. */
function onto(frames: readonly number[], marks: readonly number[], others: readonly number[]): Landing {
  let left = 0;
  let last = Number.NEGATIVE_INFINITY;
  const out = frames.map((frame, i) => {
    const mark = nearestOf(marks, frame);
    const next = frames[i + 1] ?? Number.POSITIVE_INFINITY;
    const [low, high] = mark === null ? [0, 0] : [Math.min(frame, mark), Math.max(frame, mark)];
    const blocked = mark === null || mark <= last || mark >= next || others.some((o) => o >= low && o <= high);
    if (blocked) left++;
    last = blocked ? frame : mark;
    return last;
  });
  return { frames: out, left };
}

/** The nearest of some numbers that are in order; of two as near the lower. */
export function nearestOf(sorted: readonly number[], value: number): number | null {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < value) low = middle + 1;
    else high = middle;
  }
  const [before, after] = [sorted[low - 1], sorted[low]];
  if (before === undefined) return after ?? null;
  return after === undefined || value - before <= after - value ? before : after;
}

/** Frames rounded, but for those that would then stand on another: nothing is lost for the sake of order. */
function toWhole(frames: readonly number[], taken: Set<number>): Landing {
  // Those that are whole already have the first claim.
  for (const f of frames) if (Number.isInteger(f)) taken.add(f);
  let left = 0;
  const out = frames.map((frame) => {
    if (Number.isInteger(frame)) return frame;
    const whole = Math.round(frame);
    if (taken.has(whole)) {
      left++;
      return frame;
    }
    taken.add(whole);
    return whole;
  });
  return { frames: out, left };
}

/**
 * Whether picked keys land between the others they are between now, with the room they keep when they push: then nothing becomes of
 * the others, however they would answer.
 */
function touchesNobody(all: readonly AnyKey[], picked: readonly number[], frames: readonly number[]): boolean {
  for (let k = 0; k < picked.length; k++) {
    const i = picked[k];
    const [before, after] = [all[i - 1], all[i + 1]];
    if (k > 0 && picked[k - 1] === i - 1) {
      if (frames[k] <= frames[k - 1]) return false;
    } else if (before && frames[k] < before.frame + Math.min(APART, all[i].frame - before.frame)) return false;
    const alone = picked[k + 1] !== i + 1;
    if (alone && after && frames[k] > after.frame - Math.min(APART, after.frame - all[i].frame)) return false;
  }
  return true;
}

function makeRoom(
  all: readonly AnyKey[],
  picked: readonly number[],
  frames: readonly number[],
  collision: CollisionAnswer,
  how: Retiming,
  copy: boolean,
): Room {
  if (!copy && touchesNobody(all, picked, frames)) return UNTOUCHED;
  const others = new Map<number, number>();
  const gone = new Set<number>();
  // Where all keys of a curve go there is nobody to make room.
  if (picked.length === all.length && !copy) return { others, gone };
  const isPicked = new Set(picked);
  const landed = frames.map((frame) => ({ frame })).sort((a, b) => a.frame - b.frame);
  const inOrder = !copy && (how.kind === 'move' || (how.kind === 'scale' && how.factor > 0));
  const pushed = collision === 'push' && inOrder ? pushedAlong(all, picked, frames) : null;
  for (let i = 0; i < all.length; i++) {
    if (isPicked.has(i)) {
      // A copy that lands on a key it was made of replaces it.
      if (copy && keyIndexAt(landed, all[i].frame) >= 0) gone.add(i);
      continue;
    }
    if (pushed) others.set(i, pushed[i]);
    else if (keyIndexAt(landed, all[i].frame) < 0) others.set(i, all[i].frame);
    else if (collision === 'push') others.set(i, Number.NaN);
    else gone.add(i);
  }
  stepAside(all, others, landed, isPicked, copy);
  return { others, gone };
}

/** Gives those that were landed on, marked as not a number, the next free whole frame. */
function stepAside(
  all: readonly AnyKey[],
  others: Map<number, number>,
  landed: readonly { frame: number }[],
  isPicked: ReadonlySet<number>,
  copy: boolean,
): void {
  const taken = new Set([...others.values(), ...landed.map((k) => k.frame)]);
  if (copy) for (const i of isPicked) taken.add(all[i].frame);
  for (const [i, frame] of others) {
    if (!Number.isNaN(frame)) continue;
    let free = Math.floor(all[i].frame) + 1;
    while (taken.has(free)) free++;
    others.set(i, free);
    taken.add(free);
  }
}

/** Frames of all keys when the picked ones go and push what is in their way along, like beads on a rod. */
function pushedAlong(all: readonly AnyKey[], picked: readonly number[], frames: readonly number[]): number[] {
  const target = new Map(picked.map((index, i) => [index, frames[i]]));
  const gap = (i: number) => (i > 0 ? Math.min(APART, all[i].frame - all[i - 1].frame) : 0);
  const out = all.map((k) => k.frame);
  for (let i = 0; i < out.length; i++) {
    out[i] = target.get(i) ?? Math.max(out[i], i > 0 ? out[i - 1] + gap(i) : out[i]);
  }
  for (let i = out.length - 2; i >= 0; i--) {
    if (!target.has(i)) out[i] = Math.min(out[i], out[i + 1] - gap(i + 1));
  }
  spreadSqueezed(out, target);
  return out;
}

/** Where there is no room for a run between two picked keys, it is spread evenly over what there is. */
function spreadSqueezed(out: number[], target: ReadonlyMap<number, number>): void {
  const fixed = [...target.keys()].sort((a, b) => a - b);
  for (let k = 0; k + 1 < fixed.length; k++) {
    const [a, b] = [fixed[k], fixed[k + 1]];
    const squeezed = Array.from({ length: b - a }, (_, i) => out[a + i + 1] - out[a + i]).some((d) => d <= 0);
    if (!squeezed) continue;
    for (let i = a + 1; i < b; i++) out[i] = out[a] + ((out[b] - out[a]) * (i - a)) / (b - a);
  }
}

/** The most of a retiming that touches no other key. */
function stopped(sources: readonly Source[], how: Retiming, copy: boolean): Retiming {
  if (how.kind === 'move' && !copy) {
    const by = how.by > 0 ? roomFor(sources, how.by, 1) : -roomFor(sources, -how.by, -1);
    return by === how.by ? how : { ...how, by };
  }
  if (how.kind === 'scale' && how.factor > 0 && !copy) {
    const factor = roomToScale(sources, how);
    return factor === how.factor ? how : { ...how, factor };
  }
  const span = extentOf(sources);
  const hits = sources.some(({ curve, picked }) => {
    const own = copy ? new Set<number>() : new Set(picked);
    const { frames } = landing(keysOfCurve(curve), picked, how, span);
    return frames.some((f) => {
      const hit = keyIndexAt(curve.keys, f);
      return hit >= 0 && !own.has(hit);
    });
  });
  return hits ? NOTHING : how;
}

function roomFor(sources: readonly Source[], wanted: number, direction: 1 | -1): number {
  let room = wanted;
  for (const { curve, picked } of sources) {
    const own = new Set(picked);
    for (const i of picked) {
      const next = i + direction;
      if (own.has(next) || next < 0 || next >= curve.keys.length) continue;
      room = Math.min(room, Math.max(0, Math.abs(curve.keys[next].frame - curve.keys[i].frame) - APART));
    }
  }
  return room;
}

/** The factor nearest to the wanted one at which no picked key comes nearer than a frame to one that is not. */
function roomToScale(sources: readonly Source[], { about, factor }: Extract<Retiming, { kind: 'scale' }>): number {
  let [low, high] = [0, Number.POSITIVE_INFINITY];
  for (const { curve, picked } of sources) {
    const own = new Set(picked);
    for (const i of picked) {
      const arm = curve.keys[i].frame - about;
      if (Math.abs(arm) < 1e-9) continue;
      for (const next of [i - 1, i + 1]) {
        if (own.has(next) || next < 0 || next >= curve.keys.length) continue;
        const gap = curve.keys[next].frame - curve.keys[i].frame;
        const edge = curve.keys[next].frame - Math.sign(gap) * Math.min(APART, Math.abs(gap));
        const at = (edge - about) / arm;
        // The edge lies on one side of 1, where the key stands now.
        if (Math.sign(gap) === Math.sign(arm)) high = Math.min(high, Math.max(1, at));
        else low = Math.max(low, Math.min(1, at));
      }
    }
  }
  return Math.min(high, Math.max(low, factor));
}
