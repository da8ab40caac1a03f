import type { Choices, Shot } from '@varrup/core';
import { ExternalLink } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { type Asked, isPlaygroundTalk, type Said } from '../playground/messages.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { handOnNow } from './commands.ts';
import { type Difference, differenceOf, halfFrames, spanOf } from './difference.ts';
import type { Job } from './made.ts';
import { usePlaygroundFile } from './playground-file.ts';
import { shotOf } from './shots-made.ts';

/** A file as its receiver plays it, and how far that is from the shot, half frame by half frame. */
export function PlaygroundPanel({ shot }: { shot: Shot }) {
  const job = usePlaygroundFile((p) => p.job);
  if (!job || job.shot !== shot.id || job.what.is !== 'files')
    return (
      <div className="grid h-full place-items-center">
        <div className="text-center">
          <p className="text-graphite">
            What is handed on as .glb is played here with a player that knows nothing of Varrup.
          </p>
          <Button look="pill" className="mt-2" onClick={() => void handOnNow()}>
            hand on as it is wanted now
          </Button>
        </div>
      </div>
    );
  return <Played key={job.id} job={job} choices={job.what.choices} />;
}

function Played({ job, choices }: { job: Job; choices: Choices }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [motions, setMotions] = useState<readonly string[]>([]);
  const [differences, setDifferences] = useState<readonly Difference[]>([]);
  const [shown, setShown] = useState(0);
  const file = job.files[0];

  useEffect(() => {
    const ask = (asked: Asked) => frame.current?.contentWindow?.postMessage(asked, location.origin);
    const shot = shotOf(job);
    const spans = (names: readonly string[]) => names.map((_, m) => shot && spanOf(shot, choices, m));
    let known: ReturnType<typeof spans> = [];
    const hear = (event: MessageEvent<Said>) => {
      if (!isPlaygroundTalk(event) || event.source !== frame.current?.contentWindow) return;
      const said = event.data;
      if (said.playground === 'ready') ask({ playground: 'open', file: file.blob, name: file.name });
      else if (said.playground === 'opened') {
        setMotions(said.motions);
        known = spans(said.motions);
        const nodes = job.handed?.stand.map((s) => s.node) ?? [];
        said.motions.forEach((motion, question) => {
          const span = known[question];
          if (!span || !shot) return;
          const seconds = halfFrames(span.first, span.last).map((f) => (f - span.first) / shot.rate);
          ask({ playground: 'places', question, motion, seconds, nodes });
        });
      } else if (said.playground === 'places') {
        const span = known[said.question];
        const name = job.handed?.motions[said.question]?.name ?? '';
        if (!span || !job.handed) return;
        const next = differenceOf(name, span, job.handed.stand, said.places, choices);
        setDifferences((all) => [...all.filter((d) => d.motion !== name), next]);
      }
    };
    window.addEventListener('message', hear);
    return () => window.removeEventListener('message', hear);
  }, [job, choices, file]);

  // The file follows the stage's time, so that the two can be looked at side by side.
  useEffect(() => {
    const shot = shotOf(job);
    const span = shot && spanOf(shot, choices, shown);
    const motion = motions[shown];
    if (!span || !motion || !shot) return;
    const follow = (at: number) => {
      const seconds = (Math.min(Math.max(at, span.first), span.last) - span.first) / shot.rate;
      frame.current?.contentWindow?.postMessage(
        { playground: 'show', motion, seconds } satisfies Asked,
        location.origin,
      );
    };
    follow(usePlayhead.getState().frame);
    return usePlayhead.subscribe((now, old) => {
      if (now.frame !== old.frame) follow(now.frame);
    });
  }, [job, choices, shown, motions]);

  const openAlone = () => {
    const page = window.open('/playground');
    const hear = (event: MessageEvent<Said>) => {
      if (!isPlaygroundTalk(event) || event.source !== page || event.data.playground !== 'ready') return;
      page?.postMessage({ playground: 'open', file: file.blob, name: file.name } satisfies Asked, location.origin);
      window.removeEventListener('message', hear);
    };
    window.addEventListener('message', hear);
  };

  const difference = differences.find((d) => d.motion === job.handed?.motions[shown]?.name);
  return (
    <div className="flex h-full min-h-0">
      <iframe ref={frame} src="/playground" title="Playground" className="h-full min-w-0 grow border-0" />
      <section
        aria-label="Difference"
        className="flex w-80 shrink-0 flex-col gap-1 overflow-y-auto border-l border-rule p-3"
      >
        <div className="flex items-center gap-2">
          <select
            aria-label="Motion"
            value={shown}
            onChange={(event) => setShown(Number(event.target.value))}
            className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1"
          >
            {motions.map((motion, m) => (
              <option key={motion} value={m}>
                {motion}
              </option>
            ))}
          </select>
          <Hint text="Open the playground as a page of its own">
            <Button look="icon" aria-label="Open the playground as a page of its own" onClick={openAlone}>
              <ExternalLink size={14} aria-hidden />
            </Button>
          </Hint>
        </div>
        {difference ? (
          <Graph difference={difference} />
        ) : (
          <p className="text-graphite" role="status">
            Comparing it with the shot…
          </p>
        )}
      </section>
    </div>
  );
}

/** The difference over the frames, as high as the worst of it or a tenth of a millimetre. */
function Graph({ difference: { millimetres, most, of, at, first } }: { difference: Difference }) {
  const high = Math.max(most, 0.1);
  const last = millimetres.length - 1;
  const line = millimetres.map((mm, i) => `${(300 * i) / Math.max(last, 1)},${60 - (60 * mm) / high}`).join(' ');
  return (
    <>
      <p role="status">
        <span className="tabular font-semibold">{most.toFixed(3)} mm</span> apart at most
        {of ? ` (${of}, at ${at})` : ''}
      </p>
      <svg
        viewBox="0 0 300 64"
        className="w-full"
        role="img"
        aria-label={`Difference over the frames, ${most.toFixed(3)} mm at most`}
      >
        <line x1={0} x2={300} y1={60} y2={60} className="stroke-rule" />
        <polyline
          points={line}
          fill="none"
          className="stroke-blue"
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <p className="tabular flex justify-between text-sm text-graphite">
        <span>{first}</span>
        <span>up to {high.toFixed(2)} mm</span>
        <span>{first + last / 2}</span>
      </p>
      <p className="text-sm text-graphite">Every joint and member, at every half frame, as another player has them.</p>
    </>
  );
}
