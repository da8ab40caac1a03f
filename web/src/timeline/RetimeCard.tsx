import { collisionAnswers, countKeys, type Retiming, runSpan } from '@varrup/core';
import { X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import {
  collisionWords,
  insert,
  repeat,
  retime,
  ripple,
  scaleBy,
  shownFirst,
  stagger,
  timingKeys,
  usualGap,
} from '../commands/retiming.ts';
import { useShot } from '../shot/shot-store.ts';
import { useTable } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Popover } from '../ui/Popover.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';
import { livingKeys } from './pick-keys.ts';

/** Every change of time in numbers, for the picked keys or for all keys of what is picked. */
export function RetimeCard() {
  const open = useQuestion((q) => q.open === 'retime');
  const ask = useQuestion((q) => q.ask);
  return (
    <Popover
      open={open}
      onOpen={(next) => ask(next ? 'retime' : null)}
      label="Retime"
      trigger={
        <Button
          look="pill"
          className="text-sm"
          title={`Move, scale, reverse, repeat keys in numbers (${shortcutOf('time.retime')})`}
        >
          retime…
        </Button>
      }
    >
      {open ? <Retime onClose={() => ask(null)} /> : null}
    </Popover>
  );
}

function Retime({ onClose }: { onClose: () => void }) {
  const committed = useShot((s) => s.committed);
  // What is meant changes with what is picked.
  useSelection((s) => s.picked);
  useSelection((s) => s.channels);
  const keys = useSelection((s) => s.keys);
  const [by, setBy] = useState(1);
  const [about, setAbout] = useState<'here' | 'first' | 'last'>('here');
  const [times, setTimes] = useState(3);
  const [travel, setTravel] = useState(false);
  const [step, setStep] = useState(2);
  const [gap, setGap] = useState<number | null>(null);
  if (!committed) return null;
  const meant = timingKeys(committed);
  const count = countKeys(meant);
  const span = runSpan(meant);
  const pivot = () => (about === 'here' || !span ? usePlayhead.getState().frame : span[about]);
  const scale = (percent: number): Retiming => ({ kind: 'scale', about: pivot(), factor: percent / 100, whole: true });
  return (
    <div className="space-y-2.5 text-sm">
      <header className="flex items-center justify-between">
        <h2 className="font-semibold">
          Retime{' '}
          <span className="font-normal text-graphite">
            {count} {countKeys(livingKeys(committed, keys)) > 0 ? 'picked ' : ''}
            {count === 1 ? 'key' : 'keys'}
            {span ? `, ${trimmed(span.first)}–${trimmed(span.last)}` : ''}
          </span>
        </h2>
        <Button look="icon" className="size-6!" aria-label="Close" onClick={onClose}>
          <X size={14} />
        </Button>
      </header>
      <Line word="move">
        <Field label="Frames to move by" value={by} onChange={setBy} />
        frames
        <Press onClick={() => retime({ kind: 'move', by }, shownFirst)} disabled={count === 0 || by === 0}>
          move
        </Press>
        <Press onClick={() => ripple(by, shownFirst)} disabled={by === 0} hint="Everything from the current frame on">
          all from here on
        </Press>
      </Line>
      <Line word="scale">
        <span className="w-16">
          <NumberField
            label="Scale of time in percent"
            value={100}
            step={1}
            digits={0}
            min={1}
            max={10_000}
            disabled={count === 0}
            onPreview={(v) => retime(scale(v), shownFirst)}
            onCancel={() => useTable.getState().leave()}
            onChange={(v) => retime(scale(v), shownFirst)}
          />
        </span>
        %
        {([50, 200] as const).map((percent) => (
          <Press
            key={percent}
            disabled={count === 0}
            hint={percent === 50 ? 'Twice as fast' : 'Half as fast'}
            onClick={() => scaleBy(percent / 100, pivot(), true, shownFirst)}
          >
            {percent === 50 ? '½' : '×2'}
          </Press>
        ))}
        <fieldset className="flex" aria-label="Scale about">
          {(['first', 'here', 'last'] as const).map((where) => (
            <Hint key={where} text={aboutHints[where]} side="top">
              <Button className="h-6! px-1.5!" aria-pressed={about === where} onClick={() => setAbout(where)}>
                {where}
              </Button>
            </Hint>
          ))}
        </fieldset>
      </Line>
      <Line word="repeat">
        <Field label="Times to repeat" value={times} min={1} max={500} onChange={setTimes} />
        times,
        <Field label="Frames between copies" value={gap ?? usualGap(committed)} min={0} onChange={setGap} />
        apart
        <label className="flex items-center gap-1">
          <input
            type="checkbox"
            checked={travel}
            onChange={(e) => setTravel(e.target.checked)}
            className="accent-blue"
          />
          travel
        </label>
        <Press onClick={() => repeat(times, gap ?? usualGap(committed), travel, shownFirst)} disabled={count < 2}>
          repeat
        </Press>
      </Line>
      <Line word="offset">
        <Field label="Frames each row is later than the last" value={step} onChange={setStep} />
        frames, one object after another
        <Press onClick={() => stagger(step, shownFirst)} disabled={count === 0 || step === 0}>
          offset
        </Press>
      </Line>
      <Line word="frames">
        <Press hint={`${commandOf('time.insert').label}`} onClick={() => insert(1, shownFirst)}>
          put in
        </Press>
        <Press hint={commandOf('time.takeOut').label} onClick={() => insert(-1, shownFirst)}>
          take out
        </Press>
        {(['reverse', 'whole'] as const).map((kind) => (
          <Press
            key={kind}
            hint={commandOf(`time.${kind}`).label}
            disabled={count === 0}
            onClick={() => retime({ kind }, shownFirst)}
          >
            {kind}
          </Press>
        ))}
        {(['keys.cut', 'time.playKeys', 'time.again'] as const).map((id) => (
          <Press
            key={id}
            hint={commandOf(id).label}
            disabled={commandOf(id).enabled?.() === false}
            onClick={() => commandOf(id).run()}
          >
            {shortWords[id]}
          </Press>
        ))}
      </Line>
      <Line word="keys in the way">
        <fieldset className="flex" aria-label="Keys in the way">
          <Collision />
        </fieldset>
      </Line>
      <Shown />
    </div>
  );
}

/** Keeps or leaves what this card shows: it lies over the place where that is done otherwise. */
function Shown() {
  const isShown = useTable((t) => t.on?.owner === 'retime');
  if (!isShown) return null;
  const { keep, leave } = useTable.getState();
  return (
    <div className="flex items-center gap-1.5 rounded-lg bg-ochre-wash px-2 py-1">
      <span className="grow">shown, not made</span>
      <Button look="solid" className="h-6!" onClick={keep}>
        keep
      </Button>
      <Button look="pill" className="h-6! bg-card" onClick={leave}>
        leave
      </Button>
    </div>
  );
}

/** What happens to keys in the way, as three presses. */
export function Collision() {
  const collision = useTiming((s) => s.collision);
  return collisionAnswers.map((answer) => (
    <Hint key={answer} text={collisionWords[answer]} side="top">
      <Button
        className="h-6! px-1.5! text-sm"
        aria-pressed={collision === answer}
        onClick={() => useTiming.setState({ collision: answer })}
      >
        {answer}
      </Button>
    </Hint>
  ));
}

const trimmed = (frame: number) => Math.round(frame * 100) / 100;

const aboutHints = {
  first: 'Scale about the first key',
  here: 'Scale about the current frame',
  last: 'Scale about the last key',
};

const shortWords = {
  'keys.cut': 'cut',
  'time.playKeys': 'play',
  'time.again': 'again',
} as const;

const Line = ({ word, children }: { word: string; children: ReactNode }) => (
  <div className="flex flex-wrap items-center gap-1.5">
    <span className="w-13 shrink-0 text-graphite">{word}</span>
    {children}
  </div>
);

/** As many frames keys are moved, stepped or pushed apart at a time. */
const MOST = 200_000;

const Field = (props: {
  label: string;
  value: number;
  min?: number;
  max?: number;
  onChange: (value: number) => void;
}) => (
  <span className="w-11">
    <NumberField min={-MOST} max={MOST} {...props} step={1} digits={0} whole />
  </span>
);

function Press({
  hint,
  disabled,
  onClick,
  children,
}: {
  hint?: string;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  const button = (
    <Button look="pill" className="h-6! px-2! text-sm" disabled={disabled} onClick={onClick}>
      {children}
    </Button>
  );
  return hint ? (
    <Hint text={hint} side="top">
      {button}
    </Hint>
  ) : (
    button
  );
}
