import { type Clip, type ClipSpan, type ClipTrack, clipsOf, FRAMES, placeInClip, type Shot } from '@varrup/core';
import { Copy, Scissors, SquarePen, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from '../ui/Button.tsx';
import { Choice, Part, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { EaseFields, HowChoice, LoopFields, PartFields, TurnField } from './manner-fields.tsx';
import {
  bendTime,
  changeSpan,
  copySpan,
  keyStrength,
  openClip,
  putOnTrack,
  removeSpan,
  spanOf,
  splitSpan,
  tracksShown,
  useMix,
} from './mix.ts';
import { SuggestCrossing } from './SuggestCrossing.tsx';

/** The span picked in the mix, in numbers, and what can be done with it. */
export function SpanPanel({ shot }: { shot: Shot }) {
  const picked = useMix((m) => m.span);
  const found = spanOf(shot, picked);
  const clip = found && shot.clips.get(found.span.clip);
  if (!found || !clip)
    return (
      <p className="p-4 text-graphite">
        Pick a span in the mix, below the stage: when it plays, how it comes and goes and what it moves stands here.
      </p>
    );
  return <Span key={found.span.id} shot={shot} track={found.track} span={found.span} clip={clip} />;
}

interface Props {
  readonly shot: Shot;
  readonly track: ClipTrack;
  readonly span: ClipSpan;
  readonly clip: Clip;
}

function Span({ shot, track, span, clip }: Props) {
  const { locked } = track;
  const set = (change: Partial<ClipSpan>) => changeSpan(track, span, change, `change a span of ${clip.name}`);
  return (
    <section aria-label="The picked span" className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <header className="flex items-center gap-1 pt-2">
        <h2 className="min-w-0 grow truncate font-semibold" title={`${clip.name} on ${track.name}`}>
          {clip.name} <span className="font-normal text-graphite">on {track.name}</span>
        </h2>
        <Tool text="Take its clip up, to edit it" keys="Enter" onPress={() => openClip(span)}>
          <SquarePen size={14} />
        </Tool>
        <Tool
          text={span.loop ? 'A span of which a part repeats is not split' : 'Split it at the frame of now'}
          keys="S"
          disabled={locked || span.loop !== null}
          onPress={() => splitSpan(track, span)}
        >
          <Scissors size={14} />
        </Tool>
        <Tool text="A copy behind the last one" keys="C" disabled={locked} onPress={() => copySpan(track, span)}>
          <Copy size={14} />
        </Tool>
        <Tool text="Take the span away" keys="Delete" disabled={locked} onPress={() => removeSpan(track, span)}>
          <Trash2 size={14} />
        </Tool>
      </header>
      <fieldset disabled={locked} className="min-w-0">
        <When shot={shot} track={track} span={span} clip={clip} set={set} />
        <ComesAndGoes shot={shot} track={track} span={span} clip={clip} set={set} />
        <What shot={shot} track={track} span={span} clip={clip} set={set} />
      </fieldset>
    </section>
  );
}

type SetProps = Props & { readonly set: (change: Partial<ClipSpan>) => void };

const frames = { step: 1, digits: 0, whole: true } as const;

function When({ shot, track, span, clip, set }: SetProps) {
  const isBent = span.time !== null;
  const tracks = tracksShown(shot, track.rig);
  return (
    <Part title="when">
      {tracks.length > 1 ? (
        <Choice
          label="track"
          value={track.id}
          options={tracks.map((t) => [t.id, t.name] as const)}
          onChange={(id) => putOnTrack(track, span, shot.tracks.at(id))}
        />
      ) : null}
      <Row label="from">
        <Field label="from" value={span.from} {...FRAMES_RANGE} {...frames} onChange={(from) => set({ from })} />
        <span className="text-sm whitespace-nowrap text-graphite">to {span.from + span.length - 1}</span>
      </Row>
      <Row label="frames">
        <Field
          label="frames"
          value={span.length}
          min={1}
          max={100_000}
          {...frames}
          onChange={(length) => set({ length })}
        />
      </Row>
      {isBent ? null : (
        <>
          <Row label="into">
            <Field
              label="into"
              value={span.into}
              min={-100_000}
              max={100_000}
              step={1}
              digits={1}
              onChange={(into) => set({ into })}
            />
            <span className="text-sm whitespace-nowrap text-graphite">of the clip</span>
          </Row>
          <Row label="speed">
            <Field
              label="speed"
              value={span.speed}
              min={0.05}
              max={20}
              step={0.05}
              digits={2}
              onChange={(speed) => set({ speed })}
            />
            <span className="tabular text-sm whitespace-nowrap text-graphite">of {clip.length} f</span>
          </Row>
          {clip.cycles ? (
            <Row label="rounds">
              <Field
                label="rounds"
                value={(span.length * span.speed) / clip.length}
                min={0.1}
                max={1_000}
                step={1}
                digits={1}
                onChange={(rounds) => set({ length: Math.max(1, Math.round((rounds * clip.length) / span.speed)) })}
              />
            </Row>
          ) : null}
          <LoopFields clip={clip} loop={span.loop} onChange={(loop) => set({ loop })} />
        </>
      )}
      <Points
        word="time"
        hint="Takes hold of what it plays at the frame of now: drag the mark in the mix, or set it here, and its time bends"
        points={span.time ?? []}
        from={span.from}
        value={(p) => p.clip}
        range={{ min: -100_000, max: 100_000, step: 1, digits: 1 }}
        unit="of the clip"
        onAdd={() => bendTime(track, span, placeInClip(shot, track, span.id, usePlayhead.getState().frame))}
        onChange={(points) => set({ time: points.length < 2 ? null : points })}
        put={(at, value) => ({ at, clip: value })}
      />
    </Part>
  );
}

function ComesAndGoes({ shot, track, span, set }: SetProps) {
  return (
    <Part title="how it comes and goes">
      <EaseFields of="the span" value={span} rate={shot.rate} onChange={set} />
      <label className="flex min-h-7 items-center gap-2">
        <input type="checkbox" checked={span.inStep} onChange={(event) => set({ inStep: event.target.checked })} />
        in step with the one before it
      </label>
      <SuggestCrossing shot={shot} track={track} span={span} />
    </Part>
  );
}

function What({ shot, track, span, clip, set }: SetProps) {
  const clips = clipsOf(shot, track.rig);
  return (
    <Part title="what it does">
      <HowChoice how={span.how} onChange={(how) => set({ how })} />
      {span.how === 'onTop' ? (
        <>
          <Choice
            label="as from"
            value={span.base.clip ?? clip.id}
            options={clips.map((c) => [c.id, c.name] as const)}
            onChange={(id) => set({ base: { ...span.base, clip: id === clip.id ? null : id } })}
          />
          <Row label="frame">
            <Field
              label="frame it is measured from"
              value={span.base.frame}
              min={-100_000}
              max={100_000}
              step={1}
              digits={1}
              onChange={(frame) => set({ base: { ...span.base, frame } })}
            />
            <span className="text-sm text-graphite">of it is nothing</span>
          </Row>
        </>
      ) : null}
      <Row label="strength">
        <Field
          label="strength"
          value={span.strength}
          min={0}
          max={1}
          step={0.01}
          digits={2}
          onChange={(strength) => set({ strength })}
        />
      </Row>
      <Points
        word="strength"
        hint="Keys the share of its strength at the frame of now: drag the mark in the mix up and down"
        points={span.levels}
        from={span.from}
        value={(p) => p.share}
        range={{ min: 0, max: 1, step: 0.01, digits: 2 }}
        unit="of it"
        onAdd={() => keyStrength(track, span)}
        onChange={(levels) => set({ levels })}
        put={(at, share) => ({ at, share })}
      />
      {span.controls === null && span.how === 'instead' ? (
        <TurnField of="the span" turn={span.turn} onChange={(turn) => set({ turn })} />
      ) : null}
      <PartFields
        shot={shot}
        rig={track.rig}
        controls={span.controls}
        edge={span.edge}
        onChange={(change) => set(change)}
      />
    </Part>
  );
}

const FRAMES_RANGE = { min: FRAMES.first, max: FRAMES.last } as const;

function Field({ label, ...rest }: Omit<Parameters<typeof NumberField>[0], 'label'> & { readonly label: string }) {
  return (
    <span className="w-16 shrink-0">
      <NumberField label={`${label} of the span`} {...rest} />
    </span>
  );
}

/** Points along a span's frames, each with its number, and a press that puts one at the frame of now. */
function Points<P extends { readonly at: number }>(props: {
  readonly word: string;
  readonly hint: string;
  readonly points: readonly P[];
  readonly from: number;
  readonly value: (point: P) => number;
  readonly range: { readonly min: number; readonly max: number; readonly step: number; readonly digits: number };
  readonly unit: string;
  readonly onAdd: () => void;
  readonly onChange: (points: P[]) => void;
  readonly put: (at: number, value: number) => P;
}) {
  const { points, from, word } = props;
  const changed = (i: number, at: number, value: number) => {
    const next = [...points];
    next[i] = props.put(at, value);
    props.onChange(next.sort((a, b) => a.at - b.at).filter((p, k, all) => k === 0 || p.at > all[k - 1].at));
  };
  return (
    <div className="mt-1">
      <Hint text={props.hint} side="left">
        <Button look="pill" className="h-6! px-2! text-sm" onClick={props.onAdd}>
          {word === 'time' ? 'bend its time here' : 'key its strength here'}
        </Button>
      </Hint>
      <ul aria-label={`Points of its ${word}`}>
        {points.map((point, i) => (
          <li key={point.at} className="mt-0.5 flex items-center gap-1.5">
            <span className="w-16 shrink-0">
              <NumberField
                label={`frame of point ${i + 1} of its ${word}`}
                value={from + point.at}
                {...FRAMES_RANGE}
                {...frames}
                onChange={(frame) => changed(i, frame - from, props.value(point))}
              />
            </span>
            <span className="w-16 shrink-0">
              <NumberField
                label={`value of point ${i + 1} of its ${word}`}
                value={props.value(point)}
                {...props.range}
                onChange={(value) => changed(i, point.at, value)}
              />
            </span>
            <span className="min-w-0 grow truncate text-sm text-graphite">{props.unit}</span>
            <Button
              look="icon"
              className="size-6!"
              aria-label={`Take point ${i + 1} of its ${word} away`}
              onClick={() => props.onChange(points.filter((p) => p !== point))}
            >
              <Trash2 size={12} />
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Tool(props: { text: string; keys: string; disabled?: boolean; onPress: () => void; children: ReactNode }) {
  return (
    <Hint text={props.text} keys={props.keys} side="left">
      <Button look="icon" aria-label={props.text} disabled={props.disabled} onClick={props.onPress}>
        {props.children}
      </Button>
    </Hint>
  );
}
