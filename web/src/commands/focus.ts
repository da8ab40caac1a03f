import { canBeTyped } from '@varrup/core';
import { finishTyping } from '../ui/being-typed.ts';
import { useQuestion } from '../view/questions.ts';

/**
 * Who gets a key. It is decided here and nowhere else, before anything on the page hears of it; `docs/keys.md` says the same to people.
 *
 * - A card over the desk has all keys.
 * - Text that is being written has all keys. A number has those that can belong to a number; any other takes the number over first.
 * - Lists, tabs, sliders and buttons have the keys that work them. Those that are time's as well (Space, ←, →, Home, End) they have only
 *   while they are walked: come to by the keyboard. Who has pressed them with the pointer has let go of them again.
 * - All else is for the commands.
 */
export type Receiver = 'card' | 'text' | 'list' | 'commands';

/** Whether the focus was last moved by the keyboard, or by nobody yet. */
let walked = true;

/** Follows how the focus comes to where it is, and ends typing where a press goes elsewhere. @returns what ends it */
export function followWalking(): () => void {
  const byPointer = ({ target }: PointerEvent) => {
    walked = false;
    // What is typed is taken over before a press elsewhere does anything: on the frame it was typed on, of whom it was typed for.
    if (target !== document.activeElement) finishTyping();
  };
  const byKey = (event: KeyboardEvent) => {
    if (event.key === 'Tab' || event.key === 'F6') walked = true;
  };
  addEventListener('pointerdown', byPointer, true);
  addEventListener('keydown', byKey, true);
  return () => {
    removeEventListener('pointerdown', byPointer, true);
    removeEventListener('keydown', byKey, true);
  };
}

export function receiverOf(event: KeyboardEvent): Receiver {
  const { target } = event;
  if (isCardOpen()) return 'card';
  // Nobody writes with these: they are the desk's wherever one is on it.
  if (event.key === 'F1' || event.key === 'F6') return 'commands';
  // Parts of drawings have keys as well: the steps of a gait, the handle of a wave.
  if (!(target instanceof Element)) return 'commands';
  if (
    target.closest(
      '[role=menu], [role=listbox], [role=dialog]:not([aria-label=Retime], [data-beside]), [role=alertdialog]',
    )
  )
    return target.matches('input[data-number]') ? numberOr(event, target as HTMLInputElement) : 'card';
  if (target.matches('input[data-number]')) return numberOr(event, target as HTMLInputElement);
  if ((target instanceof HTMLElement && target.isContentEditable) || target.matches(WRITTEN)) return 'text';
  return listTakes(event, target) ? 'list' : 'commands';
}

/** The commands get a key that a number is in the way of: what is typed is taken over. @returns whether it could be */
export function takeOver(event: KeyboardEvent): boolean {
  const { target } = event;
  if (!(target instanceof HTMLInputElement) || target.dataset.number === undefined) return true;
  if (!finishTyping()) return false;
  // What asks where the focus is must find it there.
  if (!/^F\d+$|^ContextMenu$/.test(event.key)) target.blur();
  return true;
}

/** A card that covers the desk takes all keys; the retime card lies beside it. */
const isCardOpen = () => ![null, 'retime'].includes(useQuestion.getState().open);

const WRITTEN = 'textarea, input:not([type=checkbox], [type=radio], [type=range], [type=color], [type=button])';

/** Keys that work in a number beside those that are written. */
const EDITING = ['Backspace', 'Delete', 'Enter', 'Tab', 'Escape', 'ArrowUp', 'ArrowDown'];
/** Keys that move within what is typed; with nothing typed they are time's. */
const WITHIN = ['ArrowLeft', 'ArrowRight', 'Home', 'End'];
const CLIPBOARD = ['a', 'c', 'v', 'x'];

function numberOr(event: KeyboardEvent, field: HTMLInputElement): Receiver {
  const { key, altKey } = event;
  const isTyped = field.dataset.number === 'typed';
  const mine = () => {
    if (event.ctrlKey || event.metaKey) {
      // With nothing typed there is nothing of the field's own to take back or to copy: these are the shot's.
      if (!isTyped) return false;
      return [...CLIPBOARD, 'z', 'y'].includes(key.toLowerCase());
    }
    if (altKey && event.shiftKey) return false;
    // With Shift it is no key for writing.
    if (key === 'Backspace' && event.shiftKey) return false;
    if (EDITING.includes(key)) return true;
    if (altKey) return false;
    if (WITHIN.includes(key)) return isTyped;
    return key.length === 1 && canBeTyped(key, field.value.slice(0, field.selectionStart ?? 0));
  };
  return mine() ? 'text' : 'commands';
}

/** The keys that are time's: what is not walked leaves them alone. */
const TIMES = [' ', 'ArrowLeft', 'ArrowRight', 'Home', 'End', 'PageUp', 'PageDown'];
const WALKING = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End'];
const SLIDING = [...WALKING, 'PageUp', 'PageDown'];

/** Whether what has the focus works by a key. */
function listTakes({ key, altKey, ctrlKey, metaKey, shiftKey }: KeyboardEvent, target: Element): boolean {
  if (key === 'Tab') return true;
  // What has keys of its own says which, with Alt where that makes a difference.
  const own = target.closest('[data-takes]')?.getAttribute('data-takes')?.split(' ') ?? [];
  if (own.includes(altKey ? `Alt+${key}` : key)) return altKey || walked || !TIMES.includes(key);
  if (altKey || ctrlKey || metaKey) return false;
  if (!walked && (TIMES.includes(key) || (key === 'Enter' && target.matches('button')))) return false;
  if (target.closest('[role=tree]'))
    return key === 'Enter' || (WALKING.includes(key) && (!shiftKey || key === 'ArrowUp' || key === 'ArrowDown'));
  if (target.matches('input[type=range], [role=slider], [role=separator], select'))
    return SLIDING.includes(key) || key === ' ';
  if (target.closest('[role=tablist]') && WALKING.includes(key)) return true;
  return target.matches('button, a, summary, input, [role=button], [role=tab]') && (key === 'Enter' || key === ' ');
}
