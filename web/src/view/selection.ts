import type { KeySelection } from '@varrup/core';
import { create } from 'zustand';

/** What is picked: members of the cast, their channels, their keys. */
export interface Selection {
  /** Members picked; the last is the one that leads. */
  readonly picked: readonly string[];
  /** Keys picked in the sheet or the curves. */
  readonly keys: KeySelection;
  /** Channels picked in the channels panel, by path. */
  readonly channels: readonly string[];
}

const NOTHING: Selection = { picked: [], keys: {}, channels: [] };

export const useSelection = create<Selection>(() => NOTHING);

export const pickKeys = (keys: KeySelection) => useSelection.setState({ keys });
export const pickChannels = (channels: readonly string[]) => useSelection.setState({ channels });
export const pickNothing = () => useSelection.setState(NOTHING);

/** Picks members. Channels picked are of those picked before, and go with them. */
export function select(ids: readonly string[], how: 'only' | 'add' | 'toggle' = 'only'): void {
  const { picked } = useSelection.getState();
  const others = picked.filter((id) => !ids.includes(id));
  const next =
    how === 'only'
      ? [...ids]
      : how === 'toggle' && ids.every((id) => picked.includes(id))
        ? others
        : [...others, ...ids];
  if (next.length === picked.length && next.every((id, i) => id === picked[i])) return;
  useSelection.setState({ picked: next, channels: [] });
}
