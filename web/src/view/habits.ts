import type { ListOrder } from '@varrup/core';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { Recipient } from '../hand-on/wanted.ts';
import type { ShotView } from './shot-views.ts';

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
  /** What the list of productions is ordered by. */
  readonly homeOrder: ListOrder;
  /** What one is called in notes; a sign of the harbour where one has not said. */
  readonly name: string;
  /** The revision of each shot that was looked at last on the desk Review. */
  readonly looked: Readonly<Record<string, number>>;
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
  /** Whether keys that are dragged are drawn onto beats. */
  readonly ontoBeats: boolean;
  /** Whether sounds are kept quiet. */
  readonly muted: boolean;
  /** The stage begins with its full picture even where it is drawn without a graphics card. */
  readonly fullPicture: boolean;
  /** Through the camera, lines say what every screen shows of it. */
  readonly safeFrame: boolean;
  /** The stage is drawn with few points, and no small pictures are made: for slow machines. */
  readonly sketch: boolean;
  /** Members whose channels the sheet hides, by shot. */
  readonly folded: Readonly<Record<string, readonly string[]>>;
  /** How far one has got with the first shot, and in which. */
  readonly firstShot: { readonly is: 'new' | 'open' | 'left'; readonly shot: string | null; readonly step: number };
  /** Those who receive work, with how they want it. */
  readonly recipients: readonly Recipient[];
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
      homeOrder: 'recent',
      name: '',
      looked: {},
      shortcuts: {},
      folded: {},
      views: {},
      recipients: [],
      firstShot: { is: 'new', shot: null, step: 0 },
      turnFrames: 8,
      chart: true,
      onion: { on: false, before: 4, after: 4, every: 2, look: 'shapes', who: 'picked' },
      arc: { around: 0, space: 'world', point: 'origin' },
      footprints: false,
      bodyArcs: false,
      ontoBeats: false,
      muted: false,
      fullPicture: false,
      safeFrame: false,
      sketch: false,
      set: (change) => set(change),
    }),
    {
      name: 'varrup-habits',
      storage: createJSONStorage(() => localStorage),
      version: 1,
      migrate: (kept) => renamed(kept as Habits),
    },
  ),
);
