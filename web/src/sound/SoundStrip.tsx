import { changeSound, loudness, type PlacedSound, removeSounds, type Shot, soundLength } from '@varrup/core';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { timeScale } from '../timeline/time-axis.ts';
import { useTiming } from '../view/timing.ts';
import { player } from './player.ts';
import { samplesNow, useRecordings } from './recordings.ts';

/** Points the waveform of one sound is drawn with. */
const POINTS = 120;
const HIGH = 34;

/** The shot's sounds under the keys, each with its waveform on its frames: dragged, stepped and made louder there. */
export function SoundStrip({ shot }: { shot: Shot }) {
  const span = useTiming((s) => s.span);
  // It comes with the first sound and goes with the last.
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const [width, setWidth] = useState(600);
  useEffect(() => {
    if (!box) return;
    setWidth(box.clientWidth);
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(box);
    return () => watch.disconnect();
  }, [box]);
  const sounds = shot.sounds.values().sort((a, b) => a.frame - b.frame);
  if (sounds.length === 0) return null;
  const x = timeScale(span, width);
  return (
    <section aria-label="Sounds" className="flex h-10 shrink-0 border-t border-rule bg-card">
      <span className="w-64 shrink-0 truncate border-r border-rule px-3 leading-10 text-graphite">
        sounds <span className="tabular">{sounds.length}</span>
      </span>
      <div ref={setBox} className="relative min-w-0 grow overflow-hidden">
        {sounds.map((sound) => (
          <One key={sound.id} shot={shot} sound={sound} left={x(sound.frame)} perFrame={x(1) - x(0)} />
        ))}
      </div>
    </section>
  );
}

function One({ shot, sound, left, perFrame }: { shot: Shot; sound: PlacedSound; left: number; perFrame: number }) {
  const drag = useRef<{ x: number; frame: number; moved: boolean } | null>(null);
  const preview = usePreview('sound');
  const wide = Math.max(6, soundLength(sound.sound) * shot.rate * perFrame);
  const decoded = useRecordings((r) => (typeof sound.sound === 'string' ? null : r.decoded.get(sound.sound.media)));
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is decoded comes from elsewhere, and the waveform with it.
  const shape = useMemo(() => waveform(sound), [sound, decoded]);
  const what = typeof sound.sound === 'string' ? sound.sound : `${sound.sound.seconds.toFixed(2)} s`;
  const frameAt = (event: PointerEvent) => {
    const held = drag.current!;
    return Math.round(held.frame + (event.clientX - held.x) / perFrame);
  };
  const change = (part: Partial<PlacedSound>) => useShot.getState().run(changeSound, { id: sound.id, change: part });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const louder = { ArrowUp: 0.1, ArrowDown: -0.1 }[event.key];
    if (by) change({ frame: sound.frame + by });
    else if (louder) change({ gain: Math.min(4, Math.max(0, Math.round((sound.gain + louder) * 100) / 100)) });
    else if (event.key === 'Delete') useShot.getState().run(removeSounds, { ids: [sound.id] });
    else if (event.key === 'Enter') player.hear(sound.sound, sound.gain);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <button
      type="button"
      aria-label={`${sound.name}, ${what} at frame ${sound.frame}, ${Math.round(sound.gain * 100)} % loud. Arrows move it and make it louder, Delete takes it away.`}
      title={`${sound.name}: ${what} at ${sound.frame}, ${Math.round(sound.gain * 100)} %. Drag it; ↑ ↓ louder, quieter; Delete takes it away.`}
      className="absolute top-0.5 h-9 cursor-ew-resize touch-none overflow-hidden rounded border-l-2 border-umber bg-umber/10 text-left outline-none focus-visible:bg-blue-wash"
      style={{ left, width: wide }}
      data-takes="ArrowLeft ArrowRight ArrowUp ArrowDown Enter Delete"
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, frame: sound.frame, moved: false };
      }}
      onPointerMove={(event) => {
        if (!drag.current) return;
        drag.current.moved ||= Math.abs(event.clientX - drag.current.x) > 3;
        if (drag.current.moved) preview.show(changeSound, { id: sound.id, change: { frame: frameAt(event) } });
      }}
      onPointerUp={() => {
        if (drag.current?.moved) preview.keep();
        else if (drag.current) player.hear(sound.sound, sound.gain);
        drag.current = null;
      }}
      onPointerCancel={() => {
        drag.current = null;
        preview.drop();
      }}
    >
      <svg width="100%" height={HIGH} viewBox={`0 0 ${POINTS} ${HIGH}`} preserveAspectRatio="none" aria-hidden>
        <path d={shape} className="fill-umber" opacity="0.75" />
      </svg>
    </button>
  );
}

/** A sound's loudness on both sides of a middle line, as a path. */
function waveform({ sound, gain }: PlacedSound): string {
  const parts = loudness(samplesNow(sound), POINTS);
  const half = HIGH / 2;
  const y = (v: number) => Math.min(half - 1, v * Math.sqrt(gain) * (half - 1));
  const over = [...parts].map((v, i) => `${i},${(half - y(v)).toFixed(1)}`);
  const under = [...parts].map((v, i) => `${i},${(half + y(v)).toFixed(1)}`).reverse();
  return `M${over.join('L')}L${under.join('L')}Z`;
}
