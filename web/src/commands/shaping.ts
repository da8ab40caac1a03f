import {
  animatedPaths,
  type Extension,
  joinHandles,
  keyIndexAt,
  type PlainKind,
  removeStill,
  type ShapeOfKey,
  type Shot,
  setExtension,
  setHandleKind,
  shapeAlike,
  shapeOf,
  stillCurves,
} from '@varrup/core';
import { toast } from 'sonner';
import { curvesRef } from '../timeline/curves-ref.ts';
import { useCurveView } from '../view/curve-view.ts';
import { usePlaces } from '../view/places.ts';
import { useQuestion } from '../view/questions.ts';
import type { AppCommand } from './command.ts';
import { channelsNow, hasKeys, keysNow, pickedNow, run, shotNow, withShot } from './now.ts';
import { timingKeys, timingPaths } from './retiming.ts';

/** The shape of curves. */

const shapes: [PlainKind, string][] = [
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
  const picked = Object.keys(keysNow());
  if (picked.length > 0) return picked;
  return channelsNow().length > 0 ? channelsNow().filter((p) => shot.curves.has(p)) : animatedPaths(shot, pickedNow());
}

/** The shape that was copied last. */
let copied: ShapeOfKey | null = null;

function copyShape(shot: Shot): void {
  const [path, frames] = Object.entries(keysNow())[0] ?? [];
  const curve = path ? shot.curves.get(path) : undefined;
  if (curve?.type !== 'number' || !frames) {
    toast('Pick a key of a number channel first: its shape is copied.');
    return;
  }
  copied = shapeOf(curve, keyIndexAt(curve.keys, frames[0]));
  toast('Copied. Pick other keys and press Alt+G: they get the same shape.');
}

/** Shows the curves, if they are not shown yet, and does something with them. */
function inCurves(act: (curves: NonNullable<typeof curvesRef.current>) => void): void {
  if (curvesRef.current) {
    act(curvesRef.current);
    return;
  }
  // The view comes with the next drawing of the page.
  usePlaces.setState({ tab: 'curves' });
  requestAnimationFrame(() => curvesRef.current && act(curvesRef.current));
}

/** The curves that isolating, pinning and hiding mean: those of the picked keys, else the picked channels. */
export const meantCurves = (): string[] => {
  const keyed = Object.keys(keysNow());
  return keyed.length > 0 ? keyed : [...channelsNow()];
};

const without = (list: readonly string[], gone: readonly string[]) => list.filter((p) => !gone.includes(p));

export const isolate = (paths: readonly string[]): void =>
  useCurveView.setState({ isolated: useCurveView.getState().isolated.length > 0 ? [] : paths });

export function pin(paths: readonly string[]): void {
  const { pinned } = useCurveView.getState();
  const all = paths.every((p) => pinned.includes(p));
  useCurveView.setState({ pinned: all ? without(pinned, paths) : [...without(pinned, paths), ...paths] });
}

export function hide(paths: readonly string[]): void {
  const { hidden } = useCurveView.getState();
  const all = paths.every((p) => hidden.includes(p));
  useCurveView.setState({ hidden: all ? without(hidden, paths) : [...without(hidden, paths), ...paths] });
}

export const shaping: AppCommand[] = [
  ...shapes.map(
    ([kind, label], i): AppCommand => ({
      id: `shape.${kind}`,
      label,
      group: 'Curves',
      shortcut: `Alt+${i + 1}`,
      run: () => run(setHandleKind, { keys: keysNow(), side: 'both', kind }),
      enabled: hasKeys,
    }),
  ),
  ...shapes.map(
    ([kind, label]): AppCommand => ({
      id: `shapeAll.${kind}`,
      label: `${label}: every key of all that is picked`,
      group: 'Curves',
      run: withShot((shot) => {
        const paths = timingPaths(shot);
        const keys = Object.fromEntries(paths.map((p) => [p, shot.curves.at(p).keys.map((k) => k.frame)]));
        run(setHandleKind, { keys, side: 'both', kind });
      }),
    }),
  ),
  {
    id: 'shape.copy',
    label: "Copy a key's shape",
    group: 'Curves',
    shortcut: 'Alt+C',
    run: withShot(copyShape),
    enabled: hasKeys,
  },
  {
    id: 'shape.give',
    label: 'Give the picked keys the copied shape',
    group: 'Curves',
    shortcut: 'Alt+G',
    run: () => {
      if (copied) run(shapeAlike, { keys: keysNow(), shape: copied });
      else toast("Copy a key's shape first, with Alt+C.");
    },
    enabled: hasKeys,
  },
  {
    id: 'curves.thin',
    label: 'Thin redundant keys…',
    group: 'Curves',
    run: () => useQuestion.getState().ask('thin'),
    enabled: () => (shotNow() ? Object.keys(timingKeys(shotNow()!)).length > 0 : false),
  },
  {
    id: 'curves.removeStill',
    label: 'Delete curves that never change',
    group: 'Curves',
    run: withShot((shot) => {
      const paths = timingPaths(shot);
      const still = stillCurves(shot, paths).length;
      if (still === 0) toast('Every curve here changes somewhere.');
      else {
        run(removeStill, { paths });
        toast(`${still === 1 ? 'One curve' : `${still} curves`} that never changed deleted; the values stay.`);
      }
    }),
  },
  {
    id: 'shape.break',
    label: 'Break the handles',
    group: 'Curves',
    shortcut: 'Alt+B',
    run: () => run(joinHandles, { keys: keysNow(), joined: false }),
    enabled: hasKeys,
  },
  {
    id: 'shape.join',
    label: 'Join the handles',
    group: 'Curves',
    shortcut: 'Alt+J',
    run: () => run(joinHandles, { keys: keysNow(), joined: true }),
    enabled: hasKeys,
  },
  {
    id: 'shape.sharp',
    label: 'Sharp landing: linear in and out, broken',
    group: 'Curves',
    shortcut: 'Alt+L',
    run: () => run(setHandleKind, { keys: keysNow(), side: 'both', kind: 'linear' }),
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
    shortcut: 'Alt+V',
    run: () => inCurves((c) => c.frame('all')),
  },
  {
    id: 'curves.frameKeys',
    label: 'Frame the picked keys',
    group: 'Curves',
    shortcut: 'Alt+Shift+V',
    run: () => inCurves((c) => c.frame('picked')),
    enabled: hasKeys,
  },
  {
    id: 'curves.normal',
    label: 'Curves of every size over the whole height',
    group: 'Curves',
    shortcut: 'Alt+N',
    run: () => {
      useCurveView.setState((s) => ({ normal: !s.normal }));
      usePlaces.setState({ tab: 'curves' });
    },
  },
  {
    id: 'curves.speed',
    label: 'Draw how fast the curves go',
    group: 'Curves',
    shortcut: 'Alt+D',
    run: () => {
      useCurveView.setState((s) => ({ speed: !s.speed }));
      usePlaces.setState({ tab: 'curves' });
    },
  },
  {
    id: 'curves.isolate',
    label: 'See only the curves of the picked keys, or all again',
    group: 'Curves',
    shortcut: 'Alt+I',
    run: () => isolate(meantCurves()),
    enabled: () => useCurveView.getState().isolated.length > 0 || meantCurves().length > 0,
  },
  {
    id: 'curves.pin',
    label: 'Pin the curves of the picked keys: keep them in view',
    group: 'Curves',
    shortcut: 'Alt+O',
    run: () => pin(meantCurves()),
    enabled: () => meantCurves().length > 0,
  },
  {
    id: 'curves.hide',
    label: 'Hide the curves of the picked keys',
    group: 'Curves',
    shortcut: 'Alt+H',
    run: () => hide(meantCurves()),
    enabled: () => meantCurves().length > 0,
  },
  {
    id: 'curves.showAll',
    label: 'Show hidden curves again',
    group: 'Curves',
    run: () => useCurveView.setState({ hidden: [], isolated: [] }),
    enabled: () => useCurveView.getState().hidden.length + useCurveView.getState().isolated.length > 0,
  },
  {
    id: 'curves.asOpened',
    label: 'Draw the curves as they were when the shot was opened behind',
    group: 'Curves',
    shortcut: 'Alt+W',
    run: () => {
      useCurveView.setState({ behind: useCurveView.getState().behind === 'opened' ? 'beside' : 'opened' });
      usePlaces.setState({ tab: 'curves' });
    },
  },
];
