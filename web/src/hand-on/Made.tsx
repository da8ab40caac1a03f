import type { HandedMotion } from '@varrup/core';
import { Play } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { cancel, type Job, save, secondsLeft } from './made.ts';
import { showInPlayground } from './playground-file.ts';

/** One thing that is being made, or was. */
export function Made({ job, short = false }: { job: Job; short?: boolean }) {
  const [first, ...others] = job.files;
  if (job.state === 'running') return <Running job={job} />;
  if (job.state === 'failed') {
    return (
      <p role="alert" className="text-vermilion-ink">
        It could not be made. {job.problem}
      </p>
    );
  }
  if (job.state === 'cancelled') return <p className="text-graphite">Cancelled: nothing was made.</p>;
  return (
    <div className="flex flex-col gap-1 text-sm" role="status">
      <FileLine file={first} strong />
      {short ? null : others.map((file) => <FileLine key={file.name} file={file} />)}
      {job.handed && short && job.handed.motions.length > 1 ? <InShort motions={job.handed.motions} /> : null}
      {short && (job.handed?.motions.length ?? 0) > 1
        ? null
        : job.handed?.motions.map((motion) => <MotionLine key={motion.name} motion={motion} />)}
      {job.note ? <p className="text-graphite">{job.note}</p> : null}
      {job.handed?.left.map(({ of, text }) => (
        <p key={`${of} ${text}`} className="text-graphite">
          <span className="text-ink">{of}</span>: {text}.
        </p>
      ))}
      {first?.name.endsWith('.glb') ? (
        <Hint text="Plays the file with a player that knows nothing of Varrup">
          <Button look="pill" className="mt-1 self-start" onClick={() => showInPlayground(job)}>
            <Play size={13} className="mr-1 -mt-0.5 inline" aria-hidden />
            play it in the playground
          </Button>
        </Hint>
      ) : null}
    </div>
  );
}

/** How much is done, how long it takes yet, and a way to end it. */
export function Running({ job }: { job: Job }) {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const left = secondsLeft(job, now);
  return (
    <div>
      <div className="flex items-center gap-2">
        <progress
          value={job.share || undefined}
          max={1}
          aria-label="Progress"
          className="h-2 min-w-0 grow accent-blue"
        />
        <Button look="pill" className="h-6!" onClick={() => cancel(job.id)}>
          cancel
        </Button>
      </div>
      <p className="tabular text-sm text-graphite" role="status">
        {Math.round(job.share * 100)} %
        {left === null ? '' : `, ${left < 1.5 ? 'a second' : `${Math.round(left)} s`} yet`}
      </p>
    </div>
  );
}

function MotionLine({ motion: { name, seconds, keys, off } }: { motion: HandedMotion }) {
  return (
    <p className="text-graphite">
      <span className="text-ink">{name}</span> · {seconds.toFixed(2)} s · {keys} {keys === 1 ? 'key' : 'keys'}
      {off ? ` · ${offWords(off)}` : ''}
    </p>
  );
}

const offWords = (off: { readonly millimetres: number; readonly degrees: number }): string =>
  `${off.millimetres.toFixed(3)} mm and ${off.degrees.toFixed(4)}° off at most`;

/** Several motions in a line. */
function InShort({ motions }: { motions: readonly HandedMotion[] }) {
  const keys = motions.reduce((sum, m) => sum + m.keys, 0);
  const offs = motions.flatMap((m) => m.off ?? []);
  const most = (of: 'millimetres' | 'degrees') => Math.max(...offs.map((o) => o[of]));
  return (
    <p className="text-graphite">
      {motions.length} motions · {keys} keys
      {offs.length > 0 ? ` · ${offWords({ millimetres: most('millimetres'), degrees: most('degrees') })}` : ''}
    </p>
  );
}

function FileLine({ file, strong = false }: { file: Job['files'][number]; strong?: boolean }) {
  const { size: bytes } = file.blob;
  const size = bytes > 1e6 ? `${(bytes / 1e6).toFixed(2)} MB` : `${Math.ceil(bytes / 1000)} kB`;
  return (
    <p className="flex items-baseline gap-2">
      <button
        type="button"
        onClick={() => save(file)}
        className={`min-w-0 truncate text-left text-blue underline ${strong ? 'font-semibold' : ''}`}
      >
        {file.name}
      </button>
      <span className="tabular ml-auto shrink-0 text-graphite">{size}</span>
    </p>
  );
}
