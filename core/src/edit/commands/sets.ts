import { channelPath, ORIENTATION, shownChannels, splitPath } from '../../document/channels.ts';
import type { Member } from '../../document/member.ts';
import type { ControlSet, Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import type { Rigs } from '../../rig/rigs.ts';
import { defineCommand } from '../edit.ts';

/** Control sets, and the choice of what "key every channel" means. */

/** Makes a control set, or changes one. */
export const saveSet = defineCommand<{ set: ControlSet }>({
  name: 'set.save',
  label: ({ set }, shot) => `${shot.sets.has(set.id) ? 'change' : 'make'} the control set ${set.name}`,
  apply: (shot, { set }) => ({ ...shot, sets: shot.sets.with(set.id, set) }),
});

export const removeSet = defineCommand<{ id: string }>({
  name: 'set.remove',
  label: ({ id }, shot) => `delete the control set ${shot.sets.get(id)?.name ?? ''}`,
  apply(shot, { id }) {
    const sets = shot.sets.without(id);
    return shot.sets.has(id) ? { ...shot, sets } : shot;
  },
});

/** The channels of a set as they are now: a turn counts whichever way its member turns, and who has gone is left out. */
export function setPaths(shot: Shot, set: ControlSet): string[] {
  const paths = set.paths.flatMap((path) => {
    const { member: id, channel } = splitPath(path);
    const member = shot.members.get(id);
    if (!member) return [];
    const turning = channel === ORIENTATION || channel.startsWith('turn.');
    const wanted = !turning
      ? [channel]
      : member.rotation === 'orientation'
        ? [ORIENTATION]
        : channel === ORIENTATION
          ? ['turn.x', 'turn.y', 'turn.z']
          : [channel];
    const has = new Set(shownChannels(member, shot.rigs).map((c) => c.id));
    return wanted.filter((c) => has.has(c)).map((c) => channelPath(id, c));
  });
  return [...new Set(paths)];
}

/** The channels that "key every channel" means for a member: those chosen for it, or all an animator poses by. */
export function keyedChannels(member: Member, rigs: Rigs): string[] {
  const shown = shownChannels(member, rigs);
  const { keyed } = member;
  if (!keyed) return shown.filter((c) => c.everyday).map((c) => c.id);
  const turns = keyed.some((id) => id === ORIENTATION || id.startsWith('turn.'));
  return shown.filter((c) => keyed.includes(c.id) || (turns && c.id === ORIENTATION)).map((c) => c.id);
}

/** Chooses the channels that "key every channel" means for members; null goes back to the usual ones. */
export const chooseKeyed = defineCommand<{ ids: readonly string[]; channels: readonly string[] | null }>({
  name: 'member.keyed',
  label: ({ ids, channels }, shot) =>
    `${channels ? `key ${channels.length} channels` : 'key the usual channels'} of ${memberWords(shot, ids)}`,
  apply(shot, { ids, channels }) {
    const members = shot.members.edit();
    for (const id of ids) {
      const { keyed: _, ...plain } = members.at(id);
      members.set(id, channels ? { ...plain, keyed: [...channels] } : plain);
    }
    return { ...shot, members: members.done() };
  },
});
