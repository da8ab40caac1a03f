import type { ReactNode } from 'react';

/** One of several, with what it is of before it. */
export function Choice<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: readonly (readonly [value: Value, word: string])[];
  onChange: (value: Value) => void;
}) {
  return (
    <Row label={label}>
      <select
        aria-label={label}
        value={value}
        onChange={(event) => onChange(event.target.value as Value)}
        className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1 text-ink"
      >
        {options.map(([v, word]) => (
          <option key={v} value={v}>
            {word}
          </option>
        ))}
      </select>
    </Row>
  );
}

/** A line of a form: a word and what belongs to it. */
export const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex min-h-7 items-center gap-2">
    <span className="w-14 shrink-0 text-graphite">{label}</span>
    {children}
  </div>
);

/** A group of lines under a heading. */
export const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="mt-2.5 flex flex-col gap-1 border-t border-rule pt-1.5">
    <h3 className="text-sm text-graphite">{title}</h3>
    {children}
  </section>
);
