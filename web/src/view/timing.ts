import type { CollisionAnswer } from '@varrup/core';
import { create } from 'zustand';

/** Which rows the sheet shows. */
export type RowFilter = 'keyed' | 'picked' | 'here';

/** How timing is looked at and changed, in the sheet and in the curves. */
export interface Timing {
  /** The frames that are shown. */
  readonly span: { readonly first: number; readonly last: number };
  /** What happens to keys in the way of keys that move. */
  readonly collision: CollisionAnswer;
  /** Rows of the sheet whose names hold this. */
  readonly find: string;
  readonly rows: RowFilter;
}

export const useTiming = create<Timing>(() => ({
  span: { first: 1, last: 96 },
  collision: 'stop',
  find: '',
  rows: 'keyed',
}));

/** Shows these frames, with a margin of three in a hundred on both sides. */
export function showFrames({ first, last }: { readonly first: number; readonly last: number }): void {
  const margin = Math.max(1, (last - first) * 0.03);
  useTiming.setState({ span: { first: first - margin, last: last + margin } });
}
