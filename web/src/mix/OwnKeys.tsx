import {
  type ClipTrack,
  clipAtWork,
  controlsOf,
  curvesOf,
  ownKeysTrack,
  putTrack,
  type Shot,
  silentRigs,
} from '@varrup/core';
import { Headphones, Rows3, Volume2, VolumeX } from 'lucide-react';
import { useMemo } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { run } from '../commands/now.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import type { Across } from './TrackRow.tsx';

/** A rig's own keys, those of this shot alone, over all its tracks: they correct what the tracks give. */
export function OwnKeys({ shot, rig, x }: { shot: Shot; rig: string; x: Across }) {
  const curves = useMemo(() => curvesOf(shot, controlsOf(shot, rig)), [shot, rig]);
  const frames = useMemo(() => [...new Set(curves.flatMap(([, c]) => c.keys.map((k) => k.frame)))], [curves]);
  if (curves.length === 0 || clipAtWork(shot, rig)) return null;
  const track = ownKeysTrack(shot, rig);
  const isSilent = silentRigs(shot).has(rig);
  const put = (change: Partial<ClipTrack>, does: string) => run(putTrack, { track: { ...track, ...change }, does });
  const channels = curves.length === 1 ? 'a channel' : `${curves.length} channels`;
  return (
    <section aria-label="Own keys" className="flex h-8 border-b border-rule">
      <div className="flex w-64 shrink-0 items-center gap-1 border-r border-rule px-3">
        <Hint
          text={`Keys of this shot on ${channels}: they correct what the tracks give, which goes on between them. ${shortcutOf('mix.asTracks')} ends a correction`}
          side="top"
        >
          <span className="min-w-0 grow truncate">
            own keys <span className="text-sm text-graphite">{channels}</span>
          </span>
        </Hint>
        <Hint text={track.muted ? 'Heard again' : 'Silent, until it is pressed again'} side="top">
          <Button
            look="icon"
            aria-label="Silence own keys"
            aria-pressed={track.muted}
            onClick={() => put({ muted: !track.muted }, track.muted ? 'hear own keys' : 'silence own keys')}
          >
            {track.muted ? <VolumeX size={14} /> : <Volume2 size={14} />}
          </Button>
        </Hint>
        <Hint text="Only these are heard, and tracks that are alone" side="top">
          <Button
            look="icon"
            aria-label="Own keys alone"
            aria-pressed={track.alone}
            onClick={() => put({ alone: !track.alone }, track.alone ? 'hear all tracks' : 'hear own keys alone')}
          >
            <Headphones size={14} />
          </Button>
        </Hint>
        <Hint text="To the sheet, where they are" side="top">
          <Button look="icon" aria-label="Own keys on the sheet" onClick={() => commandOf('view.sheet').run()}>
            <Rows3 size={14} />
          </Button>
        </Hint>
      </div>
      <div className={`relative min-w-0 grow overflow-hidden ${isSilent ? 'opacity-45' : ''}`} aria-hidden>
        {frames.map((frame) => (
          <span
            key={frame}
            className="absolute top-2.5 h-3 w-1.5 -translate-x-1/2 rounded-full bg-ink"
            style={{ left: x(frame) }}
          />
        ))}
      </div>
    </section>
  );
}
