import { countKeys, type KeySelection, keyIndexAt } from '@varrup/core';
import type { ShownCurve } from './shown-curves.ts';
import { type Span, timeScale } from './time-axis.ts';
import { handleEnd, MOST_HANDLES, type ValueSpan, valueScale } from './value-axis.ts';

/** What a pointer means in the curves view. */

export interface CurvesPlace {
  readonly curves: readonly ShownCurve[];
  readonly keys: KeySelection;
  readonly span: Span;
  readonly values: ValueSpan;
  readonly width: number;
  readonly height: number;
}

export interface KeyHit {
  readonly shown: ShownCurve;
  readonly index: number;
}
export interface HandleHit extends KeyHit {
  readonly side: 'in' | 'out';
}

/** How near a pointer must be to a key's peg, across and up, and to the end of a handle, in pixels. */
const PEG = { across: 6, up: 9 };
const HANDLE = 8;

/** The key under a place, if there is one. */
export function keyUnder({ curves, span, values, width, height }: CurvesPlace, x: number, y: number): KeyHit | null {
  const [tx, ty] = [timeScale(span, width), valueScale(values, height)];
  for (const shown of curves) {
    const index = shown.curve.keys.findIndex(
      (k) => Math.abs(tx(k.frame) - x) < PEG.across && Math.abs(ty(k.value * shown.scale + shown.shift) - y) < PEG.up,
    );
    if (index >= 0) return { shown, index };
  }
  return null;
}

/** The handle of a picked key under a place. Where so many are picked that no handles are drawn there is none. */
export function handleUnder(place: CurvesPlace, x: number, y: number): HandleHit | null {
  if (countKeys(place.keys) > MOST_HANDLES) return null;
  for (const shown of place.curves) {
    for (const frame of place.keys[shown.path] ?? []) {
      const index = keyIndexAt(shown.curve.keys, frame);
      if (index < 0) continue;
      for (const side of ['in', 'out'] as const) {
        const end = handleEnd(place, shown, index, side, place.width, place.height);
        if (end && Math.hypot(end[0] - x, end[1] - y) < HANDLE) return { shown, index, side };
      }
    }
  }
  return null;
}

/** The keys within a box: left, top, right, bottom. */
export function keysWithin(
  place: CurvesPlace,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
): KeySelection {
  const [tx, ty] = [timeScale(place.span, place.width), valueScale(place.values, place.height)];
  const [f0, f1, v0, v1] = [tx.invert(x0), tx.invert(x1), ty.invert(y1), ty.invert(y0)];
  const found = place.curves.map(({ path, curve, scale, shift }) => {
    const inside = curve.keys.filter((k) => {
      const value = k.value * scale + shift;
      return k.frame >= f0 && k.frame <= f1 && value >= v0 && value <= v1;
    });
    return [path, inside.map((k) => k.frame)] as const;
  });
  return Object.fromEntries(found.filter(([, frames]) => frames.length > 0));
}
