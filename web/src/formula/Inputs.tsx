import {
  channelPath,
  channelWords,
  type Formula,
  findChannel,
  InputNameSchema,
  ORIENTATION,
  type Shot,
  shownChannels,
  splitPath,
} from '@varrup/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';

/** What a formula reads: channels picked from the cast, each under a short name. */
export function Inputs({
  shot,
  path,
  formula,
  onChange,
}: {
  shot: Shot;
  path: string;
  formula: Formula;
  onChange: (formula: Formula) => void;
}) {
  const [adding, setAdding] = useState(false);
  const put = (inputs: Formula['inputs']) => onChange({ ...formula, inputs });
  return (
    <fieldset className="flex flex-wrap items-center gap-1 text-sm" aria-label="Inputs">
      <span className="text-graphite">reads</span>
      {formula.inputs.map((input, i) => (
        <span key={input.path + input.name} className="flex h-6 items-center gap-1 rounded-full bg-well pr-1 pl-2">
          <NameField
            name={input.name}
            taken={formula.inputs.map((x) => x.name)}
            onName={(name) => onChange(renamed(formula, i, name))}
          />
          <span className="text-graphite">
            {exists(shot, input.path) ? channelWords(shot, [input.path]) : 'lost: pick another'}
          </span>
          <Hint text={`No longer read ${input.name}`}>
            <button
              type="button"
              aria-label={`No longer read ${input.name}`}
              className="grid size-4 place-items-center rounded-full hover:bg-card"
              onClick={() => put(formula.inputs.filter((_, k) => k !== i))}
            >
              <X size={11} />
            </button>
          </Hint>
        </span>
      ))}
      {adding ? (
        <Pick
          shot={shot}
          own={path}
          onPick={(picked) => {
            setAdding(false);
            put([...formula.inputs, { name: freeName(shot, picked, formula), path: picked }]);
          }}
        />
      ) : (
        <Button
          look="pill"
          className="h-6! px-2! text-sm"
          disabled={formula.inputs.length >= 24}
          onClick={() => setAdding(true)}
        >
          add an input…
        </Button>
      )}
    </fieldset>
  );
}

const exists = (shot: Shot, path: string): boolean => {
  const { member, channel } = splitPath(path);
  return (
    shot.members.get(member) !== undefined && findChannel(shot.members.at(member), channel, shot.rigs) !== undefined
  );
};

/** Chooses a channel of somebody in the cast. */
function Pick({ shot, own, onPick }: { shot: Shot; own: string; onPick: (path: string) => void }) {
  const [member, setMember] = useState(splitPath(own).member);
  const look = 'h-6 rounded-md border border-rule bg-paper px-1 text-sm';
  return (
    <>
      <select
        aria-label="Whose channel"
        value={member}
        onChange={(event) => setMember(event.target.value)}
        className={look}
      >
        {shot.members.values().map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
      </select>
      <select aria-label="Which channel" value="" onChange={(event) => onPick(event.target.value)} className={look}>
        <option value="" disabled>
          choose a channel
        </option>
        {shownChannels(shot.members.at(member), shot.rigs)
          .filter((c) => c.id !== ORIENTATION && channelPath(member, c.id) !== own)
          .map((c) => (
            <option key={c.id} value={channelPath(member, c.id)}>
              {`${c.group} ${c.label}`.trim()}
            </option>
          ))}
      </select>
    </>
  );
}

function NameField({
  name,
  taken,
  onName,
}: {
  name: string;
  taken: readonly string[];
  onName: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const good = (text: string) => InputNameSchema.safeParse(text).success && (text === name || !taken.includes(text));
  const take = () => {
    if (typed !== null && typed !== name && good(typed)) onName(typed);
    setTyped(null);
  };
  return (
    <input
      aria-label={`Name of the input ${name}`}
      value={typed ?? name}
      size={Math.max(1, (typed ?? name).length)}
      aria-invalid={typed !== null && !good(typed)}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') take();
        if (event.key === 'Escape') setTyped(null);
      }}
      className="tabular rounded bg-transparent font-medium text-blue aria-invalid:text-vermilion-ink"
    />
  );
}

/** An input under another name, in the text as well. */
function renamed(formula: Formula, index: number, name: string): Formula {
  const old = formula.inputs[index].name;
  return {
    ...formula,
    text: formula.text.replace(new RegExp(`\\b${old}\\b`, 'g'), name),
    inputs: formula.inputs.map((input, i) => (i === index ? { ...input, name } : input)),
  };
}

/** A short name for a channel that no input has yet: `float_x`. */
function freeName(shot: Shot, path: string, formula: Formula): string {
  const { member, channel } = splitPath(path);
  const stem = `${shot.members.at(member).name.split(/\s+/)[0]}_${channel.split('.').at(-1)}`
    .toLowerCase()
    .replace(/[^a-z0-9_]/g, '');
  const base = /^[a-z]/.test(stem) ? stem.slice(0, 20) : 'input';
  const taken = new Set(formula.inputs.map((i) => i.name));
  if (!taken.has(base)) return base;
  for (let n = 2; ; n++) if (!taken.has(`${base}${n}`)) return `${base}${n}`;
}
