import { camerasOf } from '@varrup/core';
import { cutToNext } from '../timeline/cuts.ts';
import { themeNow } from '../ui/theme.ts';
import { useHabits } from '../view/habits.ts';
import { type Looking, useLooking } from '../view/looking.ts';
import { useShown } from '../view/shown.ts';
import { stageRef } from '../view/stage-ref.ts';
import { type AxisFrame, snaps, type Tool, useTool } from '../view/tool.ts';
import type { AppCommand } from './command.ts';
import { shotNow, withShot } from './now.ts';

/** Looking, tools, themes. */

const lookings: [Looking, string, string][] = [
  ['front', 'Look from the front', '1'],
  ['side', 'Look from the side', '2'],
  ['top', 'Look from the top', '3'],
  ['camera', "Look through the gate of the shot's camera", 'Shift+G'],
];

export const viewing: AppCommand[] = [
  ...lookings.map(
    ([looking, label, shortcut]): AppCommand => ({
      id: `view.${looking}`,
      label,
      group: 'View',
      shortcut,
      run: () =>
        useLooking.setState({
          looking: useLooking.getState().looking === looking && looking === 'camera' ? 'free' : looking,
        }),
    }),
  ),
  {
    id: 'view.flat',
    label: 'With or without perspective: depth along z',
    group: 'View',
    shortcut: 'Z',
    run: () => useLooking.setState((s) => ({ flat: !s.flat })),
  },
  {
    id: 'view.four',
    label: 'Four views at once, or one',
    group: 'View',
    shortcut: '4',
    run: () => useLooking.setState((s) => ({ four: !s.four })),
  },
  {
    id: 'view.follow',
    label: 'The camera follows what is picked, or stands still',
    group: 'View',
    shortcut: 'Shift+F',
    run: () => useLooking.setState((s) => ({ follow: !s.follow })),
  },
  {
    id: 'view.safeFrame',
    label: 'Safe frame: through the camera, what every screen shows of it',
    group: 'View',
    run: () => useHabits.getState().set({ safeFrame: !useHabits.getState().safeFrame }),
  },
  {
    id: 'camera.next',
    label: 'Cut here to the next camera',
    group: 'Time',
    shortcut: 'Alt+F',
    run: withShot(cutToNext),
    enabled: () => {
      const shot = shotNow();
      return shot !== null && camerasOf(shot).length > 1;
    },
  },
  {
    id: 'view.arcs',
    label: 'Show the arc of what is picked, with a bead a frame',
    group: 'View',
    shortcut: 'O',
    run: () => useShown.setState((s) => ({ arcs: !s.arcs })),
  },
  {
    id: 'view.onion',
    label: 'Onion skin: draw the neighbouring frames around this one',
    group: 'View',
    shortcut: 'Shift+O',
    run: () => {
      const { onion, set } = useHabits.getState();
      set({ onion: { ...onion, on: !onion.on } });
    },
  },
  {
    id: 'view.selected',
    label: 'Frame what is picked',
    group: 'View',
    shortcut: 'V',
    run: () => stageRef.current?.frame('selected'),
  },
  {
    id: 'view.all',
    label: 'Frame everything',
    group: 'View',
    shortcut: 'Shift+V',
    run: () => stageRef.current?.frame('all'),
  },
  {
    id: 'view.left',
    label: 'Go round to the left',
    group: 'View',
    shortcut: 'Ctrl+←',
    run: () => stageRef.current?.orbitBy(0.2, 0),
  },
  {
    id: 'view.right',
    label: 'Go round to the right',
    group: 'View',
    shortcut: 'Ctrl+→',
    run: () => stageRef.current?.orbitBy(-0.2, 0),
  },
  {
    id: 'view.up',
    label: 'Look from higher up',
    group: 'View',
    shortcut: 'Ctrl+↑',
    run: () => stageRef.current?.orbitBy(0, 0.15),
  },
  {
    id: 'view.down',
    label: 'Look from lower down',
    group: 'View',
    shortcut: 'Ctrl+↓',
    run: () => stageRef.current?.orbitBy(0, -0.15),
  },
  { id: 'view.nearer', label: 'Nearer', group: 'View', shortcut: '+', run: () => stageRef.current?.zoomBy(0.85) },
  {
    id: 'view.further',
    label: 'Further away',
    group: 'View',
    shortcut: '-',
    run: () => stageRef.current?.zoomBy(1 / 0.85),
  },
  ...(
    [
      ['pick', 'Pick only', 'P'],
      ['move', 'Move', 'M'],
      ['turn', 'Turn', 'T'],
      ['size', 'Size', 'S'],
    ] as [Tool, string, string][]
  ).map(
    ([tool, label, shortcut]): AppCommand => ({
      id: `tool.${tool}`,
      label,
      group: 'View',
      shortcut,
      run: () => useTool.setState({ tool }),
    }),
  ),
  ...(
    [
      ['world', 'Handles along the world'],
      ['parent', 'Handles along the parent'],
      ['own', 'Handles along its own axes'],
    ] as [AxisFrame, string][]
  ).map(
    ([axes, label]): AppCommand => ({
      id: `axes.${axes}`,
      label,
      group: 'View',
      run: () => useTool.setState({ axes }),
    }),
  ),
  {
    id: 'snap.next',
    label: 'What a hand goes to: nothing, the grid, other things',
    group: 'View',
    shortcut: 'Alt+R',
    run: () => useTool.setState(({ snap }) => ({ snap: snaps[(snaps.indexOf(snap) + 1) % snaps.length] })),
  },
  {
    id: 'axes.next',
    label: 'Handles: world, parent, own, in turn',
    group: 'View',
    shortcut: 'X',
    run: () => {
      const order: AxisFrame[] = ['world', 'parent', 'own'];
      useTool.setState({ axes: order[(order.indexOf(useTool.getState().axes) + 1) % 3] });
    },
  },
  ...(['x', 'y', 'z'] as const).map(
    (axis): AppCommand => ({
      id: `lock.${axis}`,
      label: `Lock or free the ${axis} axis`,
      group: 'View',
      shortcut: `Shift+${axis.toUpperCase()}`,
      run: () => useTool.setState({ locks: { ...useTool.getState().locks, [axis]: !useTool.getState().locks[axis] } }),
    }),
  ),
  {
    id: 'view.theme',
    label: 'Lamp on or off (light or night)',
    group: 'View',
    shortcut: 'N',
    run: () => useHabits.getState().set({ theme: themeNow() === 'night' ? 'light' : 'night' }),
  },
];
