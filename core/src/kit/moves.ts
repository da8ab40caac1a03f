import { handleSlope } from '../curve/handles.ts';
import type { NumberCurve } from '../curve/key.ts';
import { keyIndexAt } from '../curve/reshape.ts';
import { channelPath } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import { curvesOf } from '../document/paths.ts';
import type { Shot } from '../document/shot.ts';

/** A move of one channel: from one key to the next, and where each of them is. */
export interface Move {
  readonly path: string;
  readonly curve: NumberCurve;
  readonly from: number;
  readonly to: number;
  readonly start: number;
  readonly end: number;
}

/** What stands for all the member's channels that have a key there. */
export const EVERY = 'every';

/** The number channels a recipe means: one of them, or every one with keys. */
export function channelsMeant(shot: Shot, member: Member, channel: string): { path: string; curve: NumberCurve }[] {
  const paths = channel === EVERY ? curvesOf(shot, [member]).map(([path]) => path) : [channelPath(member.id, channel)];
  return paths.flatMap((path) => {
    const curve = shot.curves.get(path);
    return curve?.type === 'number' ? [{ path, curve }] : [];
  });
}

/** Moves that arrive at a frame, of channels that have a key there and come from another value. */
export const movesInto = (shot: Shot, member: Member, channel: string, frame: number): Move[] =>
  channelsMeant(shot, member, channel).flatMap(({ path, curve }) => {
    const i = keyIndexAt(curve.keys, frame);
    return i > 0 ? moved(path, curve, i - 1) : [];
  });

/** Moves that begin at a frame. */
export const movesFrom = (shot: Shot, member: Member, channel: string, frame: number): Move[] =>
  channelsMeant(shot, member, channel).flatMap(({ path, curve }) => {
    const i = keyIndexAt(curve.keys, frame);
    return i >= 0 && i + 1 < curve.keys.length ? moved(path, curve, i) : [];
  });

function moved(path: string, curve: NumberCurve, i: number): Move[] {
  const [a, b] = [curve.keys[i], curve.keys[i + 1]];
  if (Math.abs(a.value - b.value) < 1e-9) return [];
  return [{ path, curve, from: a.frame, to: b.frame, start: a.value, end: b.value }];
}

/** The frame nearest to a wanted one at which a move of the member ends (or begins), or the wanted one. */
export function nearestMove(shot: Shot, member: Member, wanted: number, side: 'from' | 'to'): number {
  const frames = channelsMeant(shot, member, EVERY).flatMap(({ curve }) =>
    curve.keys
      .slice(0, -1)
      .flatMap((k, i) =>
        k.value === curve.keys[i + 1].value ? [] : [side === 'from' ? k.frame : curve.keys[i + 1].frame],
      ),
  );
  return frames.reduce((best, f) => (Math.abs(f - wanted) < Math.abs(best - wanted) ? f : best), frames[0] ?? wanted);
}

/** Says where a move stops dead before what a kit adds to it: its own key there is level. */
export function stopsThere(moves: readonly Move[], frame: number): string | undefined {
  const level = moves.filter((m) => {
    const i = keyIndexAt(m.curve.keys, frame);
    return Math.abs(handleSlope(m.curve, i, 'in')) < 1e-9 && m.curve.keys[i].in.kind === 'flat';
  });
  return level.length > 0
    ? `Your key at ${frame} is level, so the move stops there first: make that key smooth.`
    : undefined;
}
