import type { Key } from '../curve/key.ts';
import { levelKey } from './keys.ts';
import type { Kit, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';
import { EVERY, movesInto, nearestMove, stopsThere } from './moves.ts';

/** Lets a move swing past its end and come to rest in ever smaller swings. */
export const settle: Kit = {
  id: 'settle',
  name: 'Settle',
  about: 'After a move: past its end, back, and to rest in ever smaller swings, each the same share of the last.',
  fields: [
    { kind: 'channel', name: 'channel', label: 'channel', start: EVERY },
    frameField('at', 'move ends at'),
    {
      kind: 'number',
      name: 'swing',
      label: 'first swing',
      hint: 'as a share of the move',
      unit: '%',
      min: -200,
      max: 200,
      step: 1,
      start: 20,
    },
    { kind: 'number', name: 'swings', label: 'swings', min: 1, max: 24, step: 1, start: 3, whole: true },
    {
      kind: 'number',
      name: 'decay',
      label: 'decay',
      hint: 'each swing is this share of the last',
      min: 0,
      max: 0.95,
      step: 0.05,
      start: 0.5,
    },
    {
      kind: 'number',
      name: 'frames',
      label: 'takes',
      unit: 'frames',
      min: 2,
      max: 500,
      step: 1,
      start: 14,
      whole: true,
    },
  ],
  suggest: (shot, member, frame) => ({ at: nearestMove(shot, member, frame, 'to') }),
  write({ shot, member, settings }): Written {
    const at = numberOf(settings, 'at');
    const moves = movesInto(shot, member, String(settings.channel), at);
    if (moves.length === 0)
      return { problem: `Nothing of it arrives at a key on frame ${at}: choose a frame where a move ends.` };
    const [swings, frames] = [numberOf(settings, 'swings'), numberOf(settings, 'frames')];
    const keys: Record<string, Key[]> = {};
    for (const move of moves) {
      const first = ((move.end - move.start) * numberOf(settings, 'swing')) / 100;
      keys[move.path] = swingsTo(move.end, first, numberOf(settings, 'decay'), at, swings, frames);
    }
    return { keys, note: stopsThere(moves, at) };
  },
};

/**
 * The turning points of a swing that dies away about a value, and its rest. They stand at odd parts of a half swing each, where a
 * spring's would, on whole frames as far as there are enough of them.
 */
export function swingsTo(
  rest: number,
  first: number,
  decay: number,
  from: number,
  swings: number,
  frames: number,
): Key[] {
  const half = frames / swings;
  const turns = Array.from({ length: swings }, (_, k) => {
    const exact = from + (k + 0.5) * half;
    return levelKey(half >= 2 ? Math.round(exact) : exact, rest + (k % 2 === 0 ? 1 : -1) * first * decay ** k);
  });
  return [...turns, levelKey(from + frames, rest)];
}
