import { useEffect } from 'react';
import { wayKey } from '../clips/way-drawing.ts';
import { isUndoKey } from '../ui/NumberField.tsx';
import { useQuestion } from '../view/questions.ts';
import { useHabits } from '../view/view-store.ts';
import { pressed } from './command.ts';
import { commands } from './list.ts';

/** Listens for shortcuts while the desk is open. Typing into a field, and an open card, keep their keys to themselves. */
export function useShortcuts(): void {
  useEffect(() => {
    /** The command whose key is down and that lasts as long. */
    let held: { readonly code: string; readonly release: () => void } | null = null;
    const letGo = () => {
      held?.release();
      held = null;
    };
    const onUp = (event: KeyboardEvent) => {
      if (event.code === held?.code) letGo();
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || blocked() || takesKeys(event)) return;
      if (wayKey(event)) {
        event.preventDefault();
        return;
      }
      const keys = pressed(event);
      const own = useHabits.getState().shortcuts;
      const command = commands.find((c) => (own[c.id] ?? c.keys) === keys);
      if (!command) return;
      event.preventDefault();
      if (command.release) {
        if (event.repeat) return;
        letGo();
        held = { code: event.code, release: command.release };
      }
      if (command.enabled?.() ?? true) command.run();
    };
    addEventListener('keydown', onKey);
    addEventListener('keyup', onUp);
    addEventListener('blur', letGo);
    return () => {
      letGo();
      removeEventListener('keydown', onKey);
      removeEventListener('keyup', onUp);
      removeEventListener('blur', letGo);
    };
  }, []);
}

/** A card that covers the desk takes all keys; the retime card lies beside it. */
const blocked = () => ![null, 'retime'].includes(useQuestion.getState().open);

/** What moves a slider. */
const STEPPING = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'PageUp', 'PageDown', 'Home', 'End'];

/** Whether what has the focus wants the key: text wants all of them, lists and buttons the ones that work them. */
function takesKeys(event: KeyboardEvent): boolean {
  const { target, key, shiftKey, altKey, ctrlKey } = event;
  if (!(target instanceof HTMLElement)) return false;
  if (target.matches('input[data-settled]') && isUndoKey(event)) return false;
  if (target.matches('input[type=range]')) return STEPPING.includes(key) && !altKey && !ctrlKey;
  if (target.isContentEditable || target.matches('input:not([type=checkbox]), textarea, select')) return true;
  if (target.closest('[role=menu], [role=listbox], [role=dialog]:not([aria-label=Retime])')) return true;
  if (altKey || ctrlKey) return false;
  if (target.closest('[role=tree]') && !shiftKey)
    return ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Enter', 'Home', 'End'].includes(key);
  if (target.closest('[role=tablist], [role=separator], [role=slider]')) return key.startsWith('Arrow');
  return target.matches('button, a, [role=button]') && (key === 'Enter' || key === ' ');
}
