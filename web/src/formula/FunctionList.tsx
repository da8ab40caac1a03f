import { exampleSeries, formulaFunctions, formulaNames, inputFunctions } from '@varrup/core';
import { useMemo, useState } from 'react';
import { Hint } from '../ui/Hint.tsx';

interface Entry {
  readonly form: string;
  readonly about: string;
  readonly example: string;
  readonly group: string;
}

const entries: readonly Entry[] = [
  ...formulaFunctions,
  ...Object.values(inputFunctions).map((f) => ({ ...f, group: 'time' })),
  ...Object.entries(formulaNames).map(([form, { about }]) => ({ form, about, example: form, group: 'names' })),
];

/** All a formula may call, with what it gives, an example, and how that runs. */
export function FunctionList({ onPick }: { onPick: (example: string) => void }) {
  const [find, setFind] = useState('');
  const wanted = find.trim().toLowerCase();
  const shown = entries.filter((e) => `${e.form} ${e.about} ${e.group}`.toLowerCase().includes(wanted));
  return (
    <section aria-label="Functions" className="flex min-h-0 w-80 shrink-0 flex-col">
      <input
        type="search"
        aria-label="Find a function"
        placeholder="find a function"
        value={find}
        onChange={(event) => setFind(event.target.value)}
        onKeyDown={(event) => event.stopPropagation()}
        className="mb-1 h-6 w-full shrink-0 rounded-md border border-rule bg-paper px-2 text-sm"
      />
      <ul className="min-h-0 grow overflow-y-auto">
        {shown.map((entry) => (
          <li key={entry.form}>
            <Hint text={`Put ${entry.example} into the formula`} side="left">
              <button
                type="button"
                onClick={() => onPick(entry.example)}
                className="flex w-full items-center gap-2 rounded px-1 py-0.5 text-left text-sm hover:bg-well"
              >
                <SmallPlot text={entry.example} />
                <span className="min-w-0 grow">
                  <span className="tabular block truncate">{entry.form}</span>
                  <span className="block text-xs text-graphite">
                    {entry.about}: <i className="tabular not-italic">{entry.example}</i>
                  </span>
                </span>
              </button>
            </Hint>
          </li>
        ))}
        {shown.length === 0 ? <li className="px-1 py-2 text-sm text-graphite">No function is like that.</li> : null}
      </ul>
    </section>
  );
}

const WIDE = 56;
const HIGH = 26;

/** How a formula runs over two seconds. */
function SmallPlot({ text }: { text: string }) {
  const points = useMemo(() => {
    const series = exampleSeries(text, WIDE);
    if (!series) return '';
    const finite = series.map((v) => (Number.isFinite(v) ? v : 0));
    const [low, high] = [Math.min(...finite), Math.max(...finite)];
    const y = (v: number) => (high - low < 1e-9 ? HIGH / 2 : HIGH - 3 - ((v - low) / (high - low)) * (HIGH - 6));
    return [...finite].map((v, i) => `${i},${y(v).toFixed(1)}`).join(' ');
  }, [text]);
  return (
    <svg width={WIDE} height={HIGH} className="shrink-0 rounded bg-well" aria-hidden>
      <polyline points={points} className="fill-none stroke-umber" strokeWidth="1.5" />
    </svg>
  );
}
