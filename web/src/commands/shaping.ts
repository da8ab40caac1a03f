import { type Extension, type HandleKind, joinHandles, type Shot, setExtension, setHandleKind } from '@varrup/core';
import { curvesRef } from '../timeline/curves-ref.ts';
import { animatedPaths } from './channel-paths.ts';
import type { AppCommand } from './command.ts';
import { hasKeys, run, shotNow, view, withShot } from './now.ts';

/** The shape of curves. */

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

export const shaping: AppCommand[] = [
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
