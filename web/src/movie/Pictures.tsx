import { boardFrames, camerasOf, type Shot } from '@varrup/core';
import { useEffect, useRef, useState } from 'react';
import { Running } from '../hand-on/Made.tsx';
import { begin, type Job, tellWhenMade, useMade } from '../hand-on/made.ts';
import { Button } from '../ui/Button.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { themeNow } from '../ui/theme.ts';
import { usePlayhead } from '../view/playhead.ts';
import { stageRef } from '../view/stage-ref.ts';
import { type Recipe, readFrames, spread } from './job.ts';
import { MOST_FRAMES } from './numbered-frames.ts';

const sizes = [
  [1920, 1080],
  [1280, 720],
  [960, 540],
  [640, 360],
  [1080, 1080],
  [1080, 1920],
] as const;

/** Not the ids of cameras. */
const CUTS = 'cuts:';
const NOBODY = '';
const STAGE = 'stage:';
/** How often each frame is looked at where it is to be final. */
const FINAL = 32;

const onPlan = (shot: Shot) => shot.panels.size > 0 && location.pathname.split('/')[3] === 'plan';

const boardSpan = (shot: Shot) => ({ first: shot.range.first, last: shot.range.first + boardFrames(shot) - 1 });

/** What can be made of a shot to be looked at, and a place where it appears. What is begun goes on when this is left. */
export function Pictures({ shot, narrow = false }: { shot: Shot; narrow?: boolean }) {
  const [what, setWhat] = useState<Recipe['make']>(onPlan(shot) ? 'animatic' : 'movie');
  const [size, setSize] = useState(1);
  const cameras = camerasOf(shot);
  const [camera, setCamera] = useState(cameras.length > 0 ? CUTS : NOBODY);
  const [final, setFinal] = useState(false);
  const [format, setFormat] = useState<'mp4' | 'webm'>('mp4');
  const [sound, setSound] = useState(true);
  const [noted, setNoted] = useState(false);
  const [first, setFirst] = useState(shot.play.first);
  const [last, setLast] = useState(shot.play.last);
  const [frames, setFrames] = useState(() => spread(shot.play.first, shot.play.last, 16).join(', '));
  const [problem, setProblem] = useState<string | null>(null);
  const [shown, setShown] = useState<number | null>(null);
  const job = useMade((m) => m.jobs.find((j) => j.id === shown));
  const isRunning = job?.state === 'running';
  // Whoever leaves while it is made is told when it is there.
  const left = useRef(false);
  useEffect(() => {
    left.current = false;
    return () => {
      left.current = true;
    };
  }, []);

  const now = Math.round(usePlayhead.getState().frame);
  const recipe = (): Recipe | string => {
    const [width, height] = sizes[size];
    const seen = camera === CUTS || camera === STAGE ? undefined : camera === NOBODY ? null : camera;
    const look = camera === STAGE ? stageRef.current?.view : undefined;
    const view = { width, height, camera: seen, look, theme: themeNow(), samples: final ? FINAL : 1 };
    const notes = noted && shot.notes.size > 0;
    if (what === 'picture') return { view, notes, make: 'picture', frame: now };
    if (what === 'contact') {
      const chosen = readFrames(frames, shot.range);
      if (typeof chosen === 'string') return chosen;
      const share = 320 / Math.max(width, height);
      const small = { ...view, width: Math.round(share * width), height: Math.round(share * height) };
      return { view: small, notes, make: 'contact', frames: chosen };
    }
    if (first > last) return `Frame ${first} comes after frame ${last}.`;
    if (what === 'frames' && last - first >= MOST_FRAMES) return `Up to ${MOST_FRAMES} frames go into one archive.`;
    if (what === 'movie') return { view, notes, make: what, format, sound, first, last };
    // A board is handed on as long as its panels say.
    if (what === 'animatic') return { view, make: what, format, sound, ...boardSpan(shot) };
    return { view, notes, make: what, first, last };
  };

  const make = async () => {
    const wanted = recipe();
    if (typeof wanted === 'string') {
      setProblem(wanted);
      return;
    }
    setProblem(null);
    const { id, ended } = begin(shot, { is: 'pictures', recipe: wanted });
    setShown(id);
    const made = await ended;
    if (left.current) tellWhenMade(made);
  };

  const inRow = what === 'movie' || what === 'loop' || what === 'frames';
  return (
    <div className={narrow ? 'flex flex-col gap-4' : 'grid grid-cols-[15rem_1fr] gap-5'}>
      <div className="flex flex-col gap-3">
        <fieldset className="flex flex-col gap-1" disabled={isRunning}>
          <legend className="mb-1 text-graphite">what to make</legend>
          {(
            [
              ['movie', 'a movie'],
              ...(shot.panels.size > 0 ? [['animatic', 'the board as a movie (animatic)'] as const] : []),
              ['loop', 'a looped picture (GIF)'],
              ['frames', 'numbered frames (PNG)'],
              ['picture', `a picture of frame ${now}`],
              ['contact', 'a contact sheet of chosen frames'],
            ] as const
          ).map(([value, word]) => (
            <label key={value} className="flex items-center gap-2">
              <input
                type="radio"
                name="what"
                className="accent-blue"
                checked={what === value}
                onChange={() => {
                  setWhat(value);
                  setShown(null);
                }}
              />
              {word}
            </label>
          ))}
        </fieldset>
        {inRow ? (
          <div className="flex items-center gap-2 text-graphite">
            <span className="w-14 shrink-0">frames</span>
            <NumberField
              label="First frame of it"
              value={first}
              step={1}
              digits={0}
              whole
              {...limitsOf(shot)}
              onChange={setFirst}
            />
            <NumberField
              label="Last frame of it"
              value={last}
              step={1}
              digits={0}
              whole
              {...limitsOf(shot)}
              onChange={setLast}
            />
          </div>
        ) : null}
        <Choice
          label="size"
          value={String(size)}
          disabled={isRunning}
          onChange={(v) => setSize(Number(v))}
          options={sizes.map(([w, h], i) => [String(i), `${w} × ${h}`])}
        />
        <Choice
          label="seen by"
          value={camera}
          disabled={isRunning}
          onChange={setCamera}
          options={[
            ...(cameras.length > 0 ? [[CUTS, cameras.length > 1 ? 'as it is cut' : cameras[0].name] as const] : []),
            ...(cameras.length > 1 ? cameras.map((c) => [c.id, c.name] as const) : []),
            [STAGE, 'the stage as it is now'],
            [NOBODY, 'nobody: the whole cast in view'],
          ]}
        />
        <Choice
          label="quality"
          value={final ? 'final' : 'draft'}
          disabled={isRunning}
          onChange={(v) => setFinal(v === 'final')}
          options={[
            ['draft', 'draft'],
            ['final', `final: focus and soft shadows, ${FINAL} looks a frame`],
          ]}
        />
        {what === 'movie' || what === 'animatic' ? (
          <>
            <Choice
              label="format"
              value={format}
              disabled={isRunning}
              onChange={(v) => setFormat(v as 'mp4' | 'webm')}
              options={[
                ['mp4', 'MP4 (H.264)'],
                ['webm', 'WebM (VP9)'],
              ]}
            />
            {shot.sounds.size > 0 ? <With label="sounds" on={sound} disabled={isRunning} onChange={setSound} /> : null}
          </>
        ) : null}
        {shot.notes.size > 0 && what !== 'animatic' ? (
          <With
            label="notes"
            title="what was drawn on what is seen, where notes are pinned, and what they say"
            on={noted}
            disabled={isRunning}
            onChange={setNoted}
          />
        ) : null}
        {what === 'contact' ? (
          <label className="text-graphite">
            frames
            <textarea
              rows={3}
              value={frames}
              disabled={isRunning}
              onChange={(event) => setFrames(event.target.value)}
              className="tabular mt-1 block w-full rounded-md border border-rule bg-paper p-1.5 text-sm text-ink"
            />
          </label>
        ) : null}
        {isRunning ? null : (
          <Button look="solid" onClick={() => void make()}>
            make it
          </Button>
        )}
      </div>
      <div className={`grid place-items-center rounded-lg bg-well p-3 ${narrow ? 'min-h-32' : 'min-h-64'}`}>
        <Outcome job={job} problem={problem ?? job?.problem ?? null} />
      </div>
    </div>
  );
}

const limitsOf = ({ range }: Shot) => ({ min: range.first, max: range.last });

interface WithProps {
  readonly label: string;
  readonly title?: string;
  readonly on: boolean;
  readonly disabled: boolean;
  readonly onChange: (on: boolean) => void;
}

/** Whether something goes with what is made. */
function With({ label, title, on, disabled, onChange }: WithProps) {
  return (
    <label className="flex items-center gap-2" title={title}>
      <span className="w-14 shrink-0 text-graphite">{label}</span>
      <input
        type="checkbox"
        className="accent-blue"
        checked={on}
        disabled={disabled}
        onChange={(event) => onChange(event.target.checked)}
      />
      with them
    </label>
  );
}

function Choice({
  label,
  value,
  options,
  disabled,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  disabled: boolean;
  onChange: (v: string) => void;
}) {
  return (
    <label className="flex items-center gap-2 text-graphite">
      <span className="w-14 shrink-0">{label}</span>
      <select
        value={value}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value)}
        className="h-7 min-w-0 grow rounded-md border border-rule bg-paper text-ink"
      >
        {options.map(([v, word]) => (
          <option key={v} value={v}>
            {word}
          </option>
        ))}
      </select>
    </label>
  );
}

function Outcome({ job, problem }: { job: Job | undefined; problem: string | null }) {
  if (job?.state === 'running')
    return (
      <div className="w-full max-w-72">
        <Running job={job} />
      </div>
    );
  if (problem)
    return (
      <p role="alert" className="text-vermilion-ink">
        {problem}
      </p>
    );
  const file = job?.files[0];
  if (!file) return <p className="text-graphite">What you make appears here.</p>;
  const { type, size } = file.blob;
  return (
    <div className="flex w-full flex-col items-center gap-3">
      {type.startsWith('video') ? (
        <video src={file.address} controls loop autoPlay muted className="max-h-80 max-w-full rounded" />
      ) : null}
      {type.startsWith('image') ? (
        <img src={file.address} alt={file.name} className="max-h-80 max-w-full rounded" />
      ) : null}
      <a
        href={file.address}
        download={file.name}
        className="max-w-full rounded-full bg-ink px-4 py-1.5 text-center text-on-solid"
      >
        save {file.name} ({(size / 1e6).toFixed(2)} MB)
      </a>
      {job.note ? <p className="text-sm text-graphite">{job.note}</p> : null}
    </div>
  );
}
