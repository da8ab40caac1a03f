import { useShot } from '../shot/shot-store.ts';
import { useHabits } from './habits.ts';
import { type Looking, useLooking } from './looking.ts';
import { usePlaces } from './places.ts';

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

/** Remembers how the shot that is open is looked at, until what it returns is called. */
export function followViews(): () => void {
  const remember = (change: Partial<ShotView>) => {
    const { shot } = useShot.getState();
    if (shot) rememberView(shot.id, change);
  };
  const endings = [
    useLooking.subscribe(({ looking, flat, four }, old) => {
      if (looking !== old.looking || flat !== old.flat || four !== old.four) remember({ looking, flat, four });
    }),
    usePlaces.subscribe(({ tab, side }, old) => {
      if (tab !== old.tab || side !== old.side) remember({ tab, side });
    }),
  ];
  return () => {
    for (const end of endings) end();
  };
}
