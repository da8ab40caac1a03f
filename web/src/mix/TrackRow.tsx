import { type ClipTrack, crossingsOf, putTrack, removeTracks, type Shot } from '@varrup/core';
import type { ScaleLinear } from 'd3';
import { Headphones, Lock, LockOpen, MoreHorizontal, Volume2, VolumeX } from 'lucide-react';
import { useState } from 'react';
import { run } from '../commands/now.ts';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { trackBeside } from './mix.ts';
import { SpanBlock } from './SpanBlock.tsx';

export type Across = ScaleLinear<number, number>;

/** One track: what it is called and whether it is heard, and its spans. */
export function TrackRow({ shot, track, x }: { shot: Shot; track: ClipTrack; x: Across }) {
  const put = (change: Partial<ClipTrack>, does: string) => run(putTrack, { track: { ...track, ...change }, does });
  const [naming, setNaming] = useState(false);
  const [above, below] = [trackBeside(shot, track, -1), trackBeside(shot, track, 1)];
  /** A rank just beyond a neighbour: half way to the one after it. */
  const rankBeyond = (neighbour: ClipTrack, by: 1 | -1) => {
    const next = trackBeside(shot, neighbour, by);
    return next ? (neighbour.rank + next.rank) / 2 : neighbour.rank - by;
  };
  const crossings = crossingsOf(track);
  const clipName = (span: string) => shot.clips.get(track.spans.find((s) => s.id === span)?.clip ?? '')?.name ?? '';
  return (
    <section aria-label={track.name} data-track={track.id} className="flex h-14 border-b border-rule">
      <div className="flex w-64 shrink-0 items-center gap-0.5 border-r border-rule px-3">
        <span className="min-w-0 grow truncate" title={track.name}>
          {track.name}
        </span>
        <Hint text={track.muted ? 'Heard again' : 'Silent, until it is pressed again'}>
          <Button
            look="icon"
            aria-label={`Silence ${track.name}`}
            aria-pressed={track.muted}
            onClick={() => put({ muted: !track.muted }, track.muted ? 'hear a track' : 'silence a track')}
          >
            {track.muted ? <VolumeX size={14} /> : <Volume2 size={14} />}
          </Button>
        </Hint>
        <Hint text="Only this one is heard, and others that are alone">
          <Button
            look="icon"
            aria-label={`${track.name} alone`}
            aria-pressed={track.alone}
            onClick={() => put({ alone: !track.alone }, track.alone ? 'hear all tracks' : 'hear a track alone')}
          >
            <Headphones size={14} />
          </Button>
        </Hint>
        <Hint text={track.locked ? 'Let it be changed' : 'Lock it: nothing on it can be changed'}>
          <Button
            look="icon"
            aria-label={`Lock ${track.name}`}
            aria-pressed={track.locked}
            onClick={() => put({ locked: !track.locked }, track.locked ? 'unlock a track' : 'lock a track')}
          >
            {track.locked ? <Lock size={14} /> : <LockOpen size={14} />}
          </Button>
        </Hint>
        <Menu
          align="end"
          trigger={
            <Button look="icon" aria-label={`More about ${track.name}`}>
              <MoreHorizontal size={14} />
            </Button>
          }
        >
          <MenuItem onPick={() => setNaming(true)}>rename…</MenuItem>
          <MenuItem
            disabled={!above}
            onPick={() => above && put({ rank: rankBeyond(above, -1) }, 'lay a track higher')}
          >
            over {above?.name ?? 'the one above'}
          </MenuItem>
          <MenuItem disabled={!below} onPick={() => below && put({ rank: rankBeyond(below, 1) }, 'lay a track lower')}>
            under {below?.name ?? 'the one below'}
          </MenuItem>
          <MenuLine />
          <MenuItem disabled={track.locked} onPick={() => run(removeTracks, { ids: [track.id] })}>
            take it away; its clips stay
          </MenuItem>
        </Menu>
        {naming ? (
          <NameDialog
            title="Rename the track"
            label="Name"
            initial={track.name}
            action="rename"
            onName={(name) => put({ name }, `call a track ${name}`)}
            onClose={() => setNaming(false)}
          />
        ) : null}
      </div>
      <div className={`relative min-w-0 grow overflow-hidden ${track.muted ? 'opacity-45' : ''}`}>
        {track.spans.map((span) => (
          <SpanBlock
            key={span.id}
            shot={shot}
            track={track}
            span={span}
            x={x}
            covered={crossings.find((c) => c.second === span.id)?.to ?? span.from}
            under={crossings.some((c) => c.first === span.id)}
          />
        ))}
        {crossings.map(({ from, to, first, second }) => (
          <div
            key={second}
            role="img"
            aria-label={`${clipName(first)} goes over into ${clipName(second)} from frame ${from} to ${to}`}
            className="pointer-events-none absolute inset-y-1 border-x border-ochre bg-ochre-wash/70"
            style={{ left: x(from), width: x(to) - x(from) }}
          >
            <svg className="size-full" preserveAspectRatio="none" viewBox="0 0 1 1" aria-hidden>
              <path
                d="M0 0C.5 0 .5 1 1 1M0 1C.5 1 .5 0 1 0"
                fill="none"
                stroke="var(--ochre)"
                strokeWidth="1.5"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
          </div>
        ))}
      </div>
    </section>
  );
}
