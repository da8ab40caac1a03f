import {
  addMember,
  changeChannels,
  channelPath,
  channelValue,
  copiesOf,
  duplicateMembers,
  groupMembers,
  type KindName,
  kinds,
  lockMembers,
  newMember,
  removeMembers,
  type Shot,
  simpleKinds,
} from '@varrup/core';
import { useTable } from '../trial/table.ts';
import { useAutoKey } from '../view/auto-key.ts';
import { useQuestion } from '../view/questions.ts';
import { select, useSelection } from '../view/selection.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasSelection, hasShot, pickedNow, run, shotNow, unlocked, withShot } from './now.ts';

/** Who is in the shot. */

/** Where a new one stands: on the floor, or where it is of use. */
const firstPlaces: Partial<Record<KindName, Record<string, number>>> = {
  ball: { 'move.y': 0.2 },
  camera: { 'move.y': 1.2, 'move.z': 6 },
  light: { 'move.y': 2 },
};

/** Brings a new member in, in the middle of the stage, and picks it. */
export function bringIn(kind: KindName): void {
  const shot = shotNow();
  if (!shot) return;
  const member = newMember(shot, { kind, values: firstPlaces[kind] });
  run(addMember, { member });
  select([member.id]);
}

export const casting: AppCommand[] = [
  ...simpleKinds.map(
    (kind): AppCommand => ({
      id: `cast.add.${kind}`,
      label: `Bring in: ${kinds[kind].label.toLowerCase()}`,
      group: 'Cast',
      run: () => bringIn(kind),
      enabled: hasShot,
    }),
  ),
  {
    id: 'cast.rename',
    label: 'Rename…',
    group: 'Cast',
    shortcut: 'F2',
    run: () => useQuestion.getState().ask('rename-member'),
    enabled: hasSelection,
  },
  {
    id: 'cast.parent',
    label: 'Put under another…',
    group: 'Cast',
    shortcut: 'Shift+U',
    run: () => useQuestion.getState().ask('parent'),
    enabled: hasSelection,
  },
  {
    id: 'cast.group',
    label: 'Group',
    group: 'Cast',
    shortcut: 'G',
    run: withShot((shot) => {
      const group = newMember(shot, { kind: 'group' });
      run(groupMembers, { ids: pickedNow(), group, frame: frameNow() });
      select([group.id]);
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.duplicate',
    label: 'Duplicate',
    group: 'Cast',
    shortcut: 'Ctrl+D',
    run: withShot((shot) => {
      const ids = pickedNow();
      const copies = copiesOf(shot, ids);
      run(duplicateMembers, { ids, copies });
      select(ids.map((id) => copies[id]));
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.hide',
    label: 'Hide or show',
    group: 'Cast',
    shortcut: 'H',
    run: withShot((shot) => toggleVisible(shot, pickedNow())),
    enabled: hasSelection,
  },
  {
    id: 'cast.lock',
    label: 'Lock or unlock',
    group: 'Cast',
    shortcut: 'Shift+H',
    run: withShot((shot) => {
      const ids = pickedNow();
      run(lockMembers, { ids, locked: !ids.every((id) => shot.members.at(id).locked) });
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.delete',
    label: 'Delete what is picked, with its keys',
    group: 'Cast',
    shortcut: 'Shift+Delete',
    run: () => {
      run(removeMembers, { ids: unlocked(pickedNow()) });
      select([]);
    },
    enabled: hasSelection,
  },
  {
    id: 'cast.none',
    label: 'Leave what is shown and not made; otherwise pick nothing',
    group: 'Cast',
    shortcut: 'Escape',
    run: () => {
      const { on, leave } = useTable.getState();
      if (on) leave();
      else useSelection.setState({ picked: [], keys: {}, channels: [] });
    },
  },
  {
    id: 'cast.all',
    label: 'Pick everybody who is not locked',
    group: 'Cast',
    shortcut: 'Ctrl+A',
    run: withShot((shot) => select(unlocked(shot.members.keys()))),
  },
];

/** Hides what is seen and shows what is hidden, as the leading one stands. Visible is a channel like any other. */
export function toggleVisible(shot: Shot, ids: readonly string[]): void {
  const lead = ids.at(-1);
  if (!lead) return;
  const seen = (channelValue(shot, channelPath(lead, 'visible'), frameNow()) as number) >= 0.5;
  const values = Object.fromEntries(ids.map((id) => [channelPath(id, 'visible'), seen ? 0 : 1]));
  run(changeChannels, {
    frame: frameNow(),
    values,
    autoKey: useAutoKey.getState().mode === 'every' ? 'animated' : useAutoKey.getState().mode,
  });
}
