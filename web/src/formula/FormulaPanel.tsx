import {
  bakeFormulas,
  channelPath,
  compiledFormula,
  type Formula,
  fittedText,
  formulaProblem,
  isLocked,
  type Member,
  ORIENTATION,
  removeFormulas,
  type Shot,
  setFormula,
  shownChannels,
  splitPath,
} from '@varrup/core';
import { useEffect, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useFormulaOf } from '../view/formula-of.ts';
import { pickChannels, useSelection } from '../view/selection.ts';
import { FormulaPlot } from './FormulaPlot.tsx';
import { FormulaText } from './FormulaText.tsx';
import { FunctionList } from './FunctionList.tsx';
import { Inputs } from './Inputs.tsx';

/** The formula of one channel: its text, what it reads, how it runs, and all it may call. */
export function FormulaPanel() {
  const shot = useShot((s) => s.committed);
  const lead = useSelection((s) => s.picked.at(-1));
  const onTable = useFormulaOf((s) => s.path);
  const path = useSelection((s) => s.channels.at(-1)) ?? onTable;
  const member = lead ? shot?.members.get(lead) : undefined;
  if (!shot) return null;
  if (!member)
    return (
      <p className="grid h-full place-items-center text-graphite">
        Pick something to give one of its channels a formula.
      </p>
    );
  const chosen = path && splitPath(path).member === member.id ? splitPath(path).channel : firstChannel(shot, member);
  const here = channelPath(member.id, chosen);
  return <Table key={here} shot={shot} member={member} path={here} />;
}

/** The channel to begin with: one that has a formula, else the first. */
const firstChannel = (shot: Shot, member: Member): string =>
  shownChannels(member, shot.rigs).find((c) => shot.formulas.has(channelPath(member.id, c.id)))?.id ?? 'move.y';

const EMPTY: Formula = { text: '', inputs: [], mode: 'instead' };

function Table({ shot, member, path }: { shot: Shot; member: Member; path: string }) {
  const saved = shot.formulas.get(path) ?? null;
  const [draft, setDraft] = useState<Formula>(saved ?? EMPTY);
  const [text, setText] = useState(draft.text);
  // An undo, or another window, may change it from outside.
  useEffect(() => {
    setDraft(saved ?? EMPTY);
    setText(saved?.text ?? '');
  }, [saved]);
  // Whoever turns to something else leaves what was not finished.
  const preview = usePreview('formula');
  const locked = isLocked(shot, member.id);
  const problem = text.trim() === '' ? null : formulaProblem(shot, path, { ...draft, text });
  const show = (next: Formula) => {
    setDraft(next);
    setText(next.text);
    const right = next.text.trim() !== '' && formulaProblem(shot, path, next) === null;
    if (right) preview.show(setFormula, { path, formula: next });
    else preview.drop();
  };
  const keep = (next: Formula = { ...draft, text }) => {
    setDraft(next);
    setText(next.text);
    if (next.text.trim() === '' || formulaProblem(shot, path, next) !== null) return;
    preview.make(setFormula, { path, formula: next });
  };
  const channel = shownChannels(member, shot.rigs).find((c) => channelPath(member.id, c.id) === path);
  const compiled = problem === null && text.trim() !== '' ? compiledFormula({ ...draft, text }) : null;
  return (
    <fieldset
      disabled={locked}
      className="flex h-full min-w-0 gap-4 px-4 py-2"
      aria-label={`Formula of ${member.name}`}
    >
      <div className="flex min-h-0 w-[26rem] shrink-0 flex-col gap-1.5 overflow-y-auto">
        <div className="flex items-center gap-2">
          <b className="truncate font-semibold">{member.name}</b>
          <select
            aria-label="Channel"
            value={path}
            onChange={(event) => {
              useFormulaOf.setState({ path: event.target.value });
              pickChannels([]);
            }}
            className="h-6 rounded-md border border-rule bg-paper px-1 text-sm"
          >
            {shownChannels(member, shot.rigs)
              .filter((c) => c.id !== ORIENTATION)
              .map((c) => {
                const p = channelPath(member.id, c.id);
                return (
                  <option key={c.id} value={p}>
                    {`${shot.formulas.has(p) ? '= ' : ''}${c.group} ${c.label}`.trim()}
                  </option>
                );
              })}
          </select>
          <select
            aria-label="Instead of the keys, or added to them"
            value={draft.mode}
            onChange={(event) => keep({ ...draft, text, mode: event.target.value as Formula['mode'] })}
            className="h-6 rounded-md border border-rule bg-paper px-1 text-sm"
          >
            <option value="instead">instead of keys</option>
            <option value="add">added to keys</option>
          </select>
        </div>
        <FormulaText
          text={text}
          names={draft.inputs.map((i) => i.name)}
          problem={problem}
          onType={(next) => show({ ...draft, text: next })}
          onKeep={() => keep()}
          onLeave={() => show(saved ?? EMPTY)}
        />
        <p className="min-h-4 text-sm" role="status">
          {problem ? (
            <span className="text-vermilion-ink">
              Character {problem.at + 1}: {problem.sentence}.
            </span>
          ) : (
            <span className="text-graphite">
              {text.trim() === ''
                ? 'A number, a name, a function: try wave(0.2, 24).'
                : `In ${channel?.unit === '°' ? 'degrees' : channel?.unit === 'm' ? 'metres' : 'the channel’s own numbers'}. Enter keeps it.`}
            </span>
          )}
        </p>
        <Inputs shot={shot} path={path} formula={{ ...draft, text }} onChange={keep} />
        <Ends
          shot={shot}
          path={path}
          saved={saved}
          onFit={(length) =>
            compiled?.ok && keep({ ...draft, text: fittedText({ text }, compiled.formula.calls, length) })
          }
        />
      </div>
      <FormulaPlot
        path={path}
        unit={channel?.unit ?? ''}
        text={text}
        calls={compiled?.ok ? compiled.formula.calls : []}
        onCancel={preview.drop}
        onText={(next, done) => (done ? keep({ ...draft, text: next }) : show({ ...draft, text: next }))}
      />
      <FunctionList
        onPick={(example) => show({ ...draft, text: text.trim() === '' ? example : `${text} + ${example}` })}
      />
    </fieldset>
  );
}

/** What is done with a formula that is right: fitted into a loop, turned into keys, taken away. */
function Ends({
  shot,
  path,
  saved,
  onFit,
}: {
  shot: Shot;
  path: string;
  saved: Formula | null;
  onFit: (length: number) => void;
}) {
  const run = useShot((s) => s.run);
  const loop = shot.play.last - shot.play.first + 1;
  const [length, setLength] = useState(loop);
  const [tolerance, setTolerance] = useState(0.001);
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-sm">
      <Hint text="Changes the periods of its waves so that a whole number of them fits, and the loop closes">
        <Button look="pill" className="h-6! px-2! text-sm" disabled={!saved} onClick={() => onFit(length)}>
          fit to
        </Button>
      </Hint>
      <span className="w-12">
        <NumberField
          label="Frames to fit it to"
          value={length}
          step={1}
          digits={0}
          min={1}
          max={100_000}
          whole
          onChange={setLength}
        />
      </span>
      <span className="text-graphite">frames</span>
      <span className="grow" />
      <Hint text="Writes what it gives as keys, thinned to what is needed within this tolerance">
        <Button
          look="pill"
          className="h-6! px-2! text-sm"
          disabled={!saved}
          onClick={() => run(bakeFormulas, { paths: [path], tolerance })}
        >
          turn into keys
        </Button>
      </Hint>
      <span className="w-16">
        <NumberField
          label="Tolerance of the keys"
          value={tolerance}
          step={0.001}
          digits={3}
          min={0}
          max={10}
          onChange={setTolerance}
        />
      </span>
      <Button
        className="h-6! px-1.5! text-sm text-graphite"
        disabled={!saved}
        onClick={() => run(removeFormulas, { paths: [path] })}
      >
        take away
      </Button>
    </div>
  );
}
