import { useEffect } from 'react';
import { useHabits } from '../view/view-store.ts';

const dark = matchMedia('(prefers-color-scheme: dark)');

/** The theme in force. */
export const themeNow = (): 'light' | 'night' => {
  const { theme } = useHabits.getState();
  return theme === 'system' ? (dark.matches ? 'night' : 'light') : theme;
};

const listeners = new Set<() => void>();
const apply = () => {
  document.documentElement.dataset.theme = themeNow();
  for (const listener of listeners) listener();
};
dark.addEventListener('change', apply);
useHabits.subscribe(apply);
apply();

/** Calls back when the theme changes, for what draws itself on a canvas. */
export function useThemeChange(changed: () => void): void {
  useEffect(() => {
    listeners.add(changed);
    return () => void listeners.delete(changed);
  }, [changed]);
}

/** A colour of the theme, for drawing on a canvas. */
export const colour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`);
