import { weigh } from '@varrup/core';
import { Eye } from 'lucide-react';
import { useMemo } from 'react';
import { shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useTable } from './table.ts';
import { weighedWords } from './words.ts';

/** What is shown and not made, under the stage: what it would change, and whether it is kept. */
export function TrialBar() {
  const on = useTable((t) => t.on);
  const committed = useShot((s) => s.committed);
  const draft = useShot((s) => s.draft);
  const words = useMemo(
    () => (committed && draft ? weighedWords(draft, weigh(committed, draft)) : []),
    [committed, draft],
  );
  if (!on) return null;
  const { keep, leave } = useTable.getState();
  const { title, remarks = [], problem, choice, number } = on;
  return (
    <section
      aria-label="Shown, not made"
      className="flex max-h-40 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 overflow-y-auto border-t-2 border-dashed border-ochre bg-ochre-wash px-3 py-1.5 text-sm"
    >
      <Eye size={15} className="shrink-0 text-ochre-ink" aria-hidden />
      <div className="min-w-52 grow basis-0">
        <h2 className="truncate font-semibold" title={title}>
          {title} <span className="font-normal text-ochre-ink">· shown, not made</span>
        </h2>
        <p role="status">{problem ?? [...words, ...remarks].join(' ')}</p>
      </div>
      {number ? (
        <div className="flex shrink-0 items-center gap-1.5">
          {number.label}
          <span className="w-18">
            <NumberField {...number} onChange={number.change} onPreview={number.change} />
          </span>
          {number.unit}
        </div>
      ) : null}
      {choice ? (
        <fieldset className="shrink-0">
          <legend className="sr-only">{choice.legend}</legend>
          {choice.options.map(({ word, picked, choose }) => (
            <label key={word} className="flex items-center gap-1.5">
              <input type="radio" name="trial" className="accent-blue" checked={picked} onChange={choose} />
              {word}
            </label>
          ))}
        </fieldset>
      ) : null}
      <div className="flex shrink-0 items-center gap-1.5">
        <Hint text="Make it so: one step, which undo takes back" keys={shortcutOf('trial.keep')} side="top">
          <Button look="solid" className="h-7!" disabled={Boolean(problem)} onClick={keep}>
            keep
          </Button>
        </Hint>
        <Hint text="Leave it: all is as it was" keys={shortcutOf('cast.none')} side="top">
          <Button look="pill" onClick={leave}>
            leave
          </Button>
        </Hint>
      </div>
    </section>
  );
}
