import { useEffect } from 'react';
import { useHabits } from '../view/habits.ts';

const dark = matchMedia('(prefers-color-scheme: dark)');

/** The theme in force. */
export const themeNow = (): 'light' | 'night' => {
  const { theme } = useHabits.getState();
  return theme === 'system' ? (dark.matches ? 'night' : 'light') : theme;
};

/** Colours read from the page once a theme: a canvas asks for them thousands of times a drawing. */
const colours = new Map<string, string>();
const listeners = new Set<() => void>();
const apply = () => {
  document.documentElement.dataset.theme = themeNow();
  colours.clear();
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
export function colour(name: string): string {
  let value = colours.get(name);
  if (value === undefined) {
    value = getComputedStyle(document.documentElement).getPropertyValue(`--${name}`);
    colours.set(name, value);
  }
  return value;
}
