import { type Clip, type Follow, type Shot, setFollow } from '@varrup/core';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { run } from '../commands/now.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';

const words: Record<Follow['by'], string> = { up: '↑', down: '↓', left: '←', right: '→', end: 'end' };
const BY: readonly Follow['by'][] = ['up', 'down', 'left', 'right', 'end'];

interface Step {
  readonly from: Clip;
  readonly to: Clip;
  readonly how: Follow;
}

/** Which clip may follow which, by what, and over how many frames: as a map to look at, and as a list to change. */
export function StateMap({ shot, clips }: { shot: Shot; clips: readonly Clip[] }) {
  const steps = clips.flatMap((from) =>
    Object.entries(from.follows).flatMap(([id, how]): Step[] => {
      const to = shot.clips.get(id);
      return to ? [{ from, to, how }] : [];
    }),
  );
  return (
    <>
      {steps.length > 0 ? <Drawing clips={clips} steps={steps} /> : null}
      {steps.length === 0 ? (
        <p className="text-sm text-graphite">
          Nothing follows anything yet. An arrow leads from one clip to the next, in a trial and in what is handed on.
        </p>
      ) : null}
      <ul aria-label="What follows what">
        {steps.map(({ from, to, how }) => (
          <li key={`${from.id} ${to.id}`} className="mt-0.5 flex items-center gap-1.5">
            <span className="min-w-0 grow truncate" title={`${from.name} to ${to.name}`}>
              {from.name} <span className="text-graphite">{words[how.by]}</span> {to.name}
            </span>
            <span className="w-14 shrink-0">
              <NumberField
                label={`frames from ${from.name} to ${to.name}`}
                value={how.over}
                min={0}
                max={240}
                step={1}
                digits={0}
                whole
                onChange={(over) => run(setFollow, { id: from.id, next: to.id, how: { ...how, over } })}
              />
            </span>
            <Button
              look="icon"
              className="size-6!"
              aria-label={`${to.name} no longer follows ${from.name}`}
              onClick={() => run(setFollow, { id: from.id, next: to.id, how: null })}
            >
              <Trash2 size={12} />
            </Button>
          </li>
        ))}
      </ul>
      {clips.length > 1 ? <NewStep clips={clips} /> : null}
    </>
  );
}

/** How long a new crossing takes, frames. */
const OVER = 12;

function NewStep({ clips }: { clips: readonly Clip[] }) {
  const [chosen, setChosen] = useState<{ from?: string; to?: string; by?: Follow['by'] }>({});
  const from = clips.find((c) => c.id === chosen.from) ?? clips[0];
  const others = clips.filter((c) => c.id !== from.id);
  const to = others.find((c) => c.id === chosen.to) ?? others[0];
  const taken = Object.entries(from.follows).flatMap(([id, f]) => (id === to.id ? [] : [f.by]));
  const open = BY.filter((by) => !taken.includes(by));
  const by = open.find((b) => b === chosen.by) ?? open[0];
  const select = (label: string, value: string, options: readonly (readonly [string, string])[], key: string) => (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => setChosen({ ...chosen, [key]: event.target.value })}
      className="h-6 min-w-0 grow rounded-md border border-rule bg-paper text-sm text-ink"
    >
      {options.map(([v, word]) => (
        <option key={v} value={v}>
          {word}
        </option>
      ))}
    </select>
  );
  return (
    <div className="mt-1.5 flex items-center gap-1">
      {select(
        'from clip',
        from.id,
        clips.map((c) => [c.id, c.name] as const),
        'from',
      )}
      {by
        ? select(
            'by',
            by,
            open.map((b) => [b, words[b]] as const),
            'by',
          )
        : null}
      {select(
        'to clip',
        to.id,
        others.map((c) => [c.id, c.name] as const),
        'to',
      )}
      <Hint text="Lets the second follow the first" side="left">
        <Button
          look="icon"
          className="size-6!"
          aria-label="Let it follow"
          disabled={!by}
          onClick={() => run(setFollow, { id: from.id, next: to.id, how: { over: OVER, by } })}
        >
          <Plus size={13} />
        </Button>
      </Hint>
    </div>
  );
}

const [WIDE, HIGH] = [208, 132];

/** Where a clip stands on the map: on a ring, the first at the top. */
function placeOf(i: number, count: number): readonly [x: number, y: number] {
  const turn = (i / count) * 2 * Math.PI - Math.PI / 2;
  return [WIDE / 2 + Math.cos(turn) * (WIDE / 2 - 34), HIGH / 2 + Math.sin(turn) * (HIGH / 2 - 14)];
}

function Drawing({ clips, steps }: { clips: readonly Clip[]; steps: readonly Step[] }) {
  const shown = clips.filter((c) => steps.some((s) => s.from === c || s.to === c));
  const place = new Map(shown.map((clip, i) => [clip, placeOf(i, shown.length)] as const));
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="my-1 w-full text-xs"
      role="img"
      aria-label={`Map: ${steps.map((s) => `${s.from.name} to ${s.to.name}`).join(', ')}`}
    >
      <defs>
        <marker id="follows" viewBox="0 0 6 6" refX="5" refY="3" markerWidth="6" markerHeight="6" orient="auto">
          <path d="M0 0L6 3L0 6Z" fill="var(--graphite)" />
        </marker>
      </defs>
      {steps.map(({ from, to, how }) => {
        const [[x0, y0], [x1, y1]] = [place.get(from)!, place.get(to)!];
        // Beside the straight line, so that there and back do not lie on one another; and not under the names.
        const [dx, dy] = [x1 - x0, y1 - y0];
        const long = Math.hypot(dx, dy) || 1;
        const [nx, ny] = [(-dy / long) * 7, (dx / long) * 7];
        const cut = Math.min(0.32, 26 / long);
        const at = (t: number) => [x0 + dx * t + nx, y0 + dy * t + ny] as const;
        const [[ax, ay], [bx, by], [mx, my]] = [at(cut), at(1 - cut), at(0.5)];
        return (
          <g key={`${from.id} ${to.id}`}>
            <path d={`M${ax} ${ay}L${bx} ${by}`} stroke="var(--graphite)" markerEnd="url(#follows)" />
            <text x={mx + nx * 2} y={my + ny * 1.4 + 3} textAnchor="middle" fontSize="8" fill="var(--graphite)">
              {words[how.by]} {how.over}
            </text>
          </g>
        );
      })}
      {shown.map((clip) => {
        const [x, y] = place.get(clip)!;
        return (
          <text key={clip.id} x={x} y={y + 3.5} textAnchor="middle" fontSize="10" fontWeight="600" fill="var(--ink)">
            {clip.name.length > 12 ? `${clip.name.slice(0, 11)}…` : clip.name}
          </text>
        );
      })}
    </svg>
  );
}
