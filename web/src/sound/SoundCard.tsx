import { changeSound, findBeats, heardPart, type PlacedSound, type Shot, soundLength } from '@varrup/core';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { player } from './player.ts';
import { samplesNow } from './recordings.ts';

/** What a placed sound is in numbers: where it begins, which part of it is heard, how it comes and goes, and its beats. */
export function SoundCard({
  shot,
  sound,
  open,
  onOpen,
  children,
}: {
  shot: Shot;
  sound: PlacedSound;
  open: boolean;
  onOpen: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Anchor asChild>{children}</Popover.Anchor>
      {open ? (
        <Popover.Portal>
          <Popover.Content
            side="top"
            sideOffset={6}
            data-beside
            aria-label={`The sound ${sound.name}`}
            className="z-20 flex w-64 flex-col gap-1.5 rounded-xl border border-rule bg-card p-3 shadow-xl"
          >
            <Fields shot={shot} sound={sound} />
          </Popover.Content>
        </Popover.Portal>
      ) : null}
    </Popover.Root>
  );
}

function Fields({ shot, sound }: { shot: Shot; sound: PlacedSound }) {
  const whole = soundLength(sound.sound);
  const { from, until } = heardPart(sound, whole);
  const fade = sound.fade ?? { in: 0, out: 0 };
  const change = (part: Partial<PlacedSound>) => useShot.getState().run(changeSound, { id: sound.id, change: part });
  const least = 1 / shot.rate;
  const seconds = { step: 0.05, digits: 2, unit: 's' } as const;
  return (
    <>
      <h3 className="truncate font-semibold">{sound.name}</h3>
      <Row label="begins">
        <NumberField
          label="Frame it begins on"
          value={sound.frame}
          step={1}
          digits={0}
          min={-100_000}
          max={1_000_000}
          onChange={(frame) => change({ frame })}
        />
      </Row>
      <Row label="loud">
        <NumberField
          label="How loud, in hundredths"
          value={sound.gain * 100}
          step={5}
          digits={0}
          min={0}
          max={400}
          unit="%"
          onChange={(value) => change({ gain: value / 100 })}
        />
      </Row>
      <Row label="part">
        <NumberField
          label="Heard from"
          value={from}
          min={0}
          max={until - least}
          onChange={(next) => change({ part: { from: next, until } })}
          {...seconds}
        />
        <NumberField
          label="Heard until"
          value={until}
          min={from + least}
          max={whole}
          onChange={(next) => change({ part: { from, until: next } })}
          {...seconds}
        />
      </Row>
      <Row label="fades">
        <NumberField
          label="Comes over"
          value={fade.in}
          min={0}
          max={until - from}
          onChange={(next) => change({ fade: { ...fade, in: next } })}
          {...seconds}
        />
        <NumberField
          label="Goes over"
          value={fade.out}
          min={0}
          max={until - from}
          onChange={(next) => change({ fade: { ...fade, out: next } })}
          {...seconds}
        />
      </Row>
      <span className="flex items-center gap-1 pt-1">
        <Button look="pill" onClick={() => player.hear(sound)}>
          hear it
        </Button>
        <Button look="pill" onClick={() => markBeats(sound)} title="Keys can be brought onto beats">
          {sound.beats ? `${sound.beats.length} beats: find again` : 'find its beats'}
        </Button>
      </span>
    </>
  );
}

/** Finds the beats of a sound and keeps them with it. */
function markBeats(sound: PlacedSound): void {
  const beats = findBeats(samplesNow(sound.sound)).map((beat) => Math.round(beat * 1000) / 1000);
  if (beats.length === 0) toast('No beats were found in it: nothing in it gets louder at even times.');
  else useShot.getState().run(changeSound, { id: sound.id, change: { beats } });
}
