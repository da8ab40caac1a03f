import { keyFrames, setPlayRange } from '@varrup/core';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import type { AppCommand } from './command.ts';
import { frameNow, hasShot, pickedNow, run, shotNow, withShot } from './now.ts';

/** Going and playing through time. */

function goToKey(direction: -1 | 1): void {
  const shot = shotNow();
  if (!shot) return;
  const frames = keyFrames(shot, pickedNow());
  const now = frameNow();
  const next = direction < 0 ? frames.findLast((f) => f < now - 1e-6) : frames.find((f) => f > now + 1e-6);
  if (next !== undefined) usePlayhead.getState().go(next);
}

function step(by: number): void {
  const shot = shotNow();
  if (!shot) return;
  usePlayhead.getState().stop();
  const now = frameNow();
  const whole = by < 0 ? Math.ceil(now) : Math.floor(now);
  usePlayhead.getState().go(Math.min(shot.range.last, Math.max(shot.range.first, whole + by)));
}

export const timing: AppCommand[] = [
  {
    id: 'time.play',
    label: 'Play or stop',
    group: 'Time',
    shortcut: 'Space',
    run: () => {
      const { playing, play, stop } = usePlayhead.getState();
      if (playing) stop();
      else play(shotNow);
    },
    enabled: hasShot,
  },
  { id: 'time.back', label: 'One frame back', group: 'Time', shortcut: '←', run: () => step(-1) },
  { id: 'time.on', label: 'One frame on', group: 'Time', shortcut: '→', run: () => step(1) },
  { id: 'time.keyBack', label: 'To the key before', group: 'Time', shortcut: 'Shift+←', run: () => goToKey(-1) },
  { id: 'time.keyOn', label: 'To the next key', group: 'Time', shortcut: 'Shift+→', run: () => goToKey(1) },
  {
    id: 'time.first',
    label: 'To the first frame that plays',
    group: 'Time',
    shortcut: 'Home',
    run: withShot((shot) => usePlayhead.getState().go(shot.play.first)),
  },
  {
    id: 'time.last',
    label: 'To the last frame that plays',
    group: 'Time',
    shortcut: 'End',
    run: withShot((shot) => usePlayhead.getState().go(shot.play.last)),
  },
  {
    id: 'time.playFromHere',
    label: 'Play from this frame on',
    group: 'Time',
    shortcut: '[',
    run: withShot((shot) => run(setPlayRange, { play: { first: Math.round(frameNow()), last: shot.play.last } })),
  },
  {
    id: 'time.playToHere',
    label: 'Play up to this frame',
    group: 'Time',
    shortcut: ']',
    run: withShot((shot) => run(setPlayRange, { play: { first: shot.play.first, last: Math.round(frameNow()) } })),
  },
  {
    id: 'time.playAll',
    label: 'Play the whole range',
    group: 'Time',
    run: withShot((shot) => run(setPlayRange, { play: shot.range })),
  },
  { id: 'time.rate', label: 'Change the frame rate…', group: 'Time', run: () => useQuestion.getState().ask('rate') },
];
