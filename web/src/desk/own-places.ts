import { useEffect, useRef } from 'react';
import { usePlaces } from '../view/places.ts';
import type { PanelId } from './panels.ts';
import type { Desk } from './registry.ts';

interface Shown {
  readonly side: string;
  readonly tab: string;
}

const stands = (desk: Desk | undefined, place: 'beside' | 'below', id: string): boolean =>
  desk?.places?.[place].includes(id as PanelId) ?? false;

/** What a desk shows when one comes to it from another: what was asked for there, else what it was left with, else its first panels. */
export function shownOn(desk: Desk, from: Desk | undefined, now: Shown, left: Shown | undefined): Shown {
  const choose = (place: 'beside' | 'below', word: keyof Shown): string => {
    // A panel that does not stand where one comes from was asked for.
    if (stands(desk, place, now[word]) && !stands(from, place, now[word])) return now[word];
    return left?.[word] ?? desk.places?.[place][0] ?? now[word];
  };
  return { side: choose('beside', 'side'), tab: choose('below', 'tab') };
}

/** Each desk comes back with the panels it was left with. */
export function useOwnPlaces(desk: Desk | undefined): void {
  const from = useRef<Desk | undefined>(undefined);
  const left = useRef(new Map<string, Shown>());
  useEffect(() => {
    if (!desk?.places) return;
    const last = from.current;
    from.current = desk;
    if (last && last !== desk) usePlaces.setState(shownOn(desk, last, usePlaces.getState(), left.current.get(desk.id)));
    const remember = ({ side, tab }: Shown) => {
      if (stands(desk, 'beside', side) && stands(desk, 'below', tab)) left.current.set(desk.id, { side, tab });
    };
    remember(usePlaces.getState());
    return usePlaces.subscribe(remember);
  }, [desk]);
}
