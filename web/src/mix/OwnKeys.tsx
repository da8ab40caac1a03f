import { clipAtWork, controlsOf, curvesOf, type Shot } from '@varrup/core';
import { useMemo } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import type { Across } from './TrackRow.tsx';

/** A rig's own keys, those of this shot alone, over all its tracks: they correct what the tracks give. */
export function OwnKeys({ shot, rig, x }: { shot: Shot; rig: string; x: Across }) {
  const curves = useMemo(() => curvesOf(shot, controlsOf(shot, rig)), [shot, rig]);
  const frames = useMemo(() => [...new Set(curves.flatMap(([, c]) => c.keys.map((k) => k.frame)))], [curves]);
  if (curves.length === 0 || clipAtWork(shot, rig)) return null;
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
        <Button className="text-sm" onClick={() => commandOf('view.sheet').run()}>
          sheet
        </Button>
      </div>
      <div className="relative min-w-0 grow overflow-hidden" aria-hidden>
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
