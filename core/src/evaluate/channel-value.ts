import { orientationValueAt } from '../curve/reshape.ts';
import { valueAt } from '../curve/sample.ts';
import type { ChannelValue } from '../document/channels.ts';
import { looseAt } from '../document/loose.ts';
import type { Shot } from '../document/shot.ts';
import { sourceOf } from './source.ts';

/**
 * What a channel holds at a frame, what is loose there included, whatever a formula makes of it: what is keyed when the channel is.
 * Undefined if it does not exist.
 */
export function channelValue(shot: Shot, path: string, frame: number): ChannelValue | undefined {
  const loose = shot.over?.has(path) ? undefined : looseAt(shot.loose, path, frame);
  if (loose !== undefined) return loose;
  const source = sourceOf(shot, path);
  const held = source?.is === 'formula' ? source.on : source;
  if (held?.is !== 'keys') return held?.value;
  const { curve } = held;
  return curve.type === 'number' ? valueAt(curve, frame) : orientationValueAt(curve, frame);
}
