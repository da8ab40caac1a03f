import type { ChannelValue } from '../document/channels.ts';
import { channelPath, findChannel, ORIENTATION } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { invert, multiply, turnOf } from '../pose/affine.ts';
import { type Angles, quaternionToAngles } from '../pose/angles.ts';

const AXES = ['x', 'y', 'z'] as const;
const space = new Float64Array(16);
const local = new Float64Array(16);
const turn = new Float64Array(4);

/**
 * The channels that put a member where a matrix of the world says, in the space it lives in at a frame; its size is left alone,
 * and so are channels its rig locks.
 * @param frame the numbers of that moment
 */
export function channelsAt(
  shot: Shot,
  frame: Frame,
  id: string,
  world: Float64Array,
  what: 'move' | 'turn' | 'both' = 'both',
): Record<string, ChannelValue> {
  const { layout } = frame;
  const slot = layout.slotOf.get(id)!;
  const member = shot.members.at(id);
  const parent = layout.space[slot];
  if (parent < 0) local.set(world);
  else if (invert(space, 0, frame.world, parent * 16)) multiply(local, 0, space, 0, world, 0);
  else return {};
  const out: Record<string, ChannelValue> = {};
  const write = (channel: string, value: ChannelValue) => {
    if (findChannel(member, channel, shot.rigs)) out[channelPath(id, channel)] = value;
  };
  if (what !== 'turn') for (const [i, axis] of AXES.entries()) write(`move.${axis}`, local[12 + i]);
  if (what === 'move') return out;
  turnOf(turn, 0, local, 0);
  const q = [turn[0], turn[1], turn[2], turn[3]] as const;
  if (member.rotation === 'orientation') write(ORIENTATION, q);
  else {
    const near = AXES.map((axis) => frame.value(id, `turn.${axis}`) ?? 0) as Angles;
    const angles = quaternionToAngles(q, member.order, near);
    for (const [i, axis] of AXES.entries()) write(`turn.${axis}`, angles[i]);
  }
  return out;
}
