import { withKey, withOrientationKey } from '../../curve/reshape.ts';
import { channelPath, ORIENTATION } from '../../document/channels.ts';
import type { Quaternion } from '../../document/numbers.ts';
import type { Shot } from '../../document/shot.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import { type Angles, anglesToQuaternion, quaternionToAngles } from '../../pose/angles.ts';
import type { RotationOrder } from '../../pose/rotation-order.ts';
import { defineCommand } from '../edit.ts';
import { memberWords } from '../words.ts';

const TURN = ['turn.x', 'turn.y', 'turn.z'] as const;

/**
 * Changes how a member turns: three angles in an order, or one orientation. At every frame that has a key for any part
 * of the turn the member stands as before; between keys it takes the new way's own path.
 */
export const setRotation = defineCommand<{ id: string; rotation: 'angles' | 'orientation'; order: RotationOrder }>({
  name: 'member.rotation',
  label: ({ id, rotation, order }, shot) =>
    `turn ${memberWords(shot, [id])} by ${rotation === 'angles' ? `angles ${order}` : 'orientation'}`,
  apply(shot, { id, rotation, order }) {
    const member = shot.members[id];
    if (member.rotation === rotation && member.order === order) return shot;
    const paths = [...TURN.map((c) => channelPath(id, c)), channelPath(id, ORIENTATION)];
    const frames = [...new Set(paths.flatMap((p) => shot.curves[p]?.keys.map((k) => k.frame) ?? []))].sort(
      (a, b) => a - b,
    );
    const curves = { ...shot.curves };
    const loose = { ...shot.loose };
    for (const path of paths) {
      delete curves[path];
      delete loose[path];
    }
    const constant = turnAt(shot, id, frames[0] ?? 1);
    let near: Angles = [0, 0, 0];
    for (const frame of frames) {
      const q = turnAt(shot, id, frame);
      if (rotation === 'orientation') {
        const path = channelPath(id, ORIENTATION);
        const old = curves[path];
        curves[path] = withOrientationKey(old?.type === 'orientation' ? old : undefined, frame, q);
        continue;
      }
      near = quaternionToAngles(q, order, near);
      TURN.forEach((c, i) => {
        const path = channelPath(id, c);
        const old = curves[path];
        curves[path] = withKey(old?.type === 'number' ? old : undefined, frame, near[i]);
      });
    }
    const angles = quaternionToAngles(constant, order);
    const values = { ...member.values, ...Object.fromEntries(TURN.map((c, i) => [c, angles[i]])) };
    const changed = { ...member, rotation, order, values, orientation: [...constant] as typeof member.orientation };
    return { ...shot, members: { ...shot.members, [id]: changed }, curves, loose };
  },
});

/** How a member is turned within its parent at a frame. */
export function turnAt(shot: Shot, id: string, frame: number): Quaternion {
  const member = shot.members[id];
  if (member.rotation === 'orientation') return channelValue(shot, channelPath(id, ORIENTATION), frame) as Quaternion;
  const angles = TURN.map((c) => channelValue(shot, channelPath(id, c), frame) as number) as Angles;
  return anglesToQuaternion(angles, member.order);
}
