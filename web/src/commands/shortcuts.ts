import { useEffect } from 'react';
import { useQuestion } from '../view/questions.ts';
import { useHabits } from '../view/view-store.ts';
import { pressed } from './command.ts';
import { commands } from './list.ts';

/** Listens for shortcuts while the desk is open. Typing into a field, and an open card, keep their keys to themselves. */
export function useShortcuts(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || useQuestion.getState().open !== null || takesKeys(event)) return;
      const keys = pressed(event);
      const own = useHabits.getState().shortcuts;
      const command = commands.find((c) => (own[c.id] ?? c.keys) === keys);
      if (!command) return;
      event.preventDefault();
      if (command.enabled?.() ?? true) command.run();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);
}

/** Whether what has the focus wants the key: text wants all of them, lists and buttons the ones that work them. */
function takesKeys({ target, key, shiftKey, altKey, ctrlKey }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable || target.matches('input:not([type=checkbox]), textarea, select')) return true;
  if (target.closest('[role=menu], [role=dialog], [role=listbox]')) return true;
  if (altKey || ctrlKey) return false;
  if (target.closest('[role=tree]') && !shiftKey)
    return ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Enter', 'Home', 'End'].includes(key);
  if (target.closest('[role=tablist], [role=separator]')) return key.startsWith('Arrow');
  return target.matches('button, a, [role=button]') && (key === 'Enter' || key === ' ');
}
