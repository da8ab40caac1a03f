import { useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import type { Driven } from './driven.ts';
import type { FilePlayer } from './player.ts';
import type { Scenery } from './scenery.ts';

const arrows: Readonly<Record<string, 'up' | 'down' | 'left' | 'right'>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};
const signs = { up: '↑', down: '↓', left: '←', right: '→', end: 'at its end' } as const;

/** The file driven by arrows and keys, where its motions say what may follow what. */
export function Drive(props: {
  readonly player: FilePlayer;
  readonly scenery: Scenery | null;
  readonly drives: boolean;
  readonly onDrives: (drives: boolean) => void;
}) {
  const { player, scenery, drives, onDrives } = props;
  const [whom, setWhom] = useState(0);
  const driven = player.driven[whom];
  const [first, setFirst] = useState(() => calmest(driven));
  const words = useRef<HTMLSpanElement>(null);

  useEffect(() => {
    if (!drives) return;
    player.leave();
    driven.begin(first);
    let last = performance.now();
    let frame = requestAnimationFrame(function step(now) {
      driven.advance(Math.min((now - last) / 1000, 0.1));
      last = now;
      if (driven.carrier) scenery?.follow(driven.carrier);
      scenery?.draw();
      if (words.current && words.current.textContent !== driven.words) words.current.textContent = driven.words;
      frame = requestAnimationFrame(step);
    });
    const onDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || event.repeat) return;
      if (event.target instanceof Element && event.target.closest('input:not([type=checkbox]), select')) return;
      const arrow = arrows[event.key];
      if (event.key === 'Escape') onDrives(false);
      else if (arrow) driven.press(arrow);
      else if (!driven.ask(event.key.toLowerCase())) return;
      event.preventDefault();
    };
    const onUp = (event: KeyboardEvent) => driven.release(arrows[event.key] ?? '');
    addEventListener('keydown', onDown);
    addEventListener('keyup', onUp);
    return () => {
      cancelAnimationFrame(frame);
      removeEventListener('keydown', onDown);
      removeEventListener('keyup', onUp);
      // Where it began: the motions by themselves are seen from there.
      driven.begin(first);
      if (driven.carrier) scenery?.follow(driven.carrier);
    };
  }, [drives, first, player, driven, scenery, onDrives]);

  const keyed = driven.members.filter((m) => m.company.key !== null);
  const leads = driven.members.flatMap((m) => m.company.follows.map((f) => ({ from: m.clip.name, ...f })));
  return (
    <section aria-label="Drive" className="rounded-lg bg-well p-2">
      {player.driven.length > 1 ? (
        <select
          aria-label="Who is driven"
          value={whom}
          onChange={(event) => {
            const next = Number(event.target.value);
            setWhom(next);
            setFirst(calmest(player.driven[next]));
          }}
          className="mb-1.5 h-7 w-full rounded-md border border-rule bg-paper px-1 text-ink"
        >
          {player.driven.map((d, i) => (
            <option key={d.whom} value={i}>
              {d.whom}
            </option>
          ))}
        </select>
      ) : null}
      <div className="flex items-center gap-1.5">
        <select
          aria-label="First motion"
          value={first}
          onChange={(event) => setFirst(event.target.value)}
          className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1 text-ink"
        >
          {driven.bodies.map((m) => (
            <option key={m.clip.name} value={m.clip.name}>
              {m.clip.name}
            </option>
          ))}
        </select>
        <Button look="pill" aria-pressed={drives} onClick={() => onDrives(!drives)}>
          {drives ? 'stop driving' : 'drive'}
        </Button>
      </div>
      <p className="mt-1.5 min-h-5 text-sm" role="status">
        <span ref={words} className="font-medium">
          {drives ? '' : 'Arrows and keys play it, as in a game.'}
        </span>
      </p>
      <ul aria-label="What leads where" className="tabular text-sm text-graphite">
        {leads.map(({ from, motion, by, seconds }) => (
          <li key={`${from} ${by}`}>
            {from} {signs[by]} {motion}, {seconds.toFixed(2)} s
          </li>
        ))}
        {keyed.map(({ clip, company }) => (
          <li key={clip.name}>
            {company.key?.toUpperCase()} {clip.name}
          </li>
        ))}
      </ul>
      {drives ? (
        <div className="mt-1.5 flex flex-wrap gap-1">
          {(['up', 'down', 'left', 'right'] as const).map((by) => (
            <Button
              key={by}
              look="pill"
              className="h-6! px-2!"
              aria-label={`Arrow ${by}`}
              onPointerDown={() => driven.press(by)}
              onPointerUp={() => driven.release(by)}
              onPointerLeave={() => driven.release(by)}
              onKeyDown={(event) => {
                if (event.key === 'Enter' || event.key === ' ') driven.press(by);
              }}
            >
              {signs[by]}
            </Button>
          ))}
          {keyed.map(({ clip, company }) => (
            <Button
              key={clip.name}
              look="pill"
              className="h-6! px-2!"
              onClick={() => company.key && driven.ask(company.key)}
            >
              {clip.name}
            </Button>
          ))}
        </div>
      ) : null}
    </section>
  );
}

/** The motion one begins with: of those that can have the body the one that gets on least. */
function calmest({ bodies }: Driven): string {
  const pace = (m: Driven['members'][number]) => Math.abs((m.company.travel?.metres ?? 0) / m.clip.duration);
  return [...bodies].sort((a, b) => pace(a) - pace(b))[0]?.clip.name ?? '';
}
