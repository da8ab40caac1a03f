import type { KeySelection } from '@varrup/core';
import type { ShownCurve } from './shown-curves.ts';

/** The keys that the tools beside the curves mean: the picked ones, or every key of every curve shown. */
export function meantKeys(curves: readonly ShownCurve[], keys: KeySelection): KeySelection {
  if (Object.values(keys).some((frames) => frames.length > 0)) return keys;
  return Object.fromEntries(curves.map((c) => [c.path, c.curve.keys.map((k) => k.frame)]));
}
