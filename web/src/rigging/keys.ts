import { removeJoint } from '@varrup/core';
import { useEffect } from 'react';
import type { BuildScene } from './build-scene.ts';
import { change, redoBuilding, undoBuilding, useBuilding } from './build-store.ts';

/** What keys do where rigs are built, unless something is being written. Hints say them too. */
export const keys = {
  pick: 'H',
  press: 'J',
  shape: 'S',
  paint: 'W',
  pairs: 'M',
  remove: 'Delete',
  undo: 'Ctrl+Z',
  redo: 'Ctrl+Shift+Z',
  bring: 'F',
} as const;

const looks = { '1': 'front', '2': 'side', '3': 'top' } as const;
const rounds: Record<string, readonly [number, number]> = {
  ArrowLeft: [-0.15, 0],
  ArrowRight: [0.15, 0],
  ArrowUp: [0, 0.15],
  ArrowDown: [0, -0.15],
};

export function useBuildKeys(scene: { readonly current: BuildScene | null }): void {
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      if (at.closest('input, textarea, select, [role="dialog"]')) return;
      const key = event.key.length === 1 ? event.key.toUpperCase() : event.key;
      if (done(key, event.ctrlKey || event.metaKey, event.shiftKey, scene.current)) event.preventDefault();
    };
    window.addEventListener('keydown', hear);
    return () => window.removeEventListener('keydown', hear);
  }, [scene]);
}

/** @returns whether the key means something */
function done(key: string, ctrl: boolean, shift: boolean, scene: BuildScene | null): boolean {
  const { picked, pairs, trying } = useBuilding.getState();
  if (ctrl) {
    if (key === 'Z') shift ? redoBuilding() : undoBuilding();
    else if (rounds[key]) scene?.eye.round(...rounds[key]);
    else return false;
    return true;
  }
  if (key === keys.pick) useBuilding.setState({ tool: 'pick' });
  else if (key === keys.press) useBuilding.setState({ tool: 'press', tints: 'none' });
  else if (key === keys.shape) useBuilding.setState({ tool: 'shape', tints: 'none' });
  else if (key === keys.paint) useBuilding.setState({ tool: 'paint', tints: 'picked' });
  else if (key === keys.pairs) useBuilding.setState({ pairs: !pairs });
  else if (key === keys.bring) scene?.bring();
  else if (Object.hasOwn(looks, key)) scene?.eye.from(looks[key as keyof typeof looks]);
  else if (key === '+' || key === '-') scene?.eye.nearer(key === '+' ? 0.85 : 1 / 0.85);
  else if (key === keys.remove && picked) change('remove a joint', (b) => removeJoint(b, picked, { pairs }));
  else if (key === 'Escape' && (picked || trying)) useBuilding.setState(trying ? { trying: null } : { picked: null });
  else return false;
  scene?.ask();
  return true;
}
