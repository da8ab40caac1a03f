import type { AutoKey, KeySelection } from '@varrup/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What the animator looks at and works with; none of it is part of the shot. Time is apart, in `playhead`. */

export type Tool = 'pick' | 'move' | 'turn' | 'size';
export type AxisFrame = 'world' | 'parent' | 'own';
export type Looking = 'free' | 'front' | 'side' | 'top' | 'camera';
export type TimelineTab = 'sheet' | 'curves';
export type Axis = 'x' | 'y' | 'z';

export interface ViewState {
  /** Members picked; the last is the one that leads. */
  readonly selection: readonly string[];
  /** Keys picked in the sheet or the curves. */
  readonly keys: KeySelection;
  /** Channels picked in the channels panel, by path. */
  readonly channels: readonly string[];
  readonly tool: Tool;
  readonly axes: AxisFrame;
  /** Axes that move, turn and size leave alone. */
  readonly locks: Readonly<Record<Axis, boolean>>;
  readonly looking: Looking;
  readonly flat: boolean;
  readonly autoKey: AutoKey;
  readonly tab: TimelineTab;
  /** The frames the sheet and the curves show. */
  readonly span: { readonly first: number; readonly last: number };
  /** Members whose channels the sheet hides. */
  readonly folded: readonly string[];
  set(change: Partial<Omit<ViewState, 'set' | 'select' | 'reset'>>): void;
  select(ids: readonly string[], how?: 'only' | 'add' | 'toggle'): void;
  /** Forgets what belongs to one shot. */
  reset(span: { first: number; last: number }): void;
}

export const useView = create<ViewState>((set, get) => ({
  selection: [],
  keys: {},
  channels: [],
  tool: 'move',
  axes: 'world',
  locks: { x: false, y: false, z: false },
  looking: 'free',
  flat: false,
  autoKey: 'off',
  tab: 'sheet',
  span: { first: 1, last: 96 },
  folded: [],
  set: (change) => set(change),
  select(ids, how = 'only') {
    const { selection } = get();
    const others = selection.filter((id) => !ids.includes(id));
    const next =
      how === 'only'
        ? [...ids]
        : how === 'toggle' && ids.every((id) => selection.includes(id))
          ? others
          : [...others, ...ids];
    if (next.length === selection.length && next.every((id, i) => id === selection[i])) return;
    set({ selection: next, channels: [] });
  },
  reset: ({ first, last }) => {
    const margin = Math.max(1, (last - first) * 0.03);
    set({
      selection: [],
      keys: {},
      channels: [],
      autoKey: 'off',
      span: { first: first - margin, last: last + margin },
    });
  },
}));

/** What stays with the person, not with the shot. */
export interface Habits {
  readonly theme: 'light' | 'night' | 'system';
  /** Shortcuts changed by hand, by command id. */
  readonly shortcuts: Readonly<Record<string, string>>;
  set(change: Partial<Omit<Habits, 'set'>>): void;
}

export const useHabits = create<Habits>()(
  persist((set) => ({ theme: 'system', shortcuts: {}, set: (change) => set(change) }), { name: 'varrup-habits' }),
);
