import { type FormulaProblem, formulaFunctions, formulaNames, inputFunctions } from '@varrup/core';
import { type KeyboardEvent, useId, useLayoutEffect, useRef, useState } from 'react';

/** Where a formula is written: wrong characters are marked, names are completed. */
export function FormulaText({
  text,
  names,
  problem,
  onType,
  onKeep,
  onLeave,
}: {
  text: string;
  names: readonly string[];
  problem: FormulaProblem | null;
  onType: (text: string) => void;
  onKeep: () => void;
  onLeave: () => void;
}) {
  const field = useRef<HTMLTextAreaElement>(null);
  const [caret, setCaret] = useState(0);
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const list = useId();
  /** Where the caret belongs once the text that was put in is there; before the next key is pressed. */
  const next = useRef<number | null>(null);
  useLayoutEffect(() => {
    if (next.current === null || field.current?.value !== text) return;
    field.current.focus();
    field.current.setSelectionRange(next.current, next.current);
    setCaret(next.current);
    next.current = null;
  }, [text]);
  const word = /[a-zA-Z][a-zA-Z0-9_]*$/.exec(text.slice(0, caret))?.[0] ?? '';
  const offers = open && word !== '' ? completions(word, names) : [];
  const chosen = offers[Math.min(at, offers.length - 1)];

  const complete = (offer: Offer) => {
    const start = caret - word.length;
    next.current = start + offer.caret;
    onType(text.slice(0, start) + offer.insert + text.slice(caret));
    setOpen(false);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (chosen && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
      event.preventDefault();
      setAt((at + (event.key === 'ArrowDown' ? 1 : offers.length - 1)) % offers.length);
    } else if (chosen && (event.key === 'Tab' || event.key === 'Enter')) {
      event.preventDefault();
      complete(chosen);
    } else if (event.key === 'Enter') {
      event.preventDefault();
      onKeep();
    } else if (event.key === 'Escape') {
      if (chosen) setOpen(false);
      else onLeave();
    }
  };
  return (
    <div className="relative">
      <pre
        aria-hidden
        className="tabular pointer-events-none absolute inset-0 overflow-hidden border border-transparent px-2 py-1.5 text-sm leading-5 break-words whitespace-pre-wrap text-transparent"
      >
        {problem ? (
          <>
            {text.slice(0, problem.at)}
            <mark className="bg-transparent text-transparent underline decoration-vermilion decoration-wavy decoration-2 underline-offset-2">
              {text.slice(problem.at, problem.at + problem.length) || ' '}
            </mark>
            {text.slice(problem.at + problem.length)}
          </>
        ) : null}
      </pre>
      <textarea
        ref={field}
        aria-label="Formula"
        aria-invalid={problem !== null}
        aria-autocomplete="list"
        aria-controls={offers.length > 0 ? list : undefined}
        spellCheck={false}
        autoComplete="off"
        rows={2}
        value={text}
        placeholder="wave(0.2, 24)"
        onChange={(event) => {
          setCaret(event.target.selectionStart);
          setOpen(true);
          setAt(0);
          onType(event.target.value);
        }}
        onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
        onKeyDown={onKeyDown}
        onBlur={() => {
          setOpen(false);
          onKeep();
        }}
        className="tabular relative block w-full resize-none rounded-md border border-rule bg-transparent px-2 py-1.5 text-sm leading-5"
      />
      {offers.length > 0 ? (
        <div
          id={list}
          role="listbox"
          aria-label="Names that fit"
          className="absolute top-full left-0 z-20 mt-0.5 max-h-40 w-full overflow-y-auto rounded-md border border-rule bg-card py-1 text-sm shadow-lg"
        >
          {offers.map((offer) => (
            <div
              key={offer.form}
              role="option"
              tabIndex={-1}
              aria-selected={offer === chosen}
              onPointerDown={(event) => {
                event.preventDefault();
                complete(offer);
              }}
              className="flex cursor-pointer gap-2 px-2 py-0.5 aria-selected:bg-blue-wash"
            >
              <span className="tabular shrink-0">{offer.form}</span>
              <span className="truncate text-graphite">{offer.about}</span>
            </div>
          ))}
        </div>
      ) : null}
    </div>
  );
}

interface Offer {
  readonly form: string;
  readonly about: string;
  readonly insert: string;
  /** Where the caret goes, from the start of what is put in. */
  readonly caret: number;
}

const call = (form: string, about: string): Offer => {
  const name = form.slice(0, form.indexOf('('));
  return { form, about, insert: `${name}()`, caret: name.length + 1 };
};
const plain = (name: string, about: string): Offer => ({ form: name, about, insert: name, caret: name.length });

/** All that begins with what has been typed: inputs first. */
function completions(word: string, names: readonly string[]): Offer[] {
  const all = [
    ...names.map((n) => plain(n, 'an input')),
    ...formulaFunctions.map((f) => call(f.form, f.about)),
    ...Object.values(inputFunctions).map((f) => call(f.form, f.about)),
    ...Object.entries(formulaNames).map(([name, { about }]) => plain(name, about)),
  ];
  const lower = word.toLowerCase();
  const fits = all.filter((o) => o.form.toLowerCase().startsWith(lower));
  return fits.length === 1 && fits[0].insert === word ? [] : fits.slice(0, 8);
}
