import {
  changeChannels,
  channelPath,
  findChannel,
  removeCustomChannel,
  removeKeys,
  type Shot,
  splitPath,
} from '@varrup/core';
import { toast } from 'sonner';
import { menuOfPicked } from '../menus/here.ts';
import { useAutoKey } from '../view/auto-key.ts';
import { usePlaces } from '../view/places.ts';
import { pickChannels } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { channelsNow, frameNow, hasSelection, hasShot, pickedNow, run, shotNow, withShot } from './now.ts';

/** The picked channels, whatever keys are picked. */

const CUSTOM = 'custom.';

/** What the picked channels are called, and their first values. */
const picked = (shot: Shot) =>
  channelsNow().flatMap((path) => {
    const { member: id, channel: name } = splitPath(path);
    const member = shot.members.get(id);
    const channel = member && findChannel(member, name, shot.rigs);
    return channel ? [{ path, id, channel }] : [];
  });

const hasChannels = () => channelsNow().length > 0;
const hasCustom = () => channelsNow().some((path) => splitPath(path).channel.startsWith(CUSTOM));

export const channelCommands: AppCommand[] = [
  {
    id: 'channel.clear',
    label: 'Delete all keys of the picked channels',
    group: 'Keys',
    run: withShot((shot) => {
      const keys = Object.fromEntries(
        channelsNow().flatMap((path) => {
          const frames = shot.curves.get(path)?.keys.map((k) => k.frame);
          return frames ? [[path, frames]] : [];
        }),
      );
      if (Object.keys(keys).length > 0) run(removeKeys, { keys });
      else toast('The picked channels have no keys.');
    }),
    enabled: hasChannels,
  },
  {
    id: 'channel.rest',
    label: 'Back to rest: the picked channels',
    group: 'Poses',
    run: withShot((shot) => {
      const values = Object.fromEntries(picked(shot).map(({ path, channel }) => [path, channel.initial]));
      run(changeChannels, { frame: frameNow(), values, autoKey: useAutoKey.getState().mode });
    }),
    enabled: hasChannels,
  },
  {
    id: 'channel.remove',
    label: 'Take the picked channel of your own away',
    group: 'Keys',
    run: withShot((shot) => {
      for (const { id, channel } of picked(shot))
        if (channel.id.startsWith(CUSTOM)) run(removeCustomChannel, { id, channel: channel.id.slice(CUSTOM.length) });
      pickChannels([]);
    }),
    enabled: hasCustom,
  },
  {
    id: 'cast.pivot',
    label: 'Pick the pivot: where it turns and sizes about',
    group: 'Cast',
    run: withShot((shot) => {
      const paths = pickedNow().flatMap((id) => {
        const member = shot.members.at(id);
        return ['pivot.x', 'pivot.y', 'pivot.z'].flatMap((channel) =>
          findChannel(member, channel, shot.rigs) ? [channelPath(id, channel)] : [],
        );
      });
      if (paths.length === 0) {
        toast('That turns about a place its rig gives it.');
        return;
      }
      usePlaces.setState({ side: 'channels' });
      pickChannels(paths);
    }),
    enabled: () => hasSelection() && shotNow() !== null,
  },
  {
    id: 'menu.here',
    label: 'Menu of what has the focus, or else of what is picked',
    group: 'View',
    shortcut: 'Shift+F10',
    run: menuOfPicked,
    enabled: hasShot,
  },
];
