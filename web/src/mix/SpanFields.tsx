import type { ClipSpan, ClipTrack, Shot } from '@varrup/core';
import { Copy, Scissors, SquarePen, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { changeSpan, copySpan, openClip, removeSpan, splitSpan } from './mix.ts';

const WHOLE = 'whole';

/** The picked span in numbers, and what can be done with it. */
export function SpanFields({ shot, track, span }: { shot: Shot; track: ClipTrack; span: ClipSpan }) {
  const clip = shot.clips.get(span.clip);
  const member = shot.members.get(track.rig);
  const rig = member?.kind === 'rig' ? shot.rigs.find(member.shape) : undefined;
  if (!clip || !rig) return null;
  const { locked } = track;
  const set = (change: Partial<ClipSpan>) => changeSpan(track, span, change, `change a span of ${clip.name}`);
  const number = (
    label: string,
    name: 'from' | 'length' | 'into' | 'speed' | 'easeIn' | 'easeOut' | 'strength',
    range: { min: number; max: number; step: number; digits: number; unit?: string; whole?: boolean },
  ) => (
    <Labelled word={label}>
      <span className="w-20">
        <NumberField
          label={`${label} of the span`}
          value={span[name]}
          disabled={locked}
          onChange={(value) => set({ [name]: value })}
          {...range}
        />
      </span>
    </Labelled>
  );
  const frames = { step: 1, digits: 0, whole: true } as const;
  const parts = rig.rig.sets.filter((s) => s.controls.length > 0);
  const part = parts.find((s) => JSON.stringify(s.controls) === JSON.stringify(span.controls))?.id ?? WHOLE;
  return (
    <section
      aria-label="The picked span"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule px-3 py-1.5"
    >
      <span className="max-w-40 truncate font-medium">{clip.name}</span>
      {number('from', 'from', { min: -200_000, max: 200_000, ...frames })}
      {number('frames', 'length', { min: 1, max: 100_000, ...frames })}
      {number('into', 'into', { min: -100_000, max: 100_000, step: 1, digits: 1 })}
      {number('speed', 'speed', { min: 0.05, max: 20, step: 0.05, digits: 2 })}
      {number('ease in', 'easeIn', { min: 0, max: 10_000, ...frames })}
      {number('ease out', 'easeOut', { min: 0, max: 10_000, ...frames })}
      {number('strength', 'strength', { min: 0, max: 1, step: 0.01, digits: 2 })}
      <Pick
        word="it plays"
        value={span.how}
        disabled={locked}
        options={[
          ['instead', 'instead of what is below'],
          ['onTop', 'on top of it'],
        ]}
        onPick={(how) => set({ how: how as ClipSpan['how'] })}
      />
      <Pick
        word="on"
        value={part}
        disabled={locked}
        options={[[WHOLE, 'the whole body'], ...parts.map((s) => [s.id, s.name] as const)]}
        onPick={(id) => set({ controls: parts.find((s) => s.id === id)?.controls.slice() ?? null })}
      />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={span.inStep}
          disabled={locked}
          onChange={(event) => set({ inStep: event.target.checked })}
        />
        in step
      </label>
      <span className="ml-auto flex">
        <Tool text="Take its clip up, to edit it" keys="Enter" onPress={() => openClip(span)}>
          <SquarePen size={14} />
        </Tool>
        <Tool text="Split it at the frame of now" keys="S" disabled={locked} onPress={() => splitSpan(track, span)}>
          <Scissors size={14} />
        </Tool>
        <Tool text="A copy behind the last one" keys="C" disabled={locked} onPress={() => copySpan(track, span)}>
          <Copy size={14} />
        </Tool>
        <Tool text="Take the span away" keys="Delete" disabled={locked} onPress={() => removeSpan(track, span)}>
          <Trash2 size={14} />
        </Tool>
      </span>
    </section>
  );
}

const Labelled = ({ word, children }: { word: string; children: ReactNode }) => (
  <span className="flex items-center gap-1.5">
    <span className="text-graphite">{word}</span>
    {children}
  </span>
);

function Pick(props: {
  word: string;
  value: string;
  disabled: boolean;
  options: readonly (readonly [value: string, word: string])[];
  onPick: (value: string) => void;
}) {
  return (
    <Labelled word={props.word}>
      <select
        aria-label={`${props.word}, of the span`}
        value={props.value}
        disabled={props.disabled}
        onChange={(event) => props.onPick(event.target.value)}
        className="h-7 rounded-md border border-rule bg-paper px-1 text-ink"
      >
        {props.options.map(([value, word]) => (
          <option key={value} value={value}>
            {word}
          </option>
        ))}
      </select>
    </Labelled>
  );
}

function Tool(props: { text: string; keys: string; disabled?: boolean; onPress: () => void; children: ReactNode }) {
  return (
    <Hint text={props.text} keys={props.keys} side="top">
      <Button look="icon" aria-label={props.text} disabled={props.disabled} onClick={props.onPress}>
        {props.children}
      </Button>
    </Hint>
  );
}
