import type { Shot } from '@varrup/core';
import { useEffect, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { camerasOf } from '../stage/picture/shot-camera.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { themeNow } from '../ui/theme.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { Cancelled, fileName, type Job, type Made, readFrames, spread } from './job.ts';
import { type Running, start } from './start.ts';

const sizes = [
  [1920, 1080],
  [1280, 720],
  [960, 540],
  [640, 360],
  [1080, 1080],
  [1080, 1920],
] as const;

/** Makes a movie, a picture or a contact sheet of the shot. */
export function MovieDialog() {
  const open = useQuestion((q) => q.open === 'movie');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.committed);
  if (!open || !shot) return null;
  return <Movie shot={shot} onClose={() => ask(null)} />;
}

interface Result {
  readonly address: string;
  readonly name: string;
  readonly mime: string;
  readonly bytes: number;
  /** What is to be heard in it, in a sentence. */
  readonly heard: string;
}

function Movie({ shot, onClose }: { shot: Shot; onClose: () => void }) {
  const [what, setWhat] = useState<Job['make']>('movie');
  const [size, setSize] = useState(1);
  const [camera, setCamera] = useState(camerasOf(shot)[0]?.id ?? '');
  const [format, setFormat] = useState<'mp4' | 'webm'>('mp4');
  const [frames, setFrames] = useState(() => spread(shot.play.first, shot.play.last, 16).join(', '));
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const running = useRef<Running | null>(null);
  useEffect(() => () => running.current?.cancel(), []);
  useEffect(() => () => void (result && URL.revokeObjectURL(result.address)), [result]);

  const now = Math.round(usePlayhead.getState().frame);
  const job = (): Job | string => {
    const [width, height] = sizes[size];
    const view = { width, height, camera: camera || undefined, theme: themeNow() };
    if (what === 'movie') return { shot, view, make: 'movie', format, first: shot.play.first, last: shot.play.last };
    if (what === 'picture') return { shot, view, make: 'picture', frame: now };
    const chosen = readFrames(frames, shot.range);
    if (typeof chosen === 'string') return chosen;
    const small = {
      ...view,
      width: Math.round((320 * width) / Math.max(width, height)),
      height: Math.round((320 * height) / Math.max(width, height)),
    };
    return { shot, view: small, make: 'contact', frames: chosen };
  };

  const begin = async () => {
    const wanted = job();
    if (typeof wanted === 'string') {
      setProblem(wanted);
      return;
    }
    setProblem(null);
    setResult(null);
    setShare(0);
    running.current = start(wanted, setShare);
    try {
      const made = await running.current.made;
      const word =
        wanted.make === 'picture' ? `frame-${wanted.frame}` : wanted.make === 'contact' ? 'contact-sheet' : '';
      const blob = new Blob([made.bytes], { type: made.mime });
      setResult({
        address: URL.createObjectURL(blob),
        name: fileName(shot, made.extension, word),
        mime: made.mime,
        bytes: blob.size,
        heard: wanted.make === 'movie' && shot.sounds.size > 0 ? soundWords(made.sound) : '',
      });
    } catch (error) {
      if (!(error instanceof Cancelled)) setProblem(`That did not work. ${(error as Error).message}`);
    } finally {
      running.current = null;
      setShare(null);
    }
  };

  const length = shot.play.last - shot.play.first + 1;
  const about = `${length} frames, ${shot.play.first} to ${shot.play.last}, at ${shot.rate} a second: ${(length / shot.rate).toFixed(2)} s`;
  return (
    <Dialog open onClose={onClose} title="Movie, picture, contact sheet" about={about} wide>
      <div className="grid grid-cols-[15rem_1fr] gap-5">
        <div className="flex flex-col gap-3">
          <fieldset className="flex flex-col gap-1" disabled={share !== null}>
            <legend className="mb-1 text-graphite">what to make</legend>
            {(
              [
                ['movie', 'a movie of all that plays'],
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
                  onChange={() => setWhat(value)}
                />
                {word}
              </label>
            ))}
          </fieldset>
          <Choice
            label="size"
            value={String(size)}
            disabled={share !== null}
            onChange={(v) => setSize(Number(v))}
            options={sizes.map(([w, h], i) => [String(i), `${w} × ${h}`])}
          />
          <Choice
            label="seen by"
            value={camera}
            disabled={share !== null}
            onChange={setCamera}
            options={[
              ...camerasOf(shot).map((c): [string, string] => [c.id, c.name]),
              ['', 'nobody: the whole cast in view'],
            ]}
          />
          {what === 'movie' ? (
            <Choice
              label="format"
              value={format}
              disabled={share !== null}
              onChange={(v) => setFormat(v as 'mp4' | 'webm')}
              options={[
                ['mp4', 'MP4 (H.264)'],
                ['webm', 'WebM (VP9)'],
              ]}
            />
          ) : null}
          {what === 'contact' ? (
            <label className="text-graphite">
              frames
              <textarea
                rows={3}
                value={frames}
                disabled={share !== null}
                onChange={(event) => setFrames(event.target.value)}
                className="tabular mt-1 block w-full rounded-md border border-rule bg-paper p-1.5 text-sm text-ink"
              />
            </label>
          ) : null}
          {share === null ? (
            <Button look="solid" onClick={() => void begin()}>
              make it
            </Button>
          ) : (
            <Button look="pill" onClick={() => running.current?.cancel()}>
              cancel
            </Button>
          )}
        </div>
        <div className="grid min-h-64 place-items-center rounded-lg bg-well p-3">
          <Outcome share={share} problem={problem} result={result} />
        </div>
      </div>
    </Dialog>
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
      <span className="w-14">{label}</span>
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

const soundWords = (sound: Made['sound']): string =>
  sound ? `With its sounds, as ${sound}.` : 'Without its sounds: this browser cannot write any.';

function Outcome({ share, problem, result }: { share: number | null; problem: string | null; result: Result | null }) {
  if (share !== null) {
    return (
      <div className="w-full max-w-72 text-center">
        <progress value={share} max={1} aria-label="Progress" className="h-2 w-full accent-blue" />
        <p className="tabular mt-2" role="status">
          {Math.round(share * 100)} %
        </p>
      </div>
    );
  }
  if (problem) {
    return (
      <p role="alert" className="text-vermilion-ink">
        {problem}
      </p>
    );
  }
  if (!result) return <p className="text-graphite">What you make appears here.</p>;
  return (
    <div className="flex w-full flex-col items-center gap-3">
      {result.mime.startsWith('video') ? (
        <video src={result.address} controls loop autoPlay muted className="max-h-80 max-w-full rounded" />
      ) : (
        <img src={result.address} alt={result.name} className="max-h-80 max-w-full rounded" />
      )}
      <a href={result.address} download={result.name} className="rounded-full bg-ink px-4 py-1.5 text-on-solid">
        save {result.name} ({(result.bytes / 1e6).toFixed(2)} MB)
      </a>
      {result.heard ? <p className="text-sm text-graphite">{result.heard}</p> : null}
    </div>
  );
}
