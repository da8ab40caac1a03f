import { idleControls } from '../body/index.ts';
import { channelPath, controlsOf, isLocked, type Shot, shownChannels, splitPath } from '../document/index.ts';
import { keyedChannels } from './commands/sets.ts';

/** Which channels a way of keying means, for the members that are picked. */

type Selected = readonly string[];
/** The groups of channels that a hand works on. */
type Group = 'move' | 'turn' | 'size';

const pathsWhere = (
  shot: Shot,
  ids: Selected,
  want: (channel: { group: string; label: string; everyday: boolean }) => boolean,
) =>
  ids
    .filter((id) => shot.members.has(id) && !isLocked(shot, id))
    .flatMap((id) =>
      shownChannels(shot.members.at(id), shot.rigs)
        .filter(want)
        .map((c) => channelPath(id, c.id)),
    );

/** Members, and with a rig all its controls: whoever picks a rig means its body. */
const withBodies = (shot: Shot, ids: Selected): string[] =>
  ids.flatMap((id) => (shot.members.get(id)?.kind === 'rig' ? [id, ...controlsOf(shot, id).map((c) => c.id)] : [id]));

/** What "key every channel" means: the channels chosen for each member, or all that an animator poses by. */
export function everydayPaths(shot: Shot, ids: Selected): string[] {
  const rigs = ids.filter((id) => shot.members.get(id)?.kind === 'rig');
  const idle = new Set(rigs.flatMap((id) => [...idleControls(shot, id)]));
  return [...new Set(withBodies(shot, ids))]
    .filter((id) => shot.members.has(id) && !isLocked(shot, id))
    .flatMap((id) => keyedChannels(shot.members.at(id), shot.rigs).map((c) => channelPath(id, c)))
    .filter((path) => !isIdleRoot(shot, path) && (shot.curves.has(path) || !idle.has(splitPath(path).member)));
}

/** A channel of a rig as a whole that nobody has used: the body is posed by its controls. */
function isIdleRoot(shot: Shot, path: string): boolean {
  const { member: id, channel } = splitPath(path);
  const member = shot.members.at(id);
  return (
    member.kind === 'rig' &&
    !shot.curves.has(path) &&
    !shot.loose.has(path) &&
    !Object.hasOwn(member.values, channel) &&
    !channel.includes('custom')
  );
}

/** Whether neither where a rig stands nor which way it turns is keyed or loose. */
export const isPlaceIdle = (shot: Shot, rig: string): boolean =>
  groupPaths(shot, [rig], 'move')
    .concat(groupPaths(shot, [rig], 'turn'))
    .every((path) => !shot.curves.has(path) && !shot.loose.has(path));

/** One axis of move, turn or size. */
export const axisPaths = (shot: Shot, ids: Selected, tool: Group, axis: string) =>
  pathsWhere(shot, ids, (c) => c.group === tool && c.label === axis);

/** Only move, only turn or only size. */
export const groupPaths = (shot: Shot, ids: Selected, tool: Group) =>
  pathsWhere(shot, ids, (c) => c.group === tool || (tool === 'turn' && c.group === 'orientation'));

/** Channels that have keys already. */
export const animatedPaths = (shot: Shot, ids: Selected) => {
  const wanted = new Set(withBodies(shot, ids));
  return shot.curves.keys().filter((path) => wanted.has(path.slice(0, path.indexOf('.'))));
};

/** Loose channels: of the picked members, or of everybody when nobody is picked. */
export const loosePaths = (shot: Shot, ids: Selected) =>
  shot.loose
    .keys()
    .filter((path) => ids.length === 0 || withBodies(shot, ids).includes(path.slice(0, path.indexOf('.'))));

const framesOf = new WeakMap<Shot['curves'], Map<string, number[]>>();

/** Every frame on which one of the members has a key, in order; of everybody when nobody is picked. */
export function keyFrames(shot: Shot, ids: Selected): number[] {
  // Asked for many times between two edits, and long shots have many keys.
  const known = framesOf.get(shot.curves) ?? new Map<string, number[]>();
  framesOf.set(shot.curves, known);
  const name = ids.join(' ');
  const frames = known.get(name) ?? sortedFrames(shot, ids);
  known.set(name, frames);
  return frames;
}

function sortedFrames(shot: Shot, ids: Selected): number[] {
  const wanted = new Set(withBodies(shot, ids));
  const frames = new Set<number>();
  for (const [path, curve] of shot.curves.entries()) {
    if (wanted.size > 0 && !wanted.has(path.slice(0, path.indexOf('.')))) continue;
    for (const key of curve.keys) frames.add(key.frame);
  }
  return [...frames].sort((a, b) => a - b);
}
