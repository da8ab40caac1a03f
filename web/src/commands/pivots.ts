import {
  changeChannels,
  inOwnSpace,
  inWorld,
  jointBetween,
  placeInBox,
  putDown,
  type Shot,
  setPivots,
  topmost,
  type Vector,
} from '@varrup/core';
import { toast } from 'sonner';
import { useAutoKey } from '../view/auto-key.ts';
import { live } from '../view/live.ts';
import { useTool } from '../view/tool.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasSelection, pickedNow, run, shotNow, withShot } from './now.ts';

/** Putting pivots on places with the thing left where it is, and things on what lies below them. */

type Frame = NonNullable<typeof live.now>;

/** Gives all that is picked a pivot at a place of the world, which may be another for each. */
function put(shot: Shot, place: (frame: Frame, id: string) => Vector): void {
  const frame = live.now;
  if (!frame) return;
  const pivots = Object.fromEntries(
    topmost(shot, pickedNow()).map((id) => [id, inOwnSpace(frame, id, place(frame, id))] as const),
  );
  run(setPivots, { pivots, frame: frameNow() });
}

/** Where a pivot is in the world. */
const pivotOf = (frame: Frame, id: string): Vector => {
  const own = ['x', 'y', 'z'].map((axis) => frame.value(id, `pivot.${axis}`) ?? 0);
  return inWorld(frame, id, [own[0], own[1], own[2]]);
};

const inBox: readonly (readonly [id: string, words: string, share: Vector])[] = [
  ['middle', 'its middle', [0.5, 0.5, 0.5]],
  ['foot', 'the middle of its foot', [0.5, 0, 0.5]],
  ['top', 'the middle of its top', [0.5, 1, 0.5]],
  ['left', 'the foot of its left edge', [0, 0, 0.5]],
  ['right', 'the foot of its right edge', [1, 0, 0.5]],
  ['back', 'the foot of its back edge', [0.5, 0, 0]],
  ['front', 'the foot of its front edge', [0.5, 0, 1]],
];

const two = () => hasSelection() && pickedNow().length > 1 && shotNow() !== null;

/** Puts all that is picked down on what lies below it. */
const down = (square: boolean) =>
  withShot((shot) => {
    const values = Object.assign({}, ...topmost(shot, pickedNow()).map((id) => putDown(shot, id, frameNow(), square)));
    if (Object.keys(values).length === 0) toast('What is picked has no form that could stand on anything.');
    else run(changeChannels, { frame: frameNow(), values, autoKey: useAutoKey.getState().mode });
  });

export const pivots: AppCommand[] = [
  {
    id: 'cast.down',
    label: 'Put down on what lies below, square on it',
    group: 'Cast',
    run: down(true),
    enabled: hasSelection,
  },
  {
    id: 'cast.lower',
    label: 'Put down on what lies below, as it is turned',
    group: 'Cast',
    run: down(false),
    enabled: hasSelection,
  },
  {
    id: 'pivot.move',
    label: 'Move the pivot and leave the thing: to corners, edges, faces and middles; Ctrl holds that off',
    group: 'View',
    run: () => useTool.setState(({ pivot }) => ({ pivot: !pivot, tool: 'move' })),
  },
  ...inBox.map(
    ([id, words, share]): AppCommand => ({
      id: `pivot.${id}`,
      label: `Pivot to ${words}`,
      group: 'Cast',
      run: withShot((shot) => put(shot, (frame, own) => placeInBox(shot, frame, own, share))),
      enabled: hasSelection,
    }),
  ),
  {
    id: 'pivot.together',
    label: 'Pivots to the middle of all that is picked',
    group: 'Cast',
    run: withShot((shot) => {
      const ids = topmost(shot, pickedNow());
      put(shot, (frame) => {
        const places = ids.map((id) => placeInBox(shot, frame, id, [0.5, 0.5, 0.5]));
        const mean = (c: 0 | 1 | 2) => places.reduce((sum, p) => sum + p[c], 0) / places.length;
        return [mean(0), mean(1), mean(2)];
      });
    }),
    enabled: two,
  },
  {
    id: 'pivot.lead',
    label: 'Pivots to that of who was picked last',
    group: 'Cast',
    run: withShot((shot) => {
      const lead = pickedNow().at(-1)!;
      put(shot, (frame) => pivotOf(frame, lead));
    }),
    enabled: two,
  },
  {
    id: 'pivot.joint',
    label: 'Pivots to where the two that are picked meet',
    group: 'Cast',
    run: withShot((shot) => {
      const [a, b] = pickedNow().slice(-2);
      put(shot, (frame) => jointBetween(shot, frame, a, b));
    }),
    enabled: two,
  },
];
