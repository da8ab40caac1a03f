import type { KeyboardEvent } from 'react';

/** Arrows in a list of tabs go to the next and the one before, and open it. For the list's `onKeyDown`. */
export function walkTabs(event: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (!by) return;
  const tabs = [...event.currentTarget.querySelectorAll<HTMLElement>('[role=tab]')];
  const next = tabs[tabs.indexOf(document.activeElement as HTMLElement) + by];
  next?.focus();
  next?.click();
}
