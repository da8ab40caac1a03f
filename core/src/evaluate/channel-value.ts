import { orientationValueAt } from '../curve/reshape.ts';
import { valueAt } from '../curve/sample.ts';
import { type ChannelValue, channelsOf, constantValue, ORIENTATION, splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';

/** What a channel shows at a frame: its loose value, else its curve's, else its constant. Undefined if it does not exist. */
export function channelValue(shot: Shot, path: string, frame: number): ChannelValue | undefined {
  const loose = shot.loose[path];
  if (loose !== undefined) return loose;
  const curve = shot.curves[path];
  if (curve?.type === 'number') return valueAt(curve, frame);
  if (curve?.type === 'orientation') return orientationValueAt(curve, frame);
  const { member: id, channel } = splitPath(path);
  const member = shot.members[id];
  if (!member) return undefined;
  if (channel === ORIENTATION) return member.orientation;
  const found = channelsOf(member).find((c) => c.id === channel);
  return found && constantValue(member, found);
}
