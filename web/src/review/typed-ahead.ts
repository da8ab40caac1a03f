/** What is typed for a field that is on its way: its panel may have to be fetched first, and letters are no shortcuts meanwhile. */

/** A field that takes longer than this is not coming. Milliseconds. */
const LONGEST = 4_000;

let under: { text: string; end(): void } | null = null;

/** Holds what is typed from now until it is asked for. */
export function typeAhead(): void {
  under?.end();
  const own = { text: '', end: () => {} };
  const hear = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Backspace') own.text = own.text.slice(0, -1);
    else if (event.key === 'Enter') own.text += '\n';
    else if (event.key.length === 1) own.text += event.key;
    else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  // Before all others that hear keys.
  window.addEventListener('keydown', hear, true);
  const late = setTimeout(() => own.end(), LONGEST);
  own.end = () => {
    clearTimeout(late);
    window.removeEventListener('keydown', hear, true);
    if (under === own) under = null;
  };
  under = own;
}

/** Puts what was typed meanwhile into its field, which takes what is typed from now on. */
export function takeTyped(field: HTMLTextAreaElement): void {
  field.focus();
  const text = under?.text ?? '';
  under?.end();
  if (text === '') return;
  field.setRangeText(text, field.value.length, field.value.length, 'end');
  field.dispatchEvent(new InputEvent('input', { bubbles: true }));
}
