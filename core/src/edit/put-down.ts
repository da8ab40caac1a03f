import { type ChannelValue, channelPath, ORIENTATION } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Frame } from '../evaluate/frame.ts';
import { frameOf } from '../evaluate/program.ts';
import { Ground } from '../ground/ground.ts';
import { invert, swing, turnOf, turnTimes } from '../pose/affine.ts';
import { type Angles, quaternionToAngles } from '../pose/angles.ts';
import { direction, type Vector } from '../pose/vectors.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { changeChannels } from './commands/change.ts';

const AXES = ['x', 'y', 'z'] as const;

/**
 * The channels that put a member down on what lies below it, standing square on it where wanted; on the floor where there is nothing else. None
 * for what has no form.
 * @param frame the frame it is put down on
 */
export function putDown(shot: Shot, id: string, frame: number, square: boolean): Record<string, ChannelValue> {
  const now = frameOf(shot, frame);
  const first = landingOf(shot, now, id);
  if (!first) return {};
  const turned = square ? uprightOn(shot, now, id, first.normal) : {};
  const there = changeChannels.apply(shot, { frame, values: turned, autoKey: 'off' });
  const after = Object.keys(turned).length > 0 ? frameOf(there, frame) : now;
  const landing = landingOf(there, after, id);
  if (!landing) return turned;
  const slot = after.layout.slotOf.get(id)!;
  const by = landing.y - after.world[slot * 16 + 13];
  return { ...turned, ...movedUp(after, id, slot, by) };
}

function landingOf(shot: Shot, frame: Frame, id: string) {
  const slot = frame.layout.slotOf.get(id);
  if (slot === undefined) return null;
  const ground = new Ground(shot);
  if (!ground.touch(frame, id)) return null;
  const [x, y, z] = frame.world.subarray(slot * 16 + 12, slot * 16 + 15);
  return ground.landing(frame, id, x, z, y);
}

/** What turns a member so that its own up is a direction of the world. */
function uprightOn(shot: Shot, frame: Frame, id: string, normal: Vector): Record<string, ChannelValue> {
  const slot = frame.layout.slotOf.get(id)!;
  const { world } = frame;
  const up = direction([world[slot * 16 + 4], world[slot * 16 + 5], world[slot * 16 + 6]], [0, 1, 0]);
  const by = new Float64Array(4);
  const turn = new Float64Array(4);
  swing(by, 0, up[0], up[1], up[2], normal[0], normal[1], normal[2], 1);
  turnOf(turn, 0, world, slot * 16);
  turnTimes(turn, 0, by, 0, turn, 0);
  const space = frame.layout.space[slot];
  if (space >= 0) {
    const parent = new Float64Array(4);
    turnOf(parent, 0, world, space * 16);
    for (let i = 0; i < 3; i++) parent[i] = -parent[i];
    turnTimes(turn, 0, parent, 0, turn, 0);
  }
  const member = shot.members.at(id);
  const q: Quaternion = [turn[0], turn[1], turn[2], turn[3]];
  if (member.rotation === 'orientation') return { [channelPath(id, ORIENTATION)]: q };
  const near = AXES.map((axis) => frame.value(id, `turn.${axis}`) ?? 0) as Angles;
  const angles = quaternionToAngles(q, member.order, near);
  return Object.fromEntries(AXES.map((axis, i) => [channelPath(id, `turn.${axis}`), angles[i]]));
}

/** What moves a member up in the world, in the space it lives in. */
function movedUp(frame: Frame, id: string, slot: number, by: number): Record<string, ChannelValue> {
  const space = frame.layout.space[slot];
  const way: number[] = [0, by, 0];
  if (space >= 0) {
    const into = new Float64Array(16);
    if (!invert(into, 0, frame.world, space * 16)) return {};
    for (let i = 0; i < 3; i++) way[i] = into[4 + i] * by;
  }
  return Object.fromEntries(
    AXES.flatMap((axis, i) => {
      const path = channelPath(id, `move.${axis}`);
      return Math.abs(way[i]) > 1e-12 ? [[path, (frame.value(id, `move.${axis}`) ?? 0) + way[i]]] : [];
    }),
  );
}
