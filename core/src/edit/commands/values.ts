import type { Key, NumberCurve } from '../../curve/key.ts';
import { keyIndexAt } from '../../curve/reshape.ts';
import { countWords } from '../../document/words.ts';
import { withinBounds } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';
import type { KeySelection } from '../retiming.ts';
import { countKeys, eachCurve } from './keys.ts';
import { refuseOutside } from './value-range.ts';

/** Where values are scaled about: a number, or a point each curve finds among its own picked keys. */
export type Pivot = number | 'mean' | 'first' | 'last';

/** A change of the values of picked keys, their frames left alone. */
export type ValueChange =
  /** Away from the pivot, or towards it (below 1); below 0 it is turned over. */
  | { readonly kind: 'scale'; readonly factor: number; readonly about: Pivot }
  | { readonly kind: 'offset'; readonly by: number }
  /** All to one value: the pivot's. */
  | { readonly kind: 'flatten'; readonly to: Pivot }
  /** Each towards the straight way between its neighbours, by a share from 0 to 1. */
  | { readonly kind: 'smooth'; readonly share: number };

const verbs: Record<ValueChange['kind'], string> = {
  scale: 'scale the values of',
  offset: 'offset',
  flatten: 'flatten',
  smooth: 'smooth the values of',
};

/** Scales, offsets, flattens or smooths the values of picked keys. */
export const changeValues = defineCommand<{ keys: KeySelection; how: ValueChange }>({
  name: 'key.values',
  label: ({ keys, how }) => `${verbs[how.kind]} ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, how }) =>
    eachCurve(shot, keys, (curve, frames, path) => {
      if (curve.type !== 'number') return curve;
      const picked = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
      const next = withValues(curve, picked, how);
      for (const i of picked) if (next.keys[i]) refuseOutside(shot, path, next.keys[i].value);
      return next;
    }),
});

function withValues(curve: NumberCurve, picked: ReadonlySet<number>, how: ValueChange): NumberCurve {
  const values = curve.keys.filter((_, i) => picked.has(i)).map((k) => k.value);
  if (values.length === 0) return curve;
  const keys = curve.keys.map((key, i) => (picked.has(i) ? changed(curve, key, i, values, how) : key));
  return { ...curve, keys };
}

function changed(curve: NumberCurve, key: Key, i: number, values: readonly number[], how: ValueChange): Key {
  switch (how.kind) {
    case 'offset':
      return { ...key, value: key.value + how.by };
    case 'scale': {
      const pivot = pivotOf(values, how.about);
      return steepened({ ...key, value: pivot + (key.value - pivot) * how.factor }, how.factor);
    }
    case 'flatten':
      return steepened({ ...key, value: pivotOf(values, how.to) }, 0);
    case 'smooth': {
      const [a, b] = [curve.keys[i - 1], curve.keys[i + 1]];
      if (!a || !b) return key;
      const straight = a.value + ((b.value - a.value) * (key.frame - a.frame)) / (b.frame - a.frame);
      return { ...key, value: key.value + (straight - key.value) * how.share };
    }
  }
}

const pivotOf = (values: readonly number[], pivot: Pivot): number => {
  if (typeof pivot === 'number') return pivot;
  if (pivot === 'first') return values[0];
  if (pivot === 'last') return values[values.length - 1];
  return values.reduce((sum, v) => sum + v, 0) / values.length;
};

/** Free handles rise `factor` times as much; the others follow by themselves. */
function steepened(key: Key, factor: number): Key {
  const steep = <H extends Key['in'] | Key['out']>(h: H): H =>
    h.kind === 'free' ? { ...h, rise: withinBounds(h.rise * factor) } : h;
  return { ...key, in: steep(key.in), out: steep(key.out) };
}
