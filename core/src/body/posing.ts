import { controlsOf } from '../document/casting.ts';
import {
  type Channel,
  type ChannelValue,
  channelPath,
  constantValue,
  ORIENTATION,
  shownChannels,
} from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { channelValue } from '../evaluate/channel-value.ts';
import { slerp } from '../pose/affine.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../pose/angles.ts';
import type { Rig, RigControl } from '../rig/definition.ts';
import type { PoseValues } from '../rig/pose-book.ts';
import type { Rigs } from '../rig/rigs.ts';
import type { Quaternion } from '../schema/numbers.ts';

/**
 * Poses as things: taken from a rig, mirrored, and put onto it again, wholly, in part or by a share. A pose names channels by
 * `control.channel`, so that it fits every link of the rig and every version that has them.
 */

type Control = Extract<Member, { kind: 'control' }>;

/** The channels of a control that belong to a pose: all but whether it is seen. */
export const poseChannels = (member: Member, rigs: Rigs): Channel[] =>
  shownChannels(member, rigs).filter((c) => c.id !== 'visible');

/** The pose of a rig at a frame, or of some of its controls. */
export function poseAt(shot: Shot, rig: string, frame: number, only?: ReadonlySet<string>): PoseValues {
  const values: PoseValues = {};
  for (const control of controlsOf(shot, rig)) {
    if (only && !only.has(control.id)) continue;
    for (const channel of poseChannels(control, shot.rigs)) {
      const value = channelValue(shot, channelPath(control.id, channel.id), frame);
      if (value !== undefined) values[`${control.shape.control}.${channel.id}`] = value as PoseValues[string];
    }
  }
  return values;
}

/** Whether a mirrored channel has the opposite number: moves along x, turns about y and z, and dials that say so. */
export function mirrorSign(control: RigControl, channel: string): 1 | -1 {
  if (channel === 'move.x' || channel === 'turn.y' || channel === 'turn.z') return -1;
  return control.dials.find((d) => d.id === channel)?.mirror ?? 1;
}

/**
 * The mirror image of a pose: what is on the left goes to the right and turned about. Controls are square to the rig at rest,
 * so this is exact, and done twice gives back the very same numbers. Dials of the middle that are named for a side (`browL`)
 * change places.
 */
export function mirrored(rig: Rig, pose: PoseValues): PoseValues {
  const byId = new Map(rig.controls.map((c) => [c.id, c]));
  const out: PoseValues = {};
  for (const [name, value] of Object.entries(pose)) {
    const dot = name.indexOf('.');
    const control = byId.get(name.slice(0, dot));
    const channel = name.slice(dot + 1);
    if (!control) out[name] = value;
    else
      out[`${control.partner ?? control.id}.${mirrorChannel(control, channel)}`] = mirrorValue(control, channel, value);
  }
  return out;
}

/** The channel that is the mirror image of one: the same, but for dials that come in a left and a right. */
export function mirrorChannel(control: RigControl, channel: string): string {
  const last = channel.at(-1);
  const other = last === 'L' ? 'R' : last === 'R' ? 'L' : null;
  const named = other && channel.slice(0, -1) + other;
  return named && control.dials.some((d) => d.id === named) ? named : channel;
}

function mirrorValue(control: RigControl, channel: string, value: ChannelValue): PoseValues[string] {
  if (typeof value !== 'number') return [value[0], -value[1], -value[2], value[3]];
  // Not -0: it is another number to whoever compares texts.
  return mirrorSign(control, channel) < 0 && value !== 0 ? -value : value;
}

/** How a pose is put onto a rig. */
export interface Putting {
  readonly rig: string;
  readonly pose: PoseValues;
  readonly frame: number;
  /** 0 leaves everything, 1 is the pose; beyond is more of it. */
  readonly share: number;
  /** Only these controls, by member; without it all. */
  readonly only?: ReadonlySet<string>;
}

/**
 * The channels that putting a pose onto a rig changes, and their new values. Controls that are held by the stage or by somebody
 * keep their place: what is planted stays where it stands.
 */
export function posed(shot: Shot, { rig, pose, frame, share, only }: Putting): Record<string, ChannelValue> {
  const out: Record<string, ChannelValue> = {};
  for (const control of controlsOf(shot, rig)) {
    if ((only && !only.has(control.id)) || control.locked) continue;
    const channels = poseChannels(control, shot.rigs).filter(
      (c) => Object.hasOwn(pose, `${control.shape.control}.${c.id}`) && !(isHeld(control, frame) && isPlace(c.id)),
    );
    Object.assign(out, mixedTurn(shot, control, channels, pose, frame, share));
    for (const channel of channels) {
      const path = channelPath(control.id, channel.id);
      if (Object.hasOwn(out, path)) continue;
      const from = channelValue(shot, path, frame);
      const to = pose[`${control.shape.control}.${channel.id}`];
      const value = mixed(from, to, share);
      if (value !== undefined && !same(from, value)) out[path] = value;
    }
  }
  for (const [path, value] of Object.entries(out)) if (same(channelValue(shot, path, frame), value)) delete out[path];
  return out;
}

const isPlace = (channel: string) =>
  channel.startsWith('move.') || channel.startsWith('turn.') || channel === ORIENTATION;

/** Whether somebody else than its rig carries a control at a frame. */
export function isHeld(member: Member, frame: number): boolean {
  return holdAt(member, frame)?.by.is !== undefined && holdAt(member, frame)?.by.is !== 'own';
}

/** Who carries a member at a frame by a hold; undefined before its first. */
export const holdAt = (member: Member, frame: number) =>
  [...member.holds].sort((a, b) => a.frame - b.frame).findLast((h) => h.frame <= frame + 1e-9);

const same = (a: ChannelValue | undefined, b: ChannelValue): boolean =>
  typeof a === 'number' || typeof b === 'number' || a === undefined ? a === b : a.every((v, i) => v === b[i]);

function mixed(from: ChannelValue | undefined, to: ChannelValue | undefined, share: number): ChannelValue | undefined {
  if (from === undefined || to === undefined) return undefined;
  if (share === 1) return to;
  if (typeof from === 'number' && typeof to === 'number') return from + (to - from) * share;
  if (typeof from === 'number' || typeof to === 'number') return undefined;
  return between(from, to, share);
}

function between(from: Quaternion, to: Quaternion, share: number): Quaternion {
  const out = new Float64Array(4);
  slerp(out, 0, Float64Array.from(from), 0, Float64Array.from(to), 0, share);
  return [out[0], out[1], out[2], out[3]];
}

/** Three angles go the shortest way together, not each for itself: half way between two poses is a pose. */
function mixedTurn(
  shot: Shot,
  control: Control,
  channels: readonly Channel[],
  pose: PoseValues,
  frame: number,
  share: number,
): Record<string, ChannelValue> {
  const axes = ['turn.x', 'turn.y', 'turn.z'];
  if (share === 1 || !axes.every((a) => channels.some((c) => c.id === a))) return {};
  const from = axes.map((a) => channelValue(shot, channelPath(control.id, a), frame)) as Angles;
  const to = axes.map((a) => pose[`${control.shape.control}.${a}`]) as Angles;
  if (axes.every((_, i) => from[i] === to[i])) return {};
  const turn = between(anglesToQuaternion(from, control.order), anglesToQuaternion(to, control.order), share);
  const near = from.map((v, i) => v + (to[i] - v) * share) as Angles;
  const angles = quaternionToAngles(turn, control.order, near);
  return Object.fromEntries(axes.map((a, i) => [channelPath(control.id, a), angles[i]]));
}

/** The counterparts of members: for a control its partner, everybody else themselves. */
export function partnersOf(shot: Shot, ids: readonly string[]): string[] {
  const out = ids.map((id) => {
    const member = shot.members.get(id);
    const partner = member && shot.rigs.controlOf(member)?.partner;
    if (!partner || member.parent === null) return id;
    return controlsOf(shot, member.parent).find((c) => c.shape.control === partner)?.id ?? id;
  });
  return [...new Set(out)];
}

/** The rig that members belong to: the last of them decides. Null where that is no rig and no control. */
export function rigAmong(shot: Shot, ids: readonly string[]): string | null {
  for (const id of [...ids].reverse()) {
    const member = shot.members.get(id);
    if (member?.kind === 'rig' && shot.rigs.find(member.shape)) return id;
    if (member?.kind === 'control') return member.parent;
  }
  return null;
}

/** What channels of members are at rest: a group of them, or all. */
export function atRest(
  shot: Shot,
  ids: readonly string[],
  group: 'move' | 'turn' | 'size' | 'all',
): Record<string, ChannelValue> {
  const out: Record<string, ChannelValue> = {};
  for (const id of ids) {
    const member = shot.members.get(id);
    if (!member || member.locked) continue;
    for (const channel of poseChannels(member, shot.rigs)) {
      const turns = channel.id === ORIENTATION && (group === 'turn' || group === 'all');
      const own = ['move', 'turn', 'size'].includes(channel.group);
      // The form's colour and pivot, and what an animator added, are no pose; a control's dials are.
      const meant = group === 'all' ? own || member.kind === 'control' : channel.group === group;
      if (!turns && (!meant || channel.id === ORIENTATION)) continue;
      out[channelPath(id, channel.id)] = turns ? [0, 0, 0, 1] : channel.initial;
    }
  }
  return Object.fromEntries(
    Object.entries(out).filter(([path, value]) => {
      const member = shot.members.at(path.slice(0, path.indexOf('.')));
      const channel = poseChannels(member, shot.rigs).find((c) => channelPath(member.id, c.id) === path);
      const animated = shot.curves.has(path) || shot.loose.has(path);
      const now = channel?.id === ORIENTATION ? member.orientation : channel && constantValue(member, channel);
      return animated || !same(now, value);
    }),
  );
}
