import {
  animatedPaths,
  axisPaths,
  changedPaths,
  dropLoose,
  everydayPaths,
  groupPaths,
  isPlaceIdle,
  keyIndexAt,
  keyLoose,
  loosePaths,
  removeKeys,
  type Shot,
  setKeyRole,
  setKeys,
} from '@varrup/core';
import { toast } from 'sonner';
import { useAutoKey } from '../view/auto-key.ts';
import { pickKeys, useSelection } from '../view/selection.ts';
import { useTool } from '../view/tool.ts';
import type { AppCommand } from './command.ts';
import {
  channelsNow,
  frameNow,
  hasKeys,
  hasSelection,
  hasShot,
  keysNow,
  pickedNow,
  run,
  shotNow,
  withShot,
} from './now.ts';
import { timingPaths } from './retiming.ts';

/** Setting, picking, moving and deleting keys. */

function keyPaths(paths: readonly string[], nothing: string): void {
  if (paths.length === 0) toast(nothing);
  else run(setKeys, { frame: frameNow(), paths });
}

/** Rigs of which it was said that their place is not keyed with their pose. */
const told = new Set<string>();

/** Says once of a rig that its place on the stage is not keyed with its pose, where nobody has moved it. */
function tellOfPlaces(shot: Shot, ids: readonly string[]): void {
  const idle = ids.filter((id) => shot.members.get(id)?.kind === 'rig' && !told.has(id) && isPlaceIdle(shot, id));
  for (const id of idle) told.add(id);
  const [first] = idle;
  if (first)
    toast(
      `${shot.members.at(first).name}’s pose is keyed. Its place on the stage is not, as nobody has keyed it: Alt+M keys where it stands, Alt+T which way it turns.`,
    );
}

const PICK_FIRST = 'Pick something first: click it in the stage or in the cast.';

export const keying: AppCommand[] = [
  {
    id: 'key.all',
    label: 'Key every channel',
    group: 'Keys',
    shortcut: 'K',
    run: withShot((shot) => {
      keyPaths(everydayPaths(shot, pickedNow()), PICK_FIRST);
      tellOfPlaces(shot, pickedNow());
    }),
    enabled: hasSelection,
  },
  {
    id: 'key.picked',
    label: 'Key the picked channels',
    group: 'Keys',
    shortcut: 'Shift+K',
    run: () => keyPaths(channelsNow(), 'Pick channels first: click their names in the channels panel.'),
    enabled: () => channelsNow().length > 0,
  },
  ...(['move', 'turn', 'size'] as const).map(
    (tool): AppCommand => ({
      id: `key.${tool}`,
      label: `Key only ${tool}`,
      group: 'Keys',
      shortcut: { move: 'Alt+M', turn: 'Alt+T', size: 'Alt+S' }[tool],
      run: withShot((shot) => keyPaths(groupPaths(shot, pickedNow(), tool), PICK_FIRST)),
      enabled: hasSelection,
    }),
  ),
  ...(['x', 'y', 'z'] as const).map(
    (axis): AppCommand => ({
      id: `key.axis.${axis}`,
      label: `Key only ${axis} of move, turn or size, as the tool is`,
      group: 'Keys',
      shortcut: `Alt+${axis.toUpperCase()}`,
      run: withShot((shot) => {
        const { tool } = useTool.getState();
        const { picked: selection } = useSelection.getState();
        keyPaths(axisPaths(shot, selection, tool === 'pick' ? 'move' : tool, axis), PICK_FIRST);
      }),
      enabled: hasSelection,
    }),
  ),
  {
    id: 'key.changed',
    label: 'Key what has changed since the last key',
    group: 'Keys',
    shortcut: 'C',
    run: withShot((shot) => {
      const { picked: selection } = useSelection.getState();
      const paths = animatedPaths(shot, selection.length > 0 ? selection : shot.members.keys());
      keyPaths(changedPaths(shot, paths, frameNow()), 'Nothing has changed since its last key.');
    }),
  },
  {
    id: 'key.animated',
    label: 'Key the channels that have keys already',
    group: 'Keys',
    shortcut: 'Alt+K',
    run: withShot((shot) => keyPaths(animatedPaths(shot, pickedNow()), 'Nothing picked has keys yet.')),
    enabled: hasSelection,
  },
  {
    id: 'key.loose',
    label: 'Key what is loose, each change on its frame',
    group: 'Keys',
    shortcut: 'L',
    run: withShot((shot) => {
      const paths = loosePaths(shot, pickedNow());
      if (paths.length > 0) run(keyLoose, { paths });
      else toast('Nothing is loose.');
    }),
    enabled: () => (shotNow()?.loose.size ?? 0) > 0,
  },
  {
    id: 'loose.drop',
    label: 'Drop what is loose',
    group: 'Keys',
    shortcut: 'D',
    run: withShot((shot) => run(dropLoose, { paths: loosePaths(shot, pickedNow()) })),
    enabled: () => (shotNow()?.loose.size ?? 0) > 0,
  },
  {
    id: 'autokey.toggle',
    label: 'Auto key on or off',
    group: 'Keys',
    shortcut: 'A',
    run: () => useAutoKey.setState({ mode: useAutoKey.getState().mode === 'off' ? 'every' : 'off' }),
  },
  {
    id: 'autokey.animated',
    label: 'Auto key only channels that have keys',
    group: 'Keys',
    shortcut: 'Shift+A',
    run: () => useAutoKey.setState({ mode: useAutoKey.getState().mode === 'animated' ? 'off' : 'animated' }),
  },
  {
    id: 'keys.here',
    label: 'Pick the keys on this frame',
    group: 'Keys',
    shortcut: 'E',
    run: withShot((shot) => pickKeys(keysOn(shot, frameNow()))),
  },
  {
    id: 'keys.every',
    label: 'Pick all keys of what is picked',
    group: 'Keys',
    shortcut: 'Shift+E',
    run: withShot((shot) => {
      const paths = timingPaths(shot);
      pickKeys(Object.fromEntries(paths.map((p) => [p, shot.curves.at(p).keys.map((k) => k.frame)])));
    }),
  },
  {
    id: 'keys.delete',
    label: 'Delete the picked keys, or those of the picked channels',
    group: 'Keys',
    shortcut: 'Delete',
    run: deletePicked,
    enabled: hasShot,
  },
  {
    id: 'keys.breakdown',
    label: 'Mark the picked keys as key or breakdown',
    group: 'Keys',
    shortcut: 'B',
    run: withShot((shot) => {
      const [path, frames] = Object.entries(keysNow())[0] ?? [];
      if (!path || !frames) return;
      const first = shot.curves.get(path)?.keys[keyIndexAt(shot.curves.at(path).keys, frames[0])];
      run(setKeyRole, { keys: keysNow(), role: first?.role === 'key' ? 'breakdown' : 'key' });
    }),
    enabled: hasKeys,
  },
];

/** The picked keys go; where none are, those of the channels that are picked. It is the key for keys: nobody of the cast goes by it. */
function deletePicked(): void {
  const shot = shotNow();
  if (!shot) return;
  const { keys, channels } = useSelection.getState();
  const picked = hasKeys() ? keys : keysOfChannels(shot, channels);
  if (Object.keys(picked).length === 0) {
    toast('No key is picked. Somebody is taken out of the cast with Shift+Delete.');
    return;
  }
  run(removeKeys, { keys: picked });
  pickKeys({});
}

const keysOfChannels = (shot: Shot, paths: readonly string[]) =>
  Object.fromEntries(
    paths.flatMap((path) => {
      const curve = shot.curves.get(path);
      return curve ? [[path, curve.keys.map((key) => key.frame)]] : [];
    }),
  );

function keysOn(shot: Shot, frame: number) {
  const paths = timingPaths(shot);
  return Object.fromEntries(
    paths.filter((p) => keyIndexAt(shot.curves.at(p).keys, frame) >= 0).map((p) => [p, [frame]]),
  );
}
