import {
  changeSound,
  gainAt,
  heardPart,
  heardSeconds,
  loudness,
  outlinePart,
  type PlacedSound,
  removeSounds,
  SAMPLE_RATE,
  type Shot,
  soundLength,
} from '@varrup/core';
import { type KeyboardEvent, useMemo, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { useFrameDrag } from '../timeline/use-frame-drag.ts';
import { useTimeScale } from '../timeline/use-time-scale.ts';
import { player } from './player.ts';
import { samplesNow, useRecordings } from './recordings.ts';
import { SoundCard } from './SoundCard.tsx';

/** Points the waveform of one sound is drawn with. */
const POINTS = 160;
const HIGH = 34;

/** The shot's sounds under the keys, each with its waveform on its frames: dragged, trimmed at its ends, made louder and softer there. */
export function SoundStrip({ shot }: { shot: Shot }) {
  const { setBox, x, perFrame } = useTimeScale();
  const [opened, setOpened] = useState<string | null>(null);
  const sounds = shot.sounds.values().sort((a, b) => a.frame - b.frame);
  if (sounds.length === 0) return null;
  return (
    <section aria-label="Sounds" className="flex h-10 shrink-0 border-t border-rule bg-card">
      <span className="w-64 shrink-0 truncate border-r border-rule px-3 leading-10 text-graphite">
        sounds <span className="tabular">{sounds.length}</span>
      </span>
      <div ref={setBox} className="relative min-w-0 grow overflow-hidden">
        {sounds.map((sound) => (
          <SoundCard
            key={sound.id}
            shot={shot}
            sound={sound}
            open={opened === sound.id}
            onOpen={(open) => setOpened(open ? sound.id : null)}
          >
            <One
              shot={shot}
              sound={sound}
              left={x(sound.frame)}
              perFrame={perFrame}
              onOpen={() => setOpened(sound.id)}
            />
          </SoundCard>
        ))}
      </div>
    </section>
  );
}

interface OneProps {
  readonly shot: Shot;
  readonly sound: PlacedSound;
  readonly left: number;
  readonly perFrame: number;
  readonly onOpen: () => void;
}

function One({ shot, sound, left, perFrame, onOpen }: OneProps) {
  const preview = usePreview('sound');
  const perSecond = shot.rate * perFrame;
  const wide = Math.max(6, heardSeconds(sound) * perSecond);
  const decoded = useRecordings((r) => (typeof sound.sound === 'string' ? null : r.decoded.get(sound.sound.media)));
  const outline = useRecordings((r) => (typeof sound.sound === 'string' ? null : r.outlines.get(sound.sound.media)));
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is decoded comes from elsewhere, and the waveform with it.
  const shape = useMemo(() => waveform(sound, outline), [sound, decoded, outline]);
  const what = typeof sound.sound === 'string' ? sound.sound : `${heardSeconds(sound).toFixed(2)} s`;
  const change = (part: Partial<PlacedSound>) => useShot.getState().run(changeSound, { id: sound.id, change: part });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const louder = { ArrowUp: 0.1, ArrowDown: -0.1 }[event.key];
    if (by && event.altKey) change(trimmedTo(sound, 'end', heardSeconds(sound) + by / shot.rate, shot.rate));
    else if (by) change({ frame: sound.frame + by });
    else if (louder) change({ gain: Math.min(4, Math.max(0, Math.round((sound.gain + louder) * 100) / 100)) });
    else if (event.key === 'Delete') useShot.getState().run(removeSounds, { ids: [sound.id] });
    else if (event.key === 'Enter') onOpen();
    else if (event.key === 'h') player.hear(sound);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const show = (part: Partial<PlacedSound>) => preview.show(changeSound, { id: sound.id, change: part });
  const hands = useFrameDrag({
    from: sound.frame,
    perFrame,
    onDrag: (frame) => show({ frame: Math.round(frame) }),
    onKeep: () => preview.keep(),
    onDrop: () => preview.drop(),
    onPress: () => player.hear(sound),
  });
  return (
    <span className="absolute top-0.5 h-9" style={{ left, width: wide }}>
      <button
        type="button"
        aria-label={`${sound.name}, ${what} at frame ${sound.frame}, ${Math.round(sound.gain * 100)} % loud. Arrows move it and make it louder, with Alt they trim its end; Enter opens it, H lets it be heard, Delete takes it away.`}
        title={`${sound.name}: ${what} at ${sound.frame}, ${Math.round(sound.gain * 100)} %. Drag it, and its ends; press it twice for its fades; ↑ ↓ louder, quieter; Delete takes it away.`}
        className="size-full cursor-ew-resize touch-none overflow-hidden rounded border-l-2 border-umber bg-umber/10 text-left outline-none focus-visible:bg-blue-wash"
        data-takes="ArrowLeft ArrowRight ArrowUp ArrowDown Alt+ArrowLeft Alt+ArrowRight Enter Delete h"
        onKeyDown={onKeyDown}
        onDoubleClick={onOpen}
        {...hands}
      >
        <svg width="100%" height={HIGH} viewBox={`0 0 ${POINTS} ${HIGH}`} preserveAspectRatio="none" aria-hidden>
          <path d={shape} className="fill-umber" opacity="0.75" />
          <Beats sound={sound} />
        </svg>
      </button>
      {(['start', 'end'] as const).map((end) => (
        <Trim key={end} shot={shot} sound={sound} end={end} perFrame={perFrame} show={show} preview={preview} />
      ))}
    </span>
  );
}

/** An end of a sound, to be drawn in and out. */
function Trim({
  shot,
  sound,
  end,
  perFrame,
  show,
  preview,
}: {
  shot: Shot;
  sound: PlacedSound;
  end: 'start' | 'end';
  perFrame: number;
  show: (part: Partial<PlacedSound>) => void;
  preview: ReturnType<typeof usePreview>;
}) {
  const at = end === 'start' ? 0 : heardSeconds(sound) * shot.rate;
  const hands = useFrameDrag({
    from: at,
    perFrame,
    onDrag: (frames) => show(trimmedTo(sound, end, Math.round(frames) / shot.rate, shot.rate)),
    onKeep: () => preview.keep(),
    onDrop: () => preview.drop(),
  });
  return (
    <span
      aria-hidden
      title={`Drag the ${end} of ${sound.name}`}
      className={`absolute inset-y-0 w-2 cursor-col-resize touch-none hover:bg-umber/40 ${end === 'start' ? '-left-1' : '-right-1'}`}
      {...hands}
    />
  );
}

/**
 * A sound whose start or end is drawn to so many seconds from where it begins now. What is heard at the other end stays on its frame.
 */
export function trimmedTo(
  sound: PlacedSound,
  end: 'start' | 'end',
  seconds: number,
  rate: number,
): Partial<PlacedSound> {
  const whole = soundLength(sound.sound);
  const { from, until } = heardPart(sound, whole);
  const least = 1 / rate;
  if (end === 'end') return { part: { from, until: Math.min(whole, Math.max(from + least, from + seconds)) } };
  const next = Math.min(until - least, Math.max(0, from + seconds));
  return { part: { from: next, until }, frame: sound.frame + Math.round((next - from) * rate) };
}

function Beats({ sound }: { sound: PlacedSound }) {
  const { from, until } = heardPart(sound, soundLength(sound.sound));
  return sound.beats
    ?.filter((beat) => beat >= from && beat < until)
    .map((beat) => {
      const at = ((beat - from) / (until - from)) * POINTS;
      return (
        <line
          key={beat}
          x1={at}
          x2={at}
          y1="0"
          y2={HIGH}
          className="stroke-ochre"
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
      );
    });
}

/**
 * A sound's loudness on both sides of a middle line, as a path: of the part that is heard, as it comes and goes. By its outline as long as it is
 * not decoded.
 */
function waveform(sound: PlacedSound, outline: Uint8Array | null | undefined): string {
  const samples = samplesNow(sound.sound);
  const heard = heardPart(sound, soundLength(sound.sound));
  const parts =
    samples.length === 0 && outline
      ? outlinePart(outline, heard.from, heard.until, POINTS)
      : loudness(samples.subarray(heard.from * SAMPLE_RATE, heard.until * SAMPLE_RATE), POINTS);
  const half = HIGH / 2;
  const y = (v: number, i: number) => {
    const gain = gainAt(sound, heard, heard.from + ((i + 0.5) / POINTS) * (heard.until - heard.from));
    return Math.min(half - 1, v * Math.sqrt(gain) * (half - 1));
  };
  const over = [...parts].map((v, i) => `${i},${(half - y(v, i)).toFixed(1)}`);
  const under = [...parts].map((v, i) => `${i},${(half + y(v, i)).toFixed(1)}`).reverse();
  return `M${over.join('L')}L${under.join('L')}Z`;
}
