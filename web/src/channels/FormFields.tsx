import { type Member, reshapeMember } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { NumberField } from '../ui/NumberField.tsx';

const MOST: Record<string, number> = { count: 200, weight: 0.3, bow: 100, drop: 1_000, sag: 1_000 };
const LEAST: Record<string, number> = { count: 1, rounding: 0, sag: 0, bow: -100, drop: -1_000, weight: 0.02 };

/** The numbers that make a member's form. They are set for the whole shot, not keyed. */
export function FormFields({ member, disabled }: { member: Member; disabled: boolean }) {
  const run = useShot((s) => s.run);
  // A picture is made elsewhere; here are the numbers and the colours. What sky and lamps are is said with the light.
  const entries = Object.entries(member.shape).filter(
    (entry): entry is [string, number | string | null] =>
      !['light', 'sky'].includes(member.kind) &&
      (typeof entry[1] === 'number' ||
        entry[1] === null ||
        entry[0] === 'text' ||
        (typeof entry[1] === 'string' && entry[1].startsWith('#'))),
  );
  if (entries.length === 0) return null;
  const set = (name: string, value: number | string | null) =>
    run(reshapeMember, { id: member.id, shape: { [name]: value } });
  return (
    <fieldset className="mt-3 border-t border-rule pt-2" disabled={disabled}>
      <legend className="float-left mb-1 w-full text-sm text-graphite">form, the same all through the shot</legend>
      <div className="clear-left grid grid-cols-[5.8rem_1fr_1.5rem] items-center gap-x-1 gap-y-0.5">
        {entries.map(([name, value]) =>
          typeof value === 'number' ? (
            <FormNumber key={name} name={name} value={value} disabled={disabled} onChange={(v) => set(name, v)} />
          ) : name === 'text' ? (
            <FormText key={name} value={String(value)} disabled={disabled} onChange={(v) => set(name, v)} />
          ) : (
            <FormColour key={name} name={name} value={value} onChange={(v) => set(name, v)} />
          ),
        )}
      </div>
    </fieldset>
  );
}

function FormNumber({
  name,
  value,
  disabled,
  onChange,
}: {
  name: string;
  value: number;
  disabled: boolean;
  onChange: (v: number) => void;
}) {
  const whole = name === 'count';
  return (
    <>
      <span className="text-graphite">{name}</span>
      <NumberField
        label={name}
        value={value}
        unit={whole || name === 'weight' ? '' : 'm'}
        step={whole ? 1 : 0.01}
        digits={whole ? 0 : 3}
        min={LEAST[name] ?? 0.001}
        max={MOST[name] ?? 10_000}
        disabled={disabled}
        whole={whole}
        onChange={onChange}
      />
      <span />
    </>
  );
}

function FormColour({
  name,
  value,
  onChange,
}: {
  name: string;
  value: string | null;
  onChange: (v: string | null) => void;
}) {
  return (
    <>
      <span className="text-graphite">{name}</span>
      <label className="flex h-6 items-center gap-2">
        <input
          type="checkbox"
          className="accent-blue"
          aria-label={name}
          checked={value !== null}
          onChange={(e) => onChange(e.target.checked ? '#f4f0e8' : null)}
        />
        {value === null ? (
          'none'
        ) : (
          <input
            key={value}
            type="color"
            aria-label={`colour of the ${name}`}
            defaultValue={value}
            onBlur={(e) => e.target.value !== value && onChange(e.target.value)}
            className="h-5 w-8 rounded border border-rule bg-transparent p-0"
          />
        )}
      </label>
      <span />
    </>
  );
}

/** What a lettering says. */
function FormText({ value, disabled, onChange }: { value: string; disabled: boolean; onChange: (v: string) => void }) {
  return (
    <>
      <span className="text-graphite">text</span>
      <input
        key={value}
        aria-label="text"
        defaultValue={value}
        maxLength={60}
        disabled={disabled}
        onBlur={(event) => {
          const text = event.target.value;
          if (text === '') event.target.value = value;
          else if (text !== value) onChange(text);
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        className="h-6 min-w-0 rounded-md border border-rule bg-paper px-1"
      />
      <span />
    </>
  );
}
