import { useEffect } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { useHabits } from '../view/habits.ts';

/** Shots whose last look is remembered: those looked at last. */
const MOST = 200;

/** Remembers, when one leaves the desk Review, up to which edit one has seen the shot: what comes after is new the next time. */
export function useLooked(reviewing: boolean): void {
  const id = useShot((s) => (s.status === 'ready' ? (s.shot?.id ?? null) : null));
  useEffect(() => {
    if (!reviewing || id === null) return;
    const look = () => {
      const revision = useShot.getState().revision();
      if (useShot.getState().shot?.id !== id || revision === 0) return;
      const { looked, set } = useHabits.getState();
      const { [id]: _, ...others } = looked;
      set({ looked: { ...Object.fromEntries(Object.entries(others).slice(1 - MOST)), [id]: revision } });
    };
    addEventListener('pagehide', look);
    return () => {
      removeEventListener('pagehide', look);
      look();
    };
  }, [reviewing, id]);
}
