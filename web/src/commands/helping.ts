import { openFirstShot } from '../help/first-shot.ts';
import { explainHere } from '../help/what-is-this.ts';
import type { AppCommand } from './command.ts';

/** Help where one is, and going from panel to panel. */
/** Goes to the next panel: to its list, its first number, or else the first thing in it that takes keys. */
function goToPanel(by: 1 | -1): void {
  const panels = [...document.querySelectorAll<HTMLElement>('[data-explained]')];
  const at = panels.findIndex((panel) => panel.contains(document.activeElement));
  for (let i = 1; i <= panels.length; i++) {
    const panel = panels[(Math.max(at, by > 0 ? -1 : 0) + by * i + panels.length * 2) % panels.length];
    const own = (what: string) => panel.querySelector<HTMLElement>(`${what}:not(:disabled)`);
    const first =
      own('[role=tree]') ?? own('input[data-number]') ?? own('[role=tab][aria-selected=true]') ?? own('button');
    if (!first) continue;
    first.focus();
    return;
  }
}

export const helping: AppCommand[] = [
  { id: 'panel.next', label: 'Go to the next panel', group: 'View', shortcut: 'F6', run: () => goToPanel(1) },
  {
    id: 'panel.previous',
    label: 'Go to the panel before',
    group: 'View',
    shortcut: 'Shift+F6',
    run: () => goToPanel(-1),
  },
  {
    id: 'help.here',
    label: 'What is this? Explains the panel one is in',
    group: 'View',
    shortcut: 'F1',
    run: explainHere,
  },
  { id: 'help.firstShot', label: 'First shot, step by step', group: 'View', run: openFirstShot },
];
