import { everydayPaths, newId, type Shot, saveSet, setKeys, setPaths, splitPath } from '@varrup/core';
import { toast } from 'sonner';
import { useQuestion } from '../view/questions.ts';
import { pickChannels, select } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { channelsNow, frameNow, hasSelection, pickedNow, run, withShot } from './now.ts';

/** Control sets: channels that are keyed and picked together. */

/** The channels a new set would hold: the picked ones, else those that "key every channel" means for all who are picked. */
export const pathsForSet = (shot: Shot): string[] =>
  channelsNow().length > 0 ? [...channelsNow()] : everydayPaths(shot, pickedNow());

export function makeSet(shot: Shot, name: string): void {
  run(saveSet, { set: { id: newId(), name, paths: pathsForSet(shot) } });
}

/** Picks the members and the channels of a set. */
export function pickSet(shot: Shot, id: string): void {
  const paths = setPaths(shot, shot.sets.at(id));
  const members = [...new Set(paths.map((p) => splitPath(p).member))];
  select(members);
  pickChannels(paths);
}

export function keySet(shot: Shot, id: string): void {
  run(setKeys, { frame: frameNow(), paths: setPaths(shot, shot.sets.at(id)) });
}

/** The sets that have a channel of anybody picked. */
export const setsOfPicked = (shot: Shot): string[] => {
  const picked = new Set(pickedNow());
  return shot.sets
    .values()
    .filter((set) => set.paths.some((p) => picked.has(splitPath(p).member)))
    .map((set) => set.id);
};

export const setCommands: AppCommand[] = [
  {
    id: 'set.key',
    label: 'Key the control sets of what is picked',
    group: 'Keys',
    shortcut: 'Ctrl+K',
    run: withShot((shot) => {
      const sets = setsOfPicked(shot);
      const paths = [...new Set(sets.flatMap((id) => setPaths(shot, shot.sets.at(id))))];
      if (paths.length === 0) toast('Nothing picked belongs to a control set. Make one with Ctrl+G.');
      else run(setKeys, { frame: frameNow(), paths });
    }),
    enabled: hasSelection,
  },
  {
    id: 'set.make',
    label: 'Make a control set of the picked channels…',
    group: 'Keys',
    shortcut: 'Ctrl+G',
    run: () => useQuestion.getState().ask('set'),
    enabled: hasSelection,
  },
];
