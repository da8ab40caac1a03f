import type { NumberCurve } from '../curve/key.ts';
import { keyIndexAt, withHandleKind } from '../curve/reshape.ts';
import { CurveReader } from '../curve/sample.ts';
import { channelPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Finding } from './check.ts';
import type { Watched } from './watched.ts';

/** What the checks of an arc share: its steps from frame to frame, and ways to mend a place in it. */

/** The steps of a member's way: three numbers for each frame but the last, and their lengths. */
export interface Steps {
  readonly first: number;
  readonly count: number;
  readonly by: Float64Array;
  readonly lengths: Float64Array;
  readonly fastest: number;
}

export function stepsOf(watched: Watched, member: string): Steps {
  const places = watched.places.get(member)!;
  const count = watched.frames - 1;
  const by = new Float64Array(Math.max(count, 0) * 3);
  const lengths = new Float64Array(Math.max(count, 0));
  let fastest = 0;
  for (let i = 0; i < count; i++) {
    for (let r = 0; r < 3; r++) by[i * 3 + r] = places[i * 3 + 3 + r] - places[i * 3 + r];
    lengths[i] = Math.hypot(by[i * 3], by[i * 3 + 1], by[i * 3 + 2]);
    fastest = Math.max(fastest, lengths[i]);
  }
  return { first: watched.first, count, by, lengths, fastest };
}

/** The cosine of the angle between two steps. */
export function cosineBetween({ by, lengths }: Steps, i: number, j: number): number {
  const dot = by[i * 3] * by[j * 3] + by[i * 3 + 1] * by[j * 3 + 1] + by[i * 3 + 2] * by[j * 3 + 2];
  return dot / (lengths[i] * lengths[j] || 1);
}

/** Whether a place of a way is one where it may break: on or beside a landing, or on the ground. */
export function atGround(watched: Watched, member: string, frame: number): boolean {
  if (watched.landingNear(member, frame, 1.5) || watched.isStanding(member, frame)) return true;
  return [frame - 1, frame, frame + 1].some((f) => {
    const gap = watched.gap(member, f);
    return gap !== null && Math.abs(gap) < 5e-3;
  });
}

const MOVE = ['x', 'y', 'z'].map((c) => `move.${c}`);

/** The keys of a member's move nearest to a frame, within two of it, as a frame; null where there are none. */
function keyNear(shot: Shot, member: string, frame: number): number | null {
  const frames = MOVE.flatMap((c) => shot.curves.get(channelPath(member, c))?.keys.map((k) => k.frame) ?? []);
  const near = frames.filter((f) => Math.abs(f - frame) <= 2).sort((a, b) => Math.abs(a - frame) - Math.abs(b - frame));
  return near[0] ?? null;
}

/**
 * Tries ways to mend a place in an arc, the least first: smooth handles at the nearest key of its move; that key put where the way
 * around it says; that key away. The first that mends it is taken.
 * @param mended whether the finding is gone, and nothing else is wrong there
 */
export function smoothed(shot: Shot, { member, frame }: Finding, mended: (shot: Shot) => boolean): Shot {
  if (frame === null) return shot;
  const at = keyNear(shot, member, frame);
  if (at === null) return shot;
  const candidates = [withSmoothKey, withKeyBetween, withoutKey].map((change) => change(shot, member, at));
  return candidates.find((c) => c !== shot && mended(c)) ?? shot;
}

const eachMove = (
  shot: Shot,
  member: string,
  at: number,
  change: (curve: NumberCurveAt) => NumberCurveAt['curve'] | null,
): Shot => {
  const curves = shot.curves.edit();
  for (const channel of MOVE) {
    const path = channelPath(member, channel);
    const curve = curves.get(path);
    if (curve?.type !== 'number') continue;
    const index = keyIndexAt(curve.keys, at);
    if (index < 0) continue;
    const next = change({ curve, index });
    if (next) curves.set(path, next);
  }
  return { ...shot, curves: curves.done() };
};

interface NumberCurveAt {
  readonly curve: NumberCurve;
  readonly index: number;
}

const withSmoothKey = (shot: Shot, member: string, at: number): Shot =>
  eachMove(shot, member, at, ({ curve }) => withHandleKind(curve, at, 'both', 'smooth'));

/** The key on the way its neighbours would take without it, and smooth. */
const withKeyBetween = (shot: Shot, member: string, at: number): Shot =>
  eachMove(shot, member, at, ({ curve, index }) => {
    if (index === 0 || index === curve.keys.length - 1) return null;
    const without = { ...curve, keys: curve.keys.toSpliced(index, 1) };
    const smooth = [index - 1, index].reduce((c, i) => {
      const key = c.keys[i];
      return key.joined ? withHandleKind(c, key.frame, 'both', 'smooth') : c;
    }, without);
    const key = { ...curve.keys[index], value: new CurveReader(smooth).at(at) };
    return withHandleKind({ ...curve, keys: curve.keys.with(index, key) }, at, 'both', 'smooth');
  });

const withoutKey = (shot: Shot, member: string, at: number): Shot =>
  eachMove(shot, member, at, ({ curve, index }) =>
    index === 0 || index === curve.keys.length - 1 ? null : { ...curve, keys: curve.keys.toSpliced(index, 1) },
  );
