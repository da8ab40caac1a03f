import { type KeySelection, keyIndexAt, type Shot } from '@varrup/core';
import { type RowKey, rowKeys, type SheetRow } from './sheet-rows.ts';
import { type Span, timeScale } from './time-axis.ts';

/** Which keys a hand means. */

/** The key of a row nearest to a place across, if one is within reach. */
export function keyNear(shot: Shot, row: SheetRow, span: Span, width: number, x: number): RowKey | null {
  const scale = timeScale(span, width);
  let best: RowKey | null = null;
  let reach = 7;
  for (const key of rowKeys(shot, row)) {
    const gap = Math.abs(scale(key.frame) - x);
    if (gap < reach) [best, reach] = [key, gap];
  }
  return best;
}

/** Adds a row's key to a selection, or takes it out where all of it is in. */
export function toggledKey(keys: KeySelection, key: RowKey): KeySelection {
  const all = key.paths.every((p) => keys[p]?.includes(key.frame));
  const next = { ...keys };
  for (const path of key.paths) {
    const others = (next[path] ?? []).filter((f) => f !== key.frame);
    next[path] = all ? others : [...others, key.frame];
    if (next[path].length === 0) delete next[path];
  }
  return next;
}

export const selectionOf = (keys: readonly RowKey[]): KeySelection => {
  const next: Record<string, number[]> = {};
  for (const key of keys) {
    for (const path of key.paths) {
      const frames = next[path] ?? [];
      if (!frames.includes(key.frame)) frames.push(key.frame);
      next[path] = frames;
    }
  }
  return next;
};

/** Two selections as one. */
export function joinedKeys(a: KeySelection, b: KeySelection): KeySelection {
  const out: Record<string, readonly number[]> = { ...a };
  for (const [path, frames] of Object.entries(b)) out[path] = [...new Set([...(out[path] ?? []), ...frames])];
  return out;
}

const living = new WeakMap<KeySelection, { curves: Shot['curves']; keys: KeySelection }>();

/** A selection without the keys that are no longer there; found once for each version of the curves. */
export function livingKeys({ curves }: Shot, keys: KeySelection): KeySelection {
  const known = living.get(keys);
  if (known?.curves === curves) return known.keys;
  const found = thereIn(curves, keys);
  living.set(keys, { curves, keys: found });
  return found;
}

function thereIn(curves: Shot['curves'], keys: KeySelection): KeySelection {
  const entries = Object.entries(keys).flatMap(([path, frames]) => {
    const curve = curves.get(path);
    const there = curve ? frames.filter((f) => keyIndexAt(curve.keys, f) >= 0) : [];
    return there.length > 0 ? [[path, there] as const] : [];
  });
  return Object.fromEntries(entries);
}
