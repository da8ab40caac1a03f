import { channelPath, isLocked, type Shot, shownChannels } from '@varrup/core';
import type { Tool } from '../view/view-store.ts';

/** Which channels a way of keying means, for the picked members. */

type Selected = readonly string[];

const pathsWhere = (shot: Shot, ids: Selected, want: (channel: { group: string; everyday: boolean }) => boolean) =>
  ids
    .filter((id) => id in shot.members && !isLocked(shot, id))
    .flatMap((id) =>
      shownChannels(shot.members[id])
        .filter(want)
        .map((c) => channelPath(id, c.id)),
    );

/** Every channel an animator poses by: move, turn, size and the member's own. */
export const everydayPaths = (shot: Shot, ids: Selected) => pathsWhere(shot, ids, (c) => c.everyday);

/** Only move, only turn or only size. */
export const groupPaths = (shot: Shot, ids: Selected, tool: Exclude<Tool, 'pick'>) =>
  pathsWhere(shot, ids, (c) => c.group === tool || (tool === 'turn' && c.group === 'orientation'));

/** Channels that have keys already. */
export const animatedPaths = (shot: Shot, ids: Selected) =>
  Object.keys(shot.curves).filter((path) => ids.includes(path.slice(0, path.indexOf('.'))));

/** Loose channels: of the picked members, or of everybody when nobody is picked. */
export const loosePaths = (shot: Shot, ids: Selected) =>
  Object.keys(shot.loose).filter((path) => ids.length === 0 || ids.includes(path.slice(0, path.indexOf('.'))));

/** Every frame on which one of the members has a key, in order; of everybody when nobody is picked. */
export function keyFrames(shot: Shot, ids: Selected): number[] {
  const frames = new Set<number>();
  for (const [path, curve] of Object.entries(shot.curves)) {
    if (ids.length > 0 && !ids.includes(path.slice(0, path.indexOf('.')))) continue;
    for (const key of curve.keys) frames.add(key.frame);
  }
  return [...frames].sort((a, b) => a - b);
}
