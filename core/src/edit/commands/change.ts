import { keyIndexAt, withHandleKind, withKey, withOrientationKey } from '../../curve/reshape.ts';
import { type ChannelValue, findChannel, ORIENTATION, splitPath } from '../../document/channels.ts';
import { looseAt, withLoose, withoutLoose } from '../../document/loose.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords } from '../../document/words.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import { type Quaternion, withinBounds } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';
import { refuseOutside } from './value-range.ts';

/** Whether a change by hand keys: never, on every channel it touches, or only on channels that have keys already. */
export type AutoKey = 'off' | 'every' | 'animated';

/**
 * A hand changes channels at a frame. What becomes of it depends on auto-key: it is keyed, or set where nothing is
 * animated, or stays *loose* where a curve would otherwise have its way.
 */
export const changeChannels = defineCommand<{
  frame: number;
  values: Readonly<Record<string, ChannelValue>>;
  autoKey: AutoKey;
}>({
  name: 'channel.change',
  label: ({ values }, shot) => `change ${channelWords(shot, Object.keys(values))}`,
  apply(shot, { frame, values, autoKey }) {
    let next = shot;
    for (const [path, value] of Object.entries(values)) {
      if (isShut(shot, path)) continue;
      refuseOutside(shot, path, value);
      const animated = shot.curves.has(path);
      if (autoKey === 'every' || (autoKey === 'animated' && animated)) next = keyed(next, path, frame, value);
      else if (animated) next = { ...next, loose: withLoose(next.loose, path, frame, value) };
      else next = withConstant(next, path, value);
    }
    return next;
  },
});

/** Keys channels as they show at a frame. What was loose is keyed; a key that is there is replaced. */
export const setKeys = defineCommand<{ frame: number; paths: readonly string[] }>({
  name: 'key.set',
  label: ({ paths, frame }, shot) => `key ${channelWords(shot, paths)} at ${frame}`,
  apply: (shot, { frame, paths }) =>
    paths.reduce((next, path) => {
      const value = channelValue(shot, path, frame);
      return value === undefined || isShut(shot, path) ? next : keyed(next, path, frame, value);
    }, shot),
});

/**
 * Those of the channels that differ from their last key at or before a frame: what a hand has changed since. Before its
 * first key a channel is held against that one; a channel without keys has nothing to differ from.
 */
export function changedPaths(shot: Shot, paths: readonly string[], frame: number): string[] {
  return paths.filter((path) => {
    const keys = shot.curves.get(path)?.keys;
    if (!keys) return false;
    const last = (keys as readonly { frame: number; value: ChannelValue }[]).findLast((k) => k.frame <= frame + 1e-6);
    const now = channelValue(shot, path, frame);
    const then = (last ?? keys[0]).value;
    if (typeof now === 'number' && typeof then === 'number') return Math.abs(now - then) > 1e-9;
    return String(now) !== String(then);
  });
}

/** Lets what is loose go, at whatever frames: the curves have their way again. */
export const dropLoose = defineCommand<{ paths: readonly string[] }>({
  name: 'loose.drop',
  label: ({ paths }, shot) => `drop ${channelWords(shot, paths)}`,
  apply(shot, { paths }) {
    const loose = paths.reduce((left, path) => withoutLoose(left, path), shot.loose);
    return loose === shot.loose ? shot : { ...shot, loose };
  },
});

/** Keys what is loose, each change on the frame it was made on. */
export const keyLoose = defineCommand<{ paths: readonly string[] }>({
  name: 'loose.key',
  label: ({ paths }, shot) => `key ${channelWords(shot, paths)}`,
  apply: (shot, { paths }) =>
    paths.reduce(
      (next, path) =>
        (shot.loose.get(path) ?? []).reduce(
          (keyedSoFar, { frame, value }) => keyed(keyedSoFar, path, frame, value),
          next,
        ),
      shot,
    ),
});

/** Whether a rig locks a channel: nothing sets or keys it. */
export function isShut(shot: Shot, path: string): boolean {
  const { member: id, channel } = splitPath(path);
  const member = shot.members.get(id);
  return member?.kind === 'control' && findChannel(member, channel, shot.rigs) === undefined;
}

function keyed(shot: Shot, path: string, frame: number, value: ChannelValue): Shot {
  const old = shot.curves.get(path);
  const curve =
    typeof value === 'number'
      ? withKey(old?.type === 'number' ? old : undefined, frame, withinBounds(value))
      : withOrientationKey(old?.type === 'orientation' ? old : undefined, frame, value);
  // Seen or not seen: there is nothing between the two for a curve to pass through.
  const switched =
    !old && splitPath(path).channel === 'visible' ? withHandleKind(curve, frame, 'out', 'stepped') : curve;
  return { ...shot, curves: shot.curves.with(path, switched), loose: withoutLoose(shot.loose, path, frame) };
}

function withConstant(shot: Shot, path: string, value: ChannelValue): Shot {
  const { member: id, channel } = splitPath(path);
  const member = shot.members.get(id);
  if (!member) return shot;
  const changed =
    channel === ORIENTATION
      ? { ...member, orientation: [...(value as Quaternion)] as [number, number, number, number] }
      : { ...member, values: { ...member.values, [channel]: value as number } };
  return { ...shot, members: shot.members.with(id, changed) };
}

/** How a channel stands at a frame, in the order of what an animator must see first. */
export type ChannelState = 'loose' | 'keyed' | 'animated' | 'constant';

export function channelState(shot: Shot, path: string, frame: number): ChannelState {
  if (looseAt(shot.loose, path, frame) !== undefined) return 'loose';
  const curve = shot.curves.get(path);
  if (!curve) return 'constant';
  return keyIndexAt(curve.keys, frame) >= 0 ? 'keyed' : 'animated';
}
