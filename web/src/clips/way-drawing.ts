import { setTravel, wayOver } from '@varrup/core';
import { toast } from 'sonner';
import { create } from 'zustand';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';

type Point = readonly [number, number, number];

/** A way that is being drawn on the stage, for a clip to be laid along. */
interface WayDrawing {
  /** The clip it is for; null while none is drawn. */
  readonly clip: string | null;
  readonly points: readonly Point[];
  begin(clip: string): void;
  add(point: Point): void;
  back(): void;
  finish(): void;
  leave(): void;
}

export const useWay = create<WayDrawing>((set, get) => ({
  clip: null,
  points: [],
  begin: (clip) => set({ clip, points: [] }),
  add: (point) => set({ points: [...get().points, point] }),
  back: () => set({ points: get().points.slice(0, -1) }),
  finish() {
    const { clip, points } = get();
    const { shot, run } = useShot.getState();
    if (!clip || !shot || points.length < 2) {
      toast('A way needs two points at least.');
      return;
    }
    const way = wayOver(shot, [...points], usePlayhead.getState().frame);
    run(setTravel, { id: clip, change: { way, travelling: true } });
    set({ clip: null, points: [] });
  },
  leave: () => set({ clip: null, points: [] }),
}));

/** Keys that belong to a way while it is drawn. @returns whether this was one */
export function wayKey(event: KeyboardEvent): boolean {
  const { clip, finish, back, leave } = useWay.getState();
  if (clip === null) return false;
  const act = { Enter: finish, Backspace: back, Escape: leave }[event.key];
  act?.();
  return act !== undefined;
}
