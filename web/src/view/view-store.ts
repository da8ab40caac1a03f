import type { AutoKey, CollisionAnswer, KeySelection } from '@varrup/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { ShotView } from './shot-views.ts';

/** What the animator looks at and works with; none of it is part of the shot. Time is apart, in `playhead`. */

export type Tool = 'pick' | 'move' | 'turn' | 'size';
export type AxisFrame = 'world' | 'parent' | 'own';
export type Looking = 'free' | 'front' | 'side' | 'top' | 'camera';
/** A place of a desk that something stands in, and that can be made large. */
export type Place = 'stage' | 'beside' | 'below';
export type Axis = 'x' | 'y' | 'z';
/** What turning goes about: each one's own pivot, the middle of all, the leading one's pivot, or the middle of the stage. */
export type TurnAbout = 'own' | 'middle' | 'lead' | 'stage';
/** Which rows the sheet shows. */
export type RowFilter = 'keyed' | 'picked' | 'here';
/** What curves are compared with: as they were when the shot was opened, or in a named version. */
export type AsItWas =
  | { readonly from: 'opened' }
  | { readonly from: 'version'; readonly id: string; readonly name: string };

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
  /** The panels shown below the stage and beside it, by their ids among the desk's panels. */
  readonly tab: string;
  readonly side: string;
  /** The place that is made large over its neighbours. */
  readonly large: Place | null;
  /** The channel whose formula is on the table, by path. */
  readonly formula: string | null;
  /** The frames the sheet and the curves show. */
  readonly span: { readonly first: number; readonly last: number };
  /** What happens to keys in the way of keys that move. */
  readonly collision: CollisionAnswer;
  readonly about: TurnAbout;
  /** The camera goes with the leading member. */
  readonly follow: boolean;
  /** The stage shows four views at once. */
  readonly four: boolean;
  /** The way of what is picked is drawn on the stage, with a bead for each frame. */
  readonly arcs: boolean;
  /** Rows of the sheet whose names hold this. */
  readonly find: string;
  readonly rows: RowFilter;
  /** Curves that stay in the curves view whatever is picked, and those left out of it. */
  readonly pinned: readonly string[];
  readonly hidden: readonly string[];
  /** Only these curves, while there are any. */
  readonly isolated: readonly string[];
  /** Every curve over the whole height, whatever its size. */
  readonly normal: boolean;
  readonly speed: boolean;
  /** Dragging a handle turns it and leaves its length. */
  readonly holdLength: boolean;
  readonly asItWas: AsItWas | null;
  /** The controls of rigs are drawn, but for those of the hidden sets. */
  readonly controls: boolean;
  readonly hiddenSets: readonly string[];
  /** Rigs are shown as through glass. */
  readonly xray: boolean;
  /** The balance of the leading rig is drawn. */
  readonly balance: boolean;
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
  side: 'channels',
  large: null,
  formula: null,
  span: { first: 1, last: 96 },
  collision: 'stop',
  about: 'own',
  follow: false,
  four: false,
  arcs: true,
  find: '',
  rows: 'keyed',
  pinned: [],
  hidden: [],
  isolated: [],
  normal: false,
  speed: false,
  holdLength: false,
  asItWas: null,
  controls: true,
  hiddenSets: [],
  xray: false,
  balance: false,
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
      find: '',
      rows: 'keyed',
      pinned: [],
      hidden: [],
      isolated: [],
      asItWas: null,
      hiddenSets: [],
      formula: null,
      follow: false,
      span: { first: first - margin, last: last + margin },
    });
  },
}));

/** How the neighbouring frames are drawn around this one. */
export interface OnionSkin {
  readonly on: boolean;
  /** How many before and after. */
  readonly before: number;
  readonly after: number;
  /** Every so many frames; `keys` takes frames with keys only. */
  readonly every: number | 'keys';
  readonly look: 'shapes' | 'outlines';
  /** Whoever is picked, or everybody who moves. */
  readonly who: 'picked' | 'moving';
}

/** How arcs are drawn. */
export interface ArcLook {
  /** Frames shown on each side of now; 0 shows all that play. */
  readonly around: number;
  /** In the world, or as the shot's camera sees them. */
  readonly space: 'world' | 'camera';
  /** The point they are of. */
  readonly point: 'origin' | 'middle' | 'top' | 'foot';
}

/** What stays with the person, not with the shot. */
export interface Habits {
  readonly theme: 'light' | 'night' | 'system';
  /** Shortcuts changed by hand, by command id. */
  readonly shortcuts: Readonly<Record<string, string>>;
  /** Whether the timing chart is unfolded. */
  readonly chart: boolean;
  /** How many frames a turn of many together takes. */
  readonly turnFrames: number;
  readonly onion: OnionSkin;
  readonly arc: ArcLook;
  /** Prints of the feet of a walk on the floor, and the arcs of the parts of its body one looks at. */
  readonly footprints: boolean;
  readonly bodyArcs: boolean;
  /** Whether sounds are kept quiet. */
  readonly muted: boolean;
  /** The stage begins with its full picture even where it is drawn without a graphics card. */
  readonly fullPicture: boolean;
  /** The stage is drawn with few points, and no small pictures are made: for slow machines. */
  readonly sketch: boolean;
  /** Members whose channels the sheet hides, by shot. */
  readonly folded: Readonly<Record<string, readonly string[]>>;
  /** How far one has got with the first shot, and in which. */
  readonly firstShot: { readonly is: 'new' | 'open' | 'left'; readonly shot: string | null; readonly step: number };
  /** How shots were looked at, by shot: see `shot-views`. */
  readonly views: Readonly<Record<string, Partial<ShotView>>>;
  set(change: Partial<Omit<Habits, 'set'>>): void;
}

/** Shots whose folding is remembered: the ones folded last. */
const MOST_FOLDED = 40;

/** Remembers which members of a shot are folded in the sheet. */
export function foldRows(shot: string, ids: readonly string[]): void {
  const { folded, set } = useHabits.getState();
  const { [shot]: _, ...others } = folded;
  const kept = Object.entries(others).slice(1 - MOST_FOLDED);
  set({ folded: { ...Object.fromEntries(kept), ...(ids.length > 0 ? { [shot]: ids } : {}) } });
}

/** Commands that have got another id: shortcuts that one changed oneself stay with them. */
const RENAMED: Readonly<Record<string, string>> = { 'kit.show': 'view.kits', 'check.show': 'view.checks' };

const renamed = (kept: Habits): Habits => ({
  ...kept,
  shortcuts: Object.fromEntries(Object.entries(kept.shortcuts ?? {}).map(([id, keys]) => [RENAMED[id] ?? id, keys])),
});

export const useHabits = create<Habits>()(
  persist(
    (set) => ({
      theme: 'system',
      shortcuts: {},
      folded: {},
      views: {},
      firstShot: { is: 'new', shot: null, step: 0 },
      turnFrames: 8,
      chart: true,
      onion: { on: false, before: 4, after: 4, every: 2, look: 'shapes', who: 'picked' },
      arc: { around: 0, space: 'world', point: 'origin' },
      footprints: false,
      bodyArcs: false,
      muted: false,
      fullPicture: false,
      sketch: false,
      set: (change) => set(change),
    }),
    {
      name: 'varrup-habits',
      version: 1,
      migrate: (kept) => renamed(kept as Habits),
    },
  ),
);
