import { useShot } from '../shot/shot-store.ts';
import { type Looking, useHabits, useView } from './view-store.ts';

/** How a shot was looked at last: it is opened so again. */
export interface ShotView {
  /** Where the free camera was, and what it looked at, in metres. */
  readonly place: readonly [number, number, number];
  readonly target: readonly [number, number, number];
  readonly looking: Looking;
  readonly flat: boolean;
  readonly four: boolean;
  readonly tab: string;
  readonly side: string;
}

/** Views of as many shots are remembered: of those looked at last. */
const MOST = 60;

export const viewOf = (shot: string): Partial<ShotView> => useHabits.getState().views[shot] ?? {};

/** Remembers how a shot is looked at. */
export function rememberView(shot: string, change: Partial<ShotView>): void {
  const { views, set } = useHabits.getState();
  const { [shot]: before, ...others } = views;
  const kept = Object.entries(others).slice(1 - MOST);
  set({ views: { ...Object.fromEntries(kept), [shot]: { ...before, ...change } } });
}

/** What of the view is remembered for each shot. */
const REMEMBERED = ['looking', 'flat', 'four', 'tab', 'side'] as const;

/** Remembers how the shot that is open is looked at, until what it returns is called. */
export const followViews = (): (() => void) =>
  useView.subscribe((view, old) => {
    const { shot } = useShot.getState();
    const changed = REMEMBERED.filter((name) => view[name] !== old[name]);
    if (shot && changed.length > 0)
      rememberView(shot.id, Object.fromEntries(changed.map((name) => [name, view[name]])));
  });
