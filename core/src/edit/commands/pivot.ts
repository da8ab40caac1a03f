import { channelPath, findChannel, ORIENTATION } from '../../document/channels.ts';
import { boundsOf } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { frameOf } from '../../evaluate/program.ts';
import { invert, multiply, transformPoint } from '../../pose/affine.ts';
import type { Vector } from '../../pose/vectors.ts';
import { withinBounds } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import { defineCommand } from '../edit.ts';

const AXES = ['x', 'y', 'z'] as const;

/** Gives members other pivots, in their own space, and leaves them exactly where they stand, keyed or not. */
export const setPivots = defineCommand<{ pivots: Readonly<Record<string, Vector>>; frame: number }>({
  name: 'pivot.set',
  label: ({ pivots }, shot) => `set the pivot of ${memberWords(shot, Object.keys(pivots))}`,
  apply(shot, { pivots, frame }) {
    const now = frameOf(shot, frame);
    return Object.entries(pivots).reduce((next, [id, pivot]) => withPivot(next, now, id, pivot), shot);
  },
});

function withPivot(shot: Shot, frame: Frame, id: string, pivot: Vector): Shot {
  const member = shot.members.get(id);
  if (!member) return shot;
  if (!findChannel(member, 'pivot.x', shot.rigs))
    throw new Refused(`${member.name} turns about a place its rig gives it.`);
  if (!pivot.every(Number.isFinite)) throw new Refused('The place of the pivot is not a number.');
  const turns = [ORIENTATION, ...['turn', 'size', 'pivot'].flatMap((group) => AXES.map((axis) => `${group}.${axis}`))];
  const moved = turns.some((channel) => {
    const path = channelPath(id, channel);
    return shot.curves.has(path) || shot.formulas.has(path) || shot.loose.has(path);
  });
  if (moved)
    throw new Refused(
      `${member.name} is animated in its turn, size or pivot: with another pivot it would move. Set it before, or on a group over it.`,
    );
  if (AXES.some((axis) => shot.formulas.has(channelPath(id, `move.${axis}`))))
    throw new Refused(`${member.name} is moved by a formula, which says where its pivot goes.`);
  const slot = frame.layout.slotOf.get(id)!;
  const local = localOf(frame, slot);
  const old = AXES.map((axis) => frame.value(id, `pivot.${axis}`) ?? 0);
  // Its own matrix is move · pivot · turn · size · pivot⁻¹: where the pivot lands, less the pivot, is the move.
  const moveFor = ([x, y, z]: Vector): Vector => {
    const out = new Float64Array(3);
    transformPoint(out, 0, local, 0, x, y, z);
    return [out[0] - x, out[1] - y, out[2] - z];
  };
  const [before, after] = [moveFor(old as unknown as Vector), moveFor(pivot)];
  const by = AXES.map((_, i) => after[i] - before[i]);
  const values = { ...member.values };
  let { curves, loose } = shot;
  AXES.forEach((axis, i) => {
    values[`pivot.${axis}`] = withinBounds(pivot[i]);
    values[`move.${axis}`] = withinBounds((values[`move.${axis}`] ?? 0) + by[i]);
    const path = channelPath(id, `move.${axis}`);
    const curve = curves.get(path);
    if (curve?.type === 'number')
      curves = curves.with(path, {
        ...curve,
        keys: curve.keys.map((k) => ({ ...k, value: withinBounds(k.value + by[i]) })),
      });
    const changes = loose.get(path);
    if (changes)
      loose = loose.with(
        path,
        changes.map((l) => (typeof l.value === 'number' ? { ...l, value: withinBounds(l.value + by[i]) } : l)),
      );
  });
  return { ...shot, members: shot.members.with(id, { ...member, values }), curves, loose };
}

/** A member's matrix in the space it lives in. */
function localOf(frame: Frame, slot: number): Float64Array {
  const space = frame.layout.space[slot];
  const out = frame.world.slice(slot * 16, slot * 16 + 16);
  const into = new Float64Array(16);
  if (space >= 0 && invert(into, 0, frame.world, space * 16)) multiply(out, 0, into, 0, frame.world, slot * 16);
  return out;
}

/** A place of the world in a member's own space. */
export function inOwnSpace(frame: Frame, id: string, [x, y, z]: Vector): Vector {
  const slot = frame.layout.slotOf.get(id)!;
  const into = new Float64Array(16);
  const out = new Float64Array(3);
  if (!invert(into, 0, frame.world, slot * 16)) throw new Refused('It has no size along an axis, and so no inside.');
  transformPoint(out, 0, into, 0, x, y, z);
  return [out[0], out[1], out[2]];
}

/** A place of a member in the world. */
export function inWorld(frame: Frame, id: string, [x, y, z]: Vector): Vector {
  const out = new Float64Array(3);
  transformPoint(out, 0, frame.world, frame.layout.slotOf.get(id)! * 16, x, y, z);
  return [out[0], out[1], out[2]];
}

/** What a pivot is put on: the corners, the middles of edges and faces, and the middle of a member's box, in its own space. */
export function pivotPoints(shot: Shot, id: string): Vector[] {
  const box = boundsOf(shot.members.at(id), shot.rigs);
  const on = (axis: 0 | 1 | 2, share: number) => box[axis] + (box[(axis + 3) as 3 | 4 | 5] - box[axis]) * share;
  const shares = [0, 0.5, 1];
  return shares.flatMap((x) => shares.flatMap((y) => shares.map((z): Vector => [on(0, x), on(1, y), on(2, z)])));
}

/** Where a share of a member's box is, from 0 to 1 along each axis, in the world. */
export function placeInBox(shot: Shot, frame: Frame, id: string, share: Vector): Vector {
  const box = boundsOf(shot.members.at(id), shot.rigs);
  const on = (i: 0 | 1 | 2) => box[i] + (box[(i + 3) as 3 | 4 | 5] - box[i]) * share[i];
  return inWorld(frame, id, [on(0), on(1), on(2)]);
}

/** Where two things meet: the middle of what their boxes have in common, or of the gap between them, in the world. */
export function jointBetween(shot: Shot, frame: Frame, a: string, b: string): Vector {
  const [one, other] = [a, b].map((id) => worldBox(shot, frame, id));
  const middle = (i: number) => {
    const [low, high] = [Math.max(one.min[i], other.min[i]), Math.min(one.max[i], other.max[i])];
    return (low + high) / 2;
  };
  return [middle(0), middle(1), middle(2)];
}

function worldBox(shot: Shot, frame: Frame, id: string): { readonly min: number[]; readonly max: number[] } {
  const corners = pivotPoints(shot, id).map((p) => inWorld(frame, id, p));
  const along = (i: number, of: (...values: number[]) => number) => of(...corners.map((c) => c[i]));
  return { min: [0, 1, 2].map((i) => along(i, Math.min)), max: [0, 1, 2].map((i) => along(i, Math.max)) };
}
