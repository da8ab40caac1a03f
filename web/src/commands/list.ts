import {
  addMember,
  changeChannels,
  channelPath,
  type channelState,
  channelValue,
  copiesOf,
  countKeys,
  dropLoose,
  duplicateMembers,
  type Extension,
  groupMembers,
  type HandleKind,
  joinHandles,
  type KindName,
  keyIndexAt,
  kindNames,
  kinds,
  lockMembers,
  movedSelection,
  moveKeys,
  newMember,
  removeKeys,
  removeMembers,
  type Shot,
  setExtension,
  setHandleKind,
  setKeyRole,
  setKeys,
  setPlayRange,
} from '@varrup/core';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { curvesRef } from '../timeline/curves-ref.ts';
import { themeNow } from '../ui/theme.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { stageRef } from '../view/stage-ref.ts';
import { type AxisFrame, type Looking, type Tool, useHabits, useView } from '../view/view-store.ts';
import { animatedPaths, everydayPaths, groupPaths, keyFrames, loosePaths } from './channel-paths.ts';
import type { AppCommand } from './command.ts';

/** Every command of the Animate desk. */

const shotNow = () => useShot.getState().shot;
const view = () => useView.getState();
const frameNow = () => usePlayhead.getState().frame;
const run: ReturnType<typeof useShot.getState>['run'] = (command, args) => useShot.getState().run(command, args);
const hasShot = () => shotNow() !== null;
const hasSelection = () => view().selection.length > 0;
const hasKeys = () => countKeys(view().keys) > 0;

const withShot = (act: (shot: Shot) => void) => () => {
  const shot = shotNow();
  if (shot) act(shot);
};

function keyPaths(paths: readonly string[], nothing: string): void {
  if (paths.length === 0) toast(nothing);
  else run(setKeys, { frame: frameNow(), paths });
}

const PICK_FIRST = 'Pick something first: click it in the stage or in the cast.';

const keying: AppCommand[] = [
  {
    id: 'key.all',
    label: 'Key every channel',
    group: 'Keys',
    keys: 'K',
    run: withShot((shot) => keyPaths(everydayPaths(shot, view().selection), PICK_FIRST)),
    enabled: hasSelection,
  },
  {
    id: 'key.picked',
    label: 'Key the picked channels',
    group: 'Keys',
    keys: 'Shift+K',
    run: () => keyPaths(view().channels, 'Pick channels first: click their names in the channels panel.'),
    enabled: () => view().channels.length > 0,
  },
  ...(['move', 'turn', 'size'] as const).map(
    (tool): AppCommand => ({
      id: `key.${tool}`,
      label: `Key only ${tool}`,
      group: 'Keys',
      keys: { move: 'Alt+M', turn: 'Alt+T', size: 'Alt+S' }[tool],
      run: withShot((shot) => keyPaths(groupPaths(shot, view().selection, tool), PICK_FIRST)),
      enabled: hasSelection,
    }),
  ),
  {
    id: 'key.animated',
    label: 'Key the channels that have keys already',
    group: 'Keys',
    keys: 'Alt+K',
    run: withShot((shot) => keyPaths(animatedPaths(shot, view().selection), 'Nothing picked has keys yet.')),
    enabled: hasSelection,
  },
  {
    id: 'key.loose',
    label: 'Key what is loose',
    group: 'Keys',
    keys: 'L',
    run: withShot((shot) => keyPaths(loosePaths(shot, view().selection), 'Nothing is loose.')),
    enabled: () => Object.keys(shotNow()?.loose ?? {}).length > 0,
  },
  {
    id: 'loose.drop',
    label: 'Drop what is loose',
    group: 'Keys',
    keys: 'D',
    run: withShot((shot) => run(dropLoose, { paths: loosePaths(shot, view().selection) })),
    enabled: () => Object.keys(shotNow()?.loose ?? {}).length > 0,
  },
  {
    id: 'autokey.toggle',
    label: 'Auto key on or off',
    group: 'Keys',
    keys: 'A',
    run: () => view().set({ autoKey: view().autoKey === 'off' ? 'every' : 'off' }),
  },
  {
    id: 'autokey.animated',
    label: 'Auto key only channels that have keys',
    group: 'Keys',
    keys: 'Shift+A',
    run: () => view().set({ autoKey: view().autoKey === 'animated' ? 'off' : 'animated' }),
  },
  {
    id: 'keys.here',
    label: 'Pick the keys on this frame',
    group: 'Keys',
    keys: 'E',
    run: withShot((shot) => view().set({ keys: keysOn(shot, view().selection, frameNow()) })),
  },
  {
    id: 'keys.every',
    label: 'Pick all keys of what is picked',
    group: 'Keys',
    keys: 'Shift+E',
    run: withShot((shot) => {
      const paths = animatedPaths(shot, view().selection.length > 0 ? view().selection : Object.keys(shot.members));
      view().set({ keys: Object.fromEntries(paths.map((p) => [p, shot.curves[p].keys.map((k) => k.frame)])) });
    }),
  },
  ...([-1, 1] as const).map(
    (by): AppCommand => ({
      id: by < 0 ? 'keys.earlier' : 'keys.later',
      label: `Move the picked keys a frame ${by < 0 ? 'earlier' : 'later'}`,
      group: 'Keys',
      keys: by < 0 ? 'Alt+←' : 'Alt+→',
      run: () => {
        run(moveKeys, { keys: view().keys, by });
        view().set({ keys: movedSelection(view().keys, by) });
      },
      enabled: hasKeys,
    }),
  ),
  {
    id: 'keys.delete',
    label: 'Delete the picked keys',
    group: 'Keys',
    keys: 'Delete',
    run: deletePicked,
    enabled: () => hasKeys() || hasSelection(),
  },
  {
    id: 'keys.breakdown',
    label: 'Mark the picked keys as key or breakdown',
    group: 'Keys',
    keys: 'B',
    run: withShot((shot) => {
      const [path, frames] = Object.entries(view().keys)[0] ?? [];
      if (!path || !frames) return;
      const first = shot.curves[path]?.keys[keyIndexAt(shot.curves[path].keys, frames[0])];
      run(setKeyRole, { keys: view().keys, role: first?.role === 'key' ? 'breakdown' : 'key' });
    }),
    enabled: hasKeys,
  },
];

/** The key under the hand goes first; where no keys are picked, the picked members go. */
function deletePicked(): void {
  if (hasKeys()) {
    run(removeKeys, { keys: view().keys });
    view().set({ keys: {} });
  } else if (hasSelection()) {
    run(removeMembers, { ids: unlocked(view().selection) });
    view().select([]);
  }
}

function keysOn(shot: Shot, ids: readonly string[], frame: number) {
  const paths = animatedPaths(shot, ids.length > 0 ? ids : Object.keys(shot.members));
  return Object.fromEntries(paths.filter((p) => keyIndexAt(shot.curves[p].keys, frame) >= 0).map((p) => [p, [frame]]));
}

const unlocked = (ids: readonly string[]) => ids.filter((id) => !shotNow()?.members[id]?.locked);

function goToKey(direction: -1 | 1): void {
  const shot = shotNow();
  if (!shot) return;
  const frames = keyFrames(shot, view().selection);
  const now = frameNow();
  const next = direction < 0 ? frames.findLast((f) => f < now - 1e-6) : frames.find((f) => f > now + 1e-6);
  if (next !== undefined) usePlayhead.getState().go(next);
}

function step(by: number): void {
  const shot = shotNow();
  if (!shot) return;
  usePlayhead.getState().stop();
  const now = frameNow();
  const whole = by < 0 ? Math.ceil(now) : Math.floor(now);
  usePlayhead.getState().go(Math.min(shot.range.last, Math.max(shot.range.first, whole + by)));
}

const timing: AppCommand[] = [
  {
    id: 'time.play',
    label: 'Play or stop',
    group: 'Time',
    keys: 'Space',
    run: () => {
      const { playing, play, stop } = usePlayhead.getState();
      if (playing) stop();
      else play(shotNow);
    },
    enabled: hasShot,
  },
  { id: 'time.back', label: 'One frame back', group: 'Time', keys: '←', run: () => step(-1) },
  { id: 'time.on', label: 'One frame on', group: 'Time', keys: '→', run: () => step(1) },
  { id: 'time.keyBack', label: 'To the key before', group: 'Time', keys: 'Shift+←', run: () => goToKey(-1) },
  { id: 'time.keyOn', label: 'To the next key', group: 'Time', keys: 'Shift+→', run: () => goToKey(1) },
  {
    id: 'time.first',
    label: 'To the first frame that plays',
    group: 'Time',
    keys: 'Home',
    run: withShot((shot) => usePlayhead.getState().go(shot.play.first)),
  },
  {
    id: 'time.last',
    label: 'To the last frame that plays',
    group: 'Time',
    keys: 'End',
    run: withShot((shot) => usePlayhead.getState().go(shot.play.last)),
  },
  {
    id: 'time.playFromHere',
    label: 'Play from this frame on',
    group: 'Time',
    keys: '[',
    run: withShot((shot) => run(setPlayRange, { play: { first: Math.round(frameNow()), last: shot.play.last } })),
  },
  {
    id: 'time.playToHere',
    label: 'Play up to this frame',
    group: 'Time',
    keys: ']',
    run: withShot((shot) => run(setPlayRange, { play: { first: shot.play.first, last: Math.round(frameNow()) } })),
  },
  {
    id: 'time.playAll',
    label: 'Play the whole range',
    group: 'Time',
    run: withShot((shot) => run(setPlayRange, { play: shot.range })),
  },
  { id: 'time.rate', label: 'Change the frame rate…', group: 'Time', run: () => useQuestion.getState().ask('rate') },
];

const lookings: [Looking, string, string][] = [
  ['front', 'Look from the front', '1'],
  ['side', 'Look from the side', '2'],
  ['top', 'Look from the top', '3'],
  ['camera', "Look through the shot's camera", '4'],
];

const viewing: AppCommand[] = [
  ...lookings.map(
    ([looking, label, keys]): AppCommand => ({
      id: `view.${looking}`,
      label,
      group: 'View',
      keys,
      run: () => view().set({ looking: view().looking === looking && looking === 'camera' ? 'free' : looking }),
    }),
  ),
  {
    id: 'view.flat',
    label: 'With or without perspective',
    group: 'View',
    keys: '5',
    run: () => view().set({ flat: !view().flat }),
  },
  {
    id: 'view.selected',
    label: 'Frame what is picked',
    group: 'View',
    keys: 'V',
    run: () => stageRef.current?.frame('selected'),
  },
  {
    id: 'view.all',
    label: 'Frame everything',
    group: 'View',
    keys: 'Shift+V',
    run: () => stageRef.current?.frame('all'),
  },
  {
    id: 'view.left',
    label: 'Go round to the left',
    group: 'View',
    keys: 'Ctrl+←',
    run: () => stageRef.current?.orbitBy(0.2, 0),
  },
  {
    id: 'view.right',
    label: 'Go round to the right',
    group: 'View',
    keys: 'Ctrl+→',
    run: () => stageRef.current?.orbitBy(-0.2, 0),
  },
  {
    id: 'view.up',
    label: 'Look from higher up',
    group: 'View',
    keys: 'Ctrl+↑',
    run: () => stageRef.current?.orbitBy(0, 0.15),
  },
  {
    id: 'view.down',
    label: 'Look from lower down',
    group: 'View',
    keys: 'Ctrl+↓',
    run: () => stageRef.current?.orbitBy(0, -0.15),
  },
  { id: 'view.nearer', label: 'Nearer', group: 'View', keys: '+', run: () => stageRef.current?.zoomBy(0.85) },
  {
    id: 'view.further',
    label: 'Further away',
    group: 'View',
    keys: '-',
    run: () => stageRef.current?.zoomBy(1 / 0.85),
  },
  ...(
    [
      ['pick', 'Pick only', 'Q'],
      ['move', 'Move', 'M'],
      ['turn', 'Turn', 'T'],
      ['size', 'Size', 'S'],
    ] as [Tool, string, string][]
  ).map(
    ([tool, label, keys]): AppCommand => ({
      id: `tool.${tool}`,
      label,
      group: 'View',
      keys,
      run: () => view().set({ tool }),
    }),
  ),
  ...(
    [
      ['world', 'Handles along the world'],
      ['parent', 'Handles along the parent'],
      ['own', 'Handles along its own axes'],
    ] as [AxisFrame, string][]
  ).map(([axes, label]): AppCommand => ({ id: `axes.${axes}`, label, group: 'View', run: () => view().set({ axes }) })),
  {
    id: 'axes.next',
    label: 'Handles: world, parent, own, in turn',
    group: 'View',
    keys: 'X',
    run: () => {
      const order: AxisFrame[] = ['world', 'parent', 'own'];
      view().set({ axes: order[(order.indexOf(view().axes) + 1) % 3] });
    },
  },
  ...(['x', 'y', 'z'] as const).map(
    (axis): AppCommand => ({
      id: `lock.${axis}`,
      label: `Lock or free the ${axis} axis`,
      group: 'View',
      keys: `Shift+${axis.toUpperCase()}`,
      run: () => view().set({ locks: { ...view().locks, [axis]: !view().locks[axis] } }),
    }),
  ),
  {
    id: 'view.sheet',
    label: 'Show the sheet',
    group: 'View',
    keys: 'Shift+S',
    run: () => view().set({ tab: 'sheet' }),
  },
  {
    id: 'view.curves',
    label: 'Show the curves',
    group: 'View',
    keys: 'Shift+C',
    run: () => view().set({ tab: 'curves' }),
  },
  {
    id: 'view.theme',
    label: 'Lamp on or off (light or night)',
    group: 'View',
    keys: 'N',
    run: () => useHabits.getState().set({ theme: themeNow() === 'night' ? 'light' : 'night' }),
  },
];

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
  view().select([member.id]);
}

const casting: AppCommand[] = [
  ...kindNames.map(
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
    keys: 'F2',
    run: () => useQuestion.getState().ask('rename-member'),
    enabled: hasSelection,
  },
  {
    id: 'cast.parent',
    label: 'Put under another…',
    group: 'Cast',
    keys: 'P',
    run: () => useQuestion.getState().ask('parent'),
    enabled: hasSelection,
  },
  {
    id: 'cast.group',
    label: 'Group',
    group: 'Cast',
    keys: 'G',
    run: withShot((shot) => {
      const group = newMember(shot, { kind: 'group' });
      run(groupMembers, { ids: view().selection, group, frame: frameNow() });
      view().select([group.id]);
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.duplicate',
    label: 'Duplicate',
    group: 'Cast',
    keys: 'Ctrl+D',
    run: withShot((shot) => {
      const ids = view().selection;
      const copies = copiesOf(shot, ids);
      run(duplicateMembers, { ids, copies });
      view().select(ids.map((id) => copies[id]));
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.hide',
    label: 'Hide or show',
    group: 'Cast',
    keys: 'H',
    run: withShot((shot) => toggleVisible(shot, view().selection)),
    enabled: hasSelection,
  },
  {
    id: 'cast.lock',
    label: 'Lock or unlock',
    group: 'Cast',
    keys: 'Shift+H',
    run: withShot((shot) => {
      const ids = view().selection;
      run(lockMembers, { ids, locked: !ids.every((id) => shot.members[id].locked) });
    }),
    enabled: hasSelection,
  },
  {
    id: 'cast.delete',
    label: 'Delete what is picked, with its keys',
    group: 'Cast',
    keys: 'Shift+Delete',
    run: () => {
      run(removeMembers, { ids: unlocked(view().selection) });
      view().select([]);
    },
    enabled: hasSelection,
  },
  {
    id: 'cast.none',
    label: 'Pick nothing',
    group: 'Cast',
    keys: 'Escape',
    run: () => view().set({ selection: [], keys: {}, channels: [] }),
  },
  {
    id: 'cast.all',
    label: 'Pick everybody who is not locked',
    group: 'Cast',
    keys: 'Ctrl+A',
    run: withShot((shot) => view().select(unlocked(Object.keys(shot.members)))),
  },
];

/** Hides what is seen and shows what is hidden, as the leading one stands. Visible is a channel like any other. */
export function toggleVisible(shot: Shot, ids: readonly string[]): void {
  const lead = ids.at(-1);
  if (!lead) return;
  const seen = (channelValue(shot, channelPath(lead, 'visible'), frameNow()) as number) >= 0.5;
  const values = Object.fromEntries(ids.map((id) => [channelPath(id, 'visible'), seen ? 0 : 1]));
  run(changeChannels, { frame: frameNow(), values, autoKey: view().autoKey === 'every' ? 'animated' : view().autoKey });
}

const shapes: [HandleKind, string][] = [
  ['smooth', 'Smooth keys'],
  ['flat', 'Flat keys'],
  ['linear', 'Linear keys'],
  ['free', 'Free handles'],
  ['stepped', 'Stepped keys'],
];

const extensionWords: Record<Extension, string> = {
  hold: 'hold',
  slope: 'go on at the slope',
  cycle: 'cycle',
  travel: 'cycle and travel',
  swing: 'swing',
};

/** The curves that a change of extension means: those of the picked keys, else of the picked channels, else of the picked members. */
function curvePaths(shot: Shot): string[] {
  const picked = Object.keys(view().keys);
  if (picked.length > 0) return picked;
  return view().channels.length > 0
    ? view().channels.filter((p) => p in shot.curves)
    : animatedPaths(shot, view().selection);
}

const shaping: AppCommand[] = [
  ...shapes.map(
    ([kind, label], i): AppCommand => ({
      id: `shape.${kind}`,
      label,
      group: 'Curves',
      keys: `Alt+${i + 1}`,
      run: () => run(setHandleKind, { keys: view().keys, side: 'both', kind }),
      enabled: hasKeys,
    }),
  ),
  {
    id: 'shape.break',
    label: 'Break the handles',
    group: 'Curves',
    keys: 'Alt+B',
    run: () => run(joinHandles, { keys: view().keys, joined: false }),
    enabled: hasKeys,
  },
  {
    id: 'shape.join',
    label: 'Join the handles',
    group: 'Curves',
    keys: 'Alt+J',
    run: () => run(joinHandles, { keys: view().keys, joined: true }),
    enabled: hasKeys,
  },
  {
    id: 'shape.sharp',
    label: 'Sharp landing: linear in and out, broken',
    group: 'Curves',
    keys: 'Alt+L',
    run: () => run(setHandleKind, { keys: view().keys, side: 'both', kind: 'linear' }),
    enabled: hasKeys,
  },
  ...(['before', 'after'] as const).flatMap((side) =>
    (Object.keys(extensionWords) as Extension[]).map(
      (extension): AppCommand => ({
        id: `extend.${side}.${extension}`,
        label: `${side === 'before' ? 'Before the first key' : 'After the last key'}: ${extensionWords[extension]}`,
        group: 'Curves',
        run: withShot((shot) => run(setExtension, { paths: curvePaths(shot), side, extension })),
        enabled: () => (shotNow() ? curvePaths(shotNow()!).length > 0 : false),
      }),
    ),
  ),
  {
    id: 'curves.frame',
    label: 'Frame all curves',
    group: 'Curves',
    keys: 'Alt+V',
    run: () => {
      if (curvesRef.current) {
        curvesRef.current.frameAll();
        return;
      }
      // The view comes with the next drawing of the page.
      view().set({ tab: 'curves' });
      requestAnimationFrame(() => curvesRef.current?.frameAll());
    },
  },
];

const shotWide: AppCommand[] = [
  { id: 'shot.undo', label: 'Undo', group: 'Shot', keys: 'Ctrl+Z', run: () => useShot.getState().undo() },
  { id: 'shot.redo', label: 'Redo', group: 'Shot', keys: 'Ctrl+Shift+Z', run: () => useShot.getState().redo() },
  {
    id: 'shot.movie',
    label: 'Make a movie, a picture or a contact sheet…',
    group: 'Shot',
    keys: 'Ctrl+M',
    run: () => useQuestion.getState().ask('movie'),
  },
  {
    id: 'shot.palette',
    label: 'Find a command',
    group: 'Shot',
    keys: '/',
    run: () => useQuestion.getState().ask('palette'),
  },
  {
    id: 'shot.shortcuts',
    label: 'Show the shortcuts',
    group: 'Shot',
    keys: '?',
    run: () => useQuestion.getState().ask('shortcuts'),
  },
  {
    id: 'shot.addChannel',
    label: 'Add a channel of your own…',
    group: 'Shot',
    run: () => useQuestion.getState().ask('add-channel'),
    enabled: hasSelection,
  },
];

export const commands: readonly AppCommand[] = [...keying, ...timing, ...viewing, ...casting, ...shaping, ...shotWide];

const byId = new Map(commands.map((c) => [c.id, c]));
export function commandOf(id: string): AppCommand {
  const command = byId.get(id);
  if (!command) throw new Error(`There is no command ${id}.`);
  return command;
}

/** The shortcut a command has now: the person's own, or its first. */
export const keysOf = (id: string): string | undefined => useHabits.getState().shortcuts[id] ?? commandOf(id).keys;

/** For a state of a channel its word. */
export const stateWord = {
  loose: 'loose',
  keyed: 'keyed here',
  animated: 'animated',
  constant: 'constant',
} as const satisfies Record<ReturnType<typeof channelState>, string>;
