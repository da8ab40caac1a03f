import type { OrientationCurve } from '../../curve/key.ts';
import { keyIndexAt, withHandleKind, withKey, withOrientationKey } from '../../curve/reshape.ts';
import { withSplit } from '../../curve/split.ts';
import { channelPath, ORIENTATION } from '../../document/channels.ts';
import { isLocked, topmost } from '../../document/hierarchy.ts';
import { withoutLoose } from '../../document/loose.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import type { Frame } from '../../evaluate/frame.ts';
import { frameOf } from '../../evaluate/program.ts';
import { mat4, quat, vec3 } from '../../pose/doubles.ts';
import { quaternionAbout, quaternionMultiply, quaternionNormal } from '../../pose/quaternion.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';
import { withoutControls } from './members.ts';
import { setRotation } from './rotation.ts';

export type Point = readonly [x: number, y: number, z: number];

/** The most one key turns from the last: two thirds of half a circle, so that the shortest way is the way meant. */
const MOST_A_KEY = (2 * Math.PI) / 3;

/** A point further away than this from a member, as it sees it, is out of all bounds; half of what a channel may hold. */
const MOST_AWAY = 5e8;

/**
 * Turns members together about one point and one axis of the world, keyed from one frame to another. Each gets its pivot
 * put on the point and turns there, so that on the way every one of them stays on its circle, exactly. Members that turned
 * by angles go over to an orientation first, with their motion unchanged.
 * @param pivot in the world, metres @param axis in the world, any length @param angle radians, any number of turns
 */
export const turnTogether = defineCommand<{
  ids: readonly string[];
  pivot: Point;
  axis: Point;
  angle: number;
  from: number;
  to: number;
}>({
  name: 'member.turn',
  label: ({ ids, angle }, shot) => `turn ${memberWords(shot, ids)} together by ${Math.round((angle * 180) / Math.PI)}°`,
  apply(shot, { ids, pivot, axis, angle, from, to }) {
    // Controls of rigs have no pivots to put on the point.
    const turning = topmost(shot, ids).filter((id) => !isLocked(shot, id) && shot.members.at(id).kind !== 'control');
    if (angle === 0 || to <= from || Math.hypot(...axis) === 0) return shot;
    const frame = frameOf(shot, from);
    return turning.reduce((next, id) => turned(next, id, frame, { pivot, axis, angle, from, to }), shot);
  },
});

/** Puts the pivots of members on a point of the world at a frame, keyed, without moving anything. */
export const placePivots = defineCommand<{ ids: readonly string[]; pivot: Point; frame: number }>({
  name: 'member.pivot',
  label: ({ ids }, shot) => `move the pivot of ${memberWords(shot, ids)}`,
  apply(shot, { ids, pivot, frame }) {
    const numbers = frameOf(shot, frame);
    return topmost(shot, withoutControls(shot, ids)).reduce(
      (next, id) => repivoted(next, id, numbers, pivot, frame),
      shot,
    );
  },
});

interface Turn {
  readonly pivot: Point;
  readonly axis: Point;
  readonly angle: number;
  readonly from: number;
  readonly to: number;
}

function turned(shot: Shot, id: string, frame: Frame, { pivot, axis, angle, from, to }: Turn): Shot {
  const member = shot.members.at(id);
  const byOrientation =
    member.rotation === 'orientation'
      ? shot
      : setRotation.apply(shot, { id, rotation: 'orientation', order: member.order });
  const standing = repivoted(byOrientation, id, frame, pivot, from);
  const path = channelPath(id, ORIENTATION);
  const start = channelValue(standing, path, from) as Quaternion;
  const parts = Math.ceil(Math.abs(angle) / MOST_A_KEY);
  const parent = parentMatrix(frame, id);
  const back = mat4.invert(zeros(), parent) ?? mat4.create();
  // The axis as the parent sees it; a turn of the world is a turn about that.
  const own = vec3.transformMat4([0, 0, 0], [...axis], linear(back));
  const old = standing.curves.get(path);
  let curve: OrientationCurve = anchored(old?.type === 'orientation' ? old : undefined, from, start, standing);
  for (let i = 0; i <= parts; i++) {
    const share = i / parts;
    const at = from + (to - from) * share;
    const q = quaternionNormal(quaternionMultiply(quaternionAbout([own[0], own[1], own[2]], angle * share), start));
    const inside = i > 0 && i < parts;
    // A key of ours rests on both sides; one that was there before keeps the side that is not part of this turn.
    const fresh = keyIndexAt(curve.keys, at) < 0;
    curve = withOrientationKey(curve, at, q);
    if (fresh) curve = withHandleKind(curve, at, 'both', 'flat');
    if (i > 0) curve = withHandleKind(curve, at, 'in', inside ? 'smooth' : 'flat');
    if (i < parts) curve = withHandleKind(curve, at, 'out', inside ? 'smooth' : 'flat');
    if (inside) curve = asBreakdown(curve, at);
  }
  const loose = withoutLoose(standing.loose, path);
  return { ...standing, curves: standing.curves.with(path, curve), loose };
}

const asBreakdown = (curve: OrientationCurve, frame: number): OrientationCurve => {
  const at = keyIndexAt(curve.keys, frame);
  return { ...curve, keys: curve.keys.with(at, { ...curve.keys[at], role: 'breakdown', joined: true }) };
};

/** An orientation that was not keyed yet keeps what it had before the turn. */
const anchored = (curve: OrientationCurve | undefined, from: number, start: Quaternion, shot: Shot): OrientationCurve =>
  curve ??
  withHandleKind(
    withOrientationKey(undefined, Math.min(from, shot.range.first), start),
    Math.min(from, shot.range.first),
    'out',
    'flat',
  );

/**
 * Moves a member's pivot to a point of the world. Pivot and place change in the same instant, on a stepped key, so that the
 * member does not.
 */
function repivoted(shot: Shot, id: string, frame: Frame, pivot: Point, at: number): Shot {
  const slot = frame.layout.slotOf.get(id);
  if (slot === undefined) return shot;
  const world = frame.world.slice(slot * 16, slot * 16 + 16) as unknown as mat4;
  const inverse = mat4.invert(zeros(), world);
  const outOfParent = mat4.invert(zeros(), parentMatrix(frame, id));
  // What has no size has no inside to put a pivot in.
  if (!inverse || !outOfParent) return shot;
  const inside = vec3.transformMat4([0, 0, 0], [...pivot], inverse);
  const beside = vec3.transformMat4([0, 0, 0], [...pivot], outOfParent);
  // Nor has what is so small that a point beside it is endlessly far from it.
  if ([...inside, ...beside].some((v) => Math.abs(v) > MOST_AWAY)) return shot;
  const old = ['x', 'y', 'z'].map((c) => channelValue(shot, channelPath(id, `pivot.${c}`), at) as number);
  if (old.every((v, i) => Math.abs(v - inside[i]) < 1e-12)) return shot;
  let next = shot;
  ['x', 'y', 'z'].forEach((c, i) => {
    next = switchedTo(next, channelPath(id, `pivot.${c}`), at, inside[i]);
    next = switchedTo(next, channelPath(id, `move.${c}`), at, beside[i] - inside[i]);
  });
  return next;
}

/** Lets a channel hold what it has until a frame, and from there on another value. */
function switchedTo(shot: Shot, path: string, frame: number, value: number): Shot {
  const here = channelValue(shot, path, frame) as number;
  const old = shot.curves.get(path);
  let curve = old?.type === 'number' ? old : undefined;
  const last = curve?.keys.findLast((k) => k.frame < frame - 1e-6);
  if (!last && frame > shot.range.first) curve = withKey(curve, shot.range.first, here);
  else if (last && last.value !== here) {
    // It was on its way: it gets there a frame before, and waits.
    curve = withSplit(curve!, frame - 1);
  }
  const before = curve?.keys.findLast((k) => k.frame < frame - 1e-6);
  if (curve && before) curve = withHandleKind(curve, before.frame, 'out', 'stepped');
  const keyed = withHandleKind(withKey(curve, frame, value), frame, 'out', 'stepped');
  return { ...shot, curves: shot.curves.with(path, keyed), loose: withoutLoose(shot.loose, path, frame) };
}

const zeros = () => new Float64Array(16) as unknown as mat4;

function parentMatrix(frame: Frame, id: string): mat4 {
  const parent = frame.layout.space[frame.layout.slotOf.get(id) ?? -1] ?? -1;
  return parent < 0 ? mat4.create() : (frame.world.slice(parent * 16, parent * 16 + 16) as unknown as mat4);
}

/** A matrix without its move and its sizes: how it turns directions. */
function linear(matrix: mat4): mat4 {
  return mat4.fromQuat(zeros(), quat.normalize([0, 0, 0, 1], mat4.getRotation([0, 0, 0, 1], matrix)));
}
