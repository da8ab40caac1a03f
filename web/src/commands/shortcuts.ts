import { useEffect } from 'react';
import { wayKey } from '../clips/way-drawing.ts';
import { useHabits } from '../view/habits.ts';
import { pressed } from './command.ts';
import { followWalking, receiverOf, takeOver } from './focus.ts';
import { commands } from './list.ts';

/** Listens for shortcuts while the desk is open; which keys are the commands' is decided in `focus.ts`. */
export function useShortcuts(): void {
  useEffect(() => {
    /** The command whose key is down and that lasts as long. */
    let held: { readonly code: string; readonly release: () => void } | null = null;
    /** Nothing else on the page is to hear of a key. */
    const keep = (event: KeyboardEvent) => {
      event.preventDefault();
      event.stopPropagation();
    };
    const letGo = () => {
      held?.release();
      held = null;
    };
    const onUp = (event: KeyboardEvent) => {
      if (event.code === held?.code) letGo();
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || receiverOf(event) !== 'commands') return;
      if (wayKey(event)) return keep(event);
      const keys = pressed(event);
      const own = useHabits.getState().shortcuts;
      const command = commands.find((c) => (own[c.id] ?? c.shortcut) === keys && (c.onlyWhile?.() ?? true));
      if (!command) return;
      keep(event);
      if (!takeOver(event)) return;
      if (command.release) {
        if (event.repeat) return;
        letGo();
        held = { code: event.code, release: command.release };
      }
      // Whoever follows what is done hears of it before it is, and can hold it back.
      const given = new CustomEvent('command', { detail: command.id, cancelable: true });
      if (dispatchEvent(given) && (command.enabled?.() ?? true)) command.run();
    };
    const unfollow = followWalking();
    // Before what has the focus hears of it, and after what is dragged.
    document.addEventListener('keydown', onKey, true);
    addEventListener('keyup', onUp);
    addEventListener('blur', letGo);
    return () => {
      letGo();
      unfollow();
      document.removeEventListener('keydown', onKey, true);
      removeEventListener('keyup', onUp);
      removeEventListener('blur', letGo);
    };
  }, []);
}
