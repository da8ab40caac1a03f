import type { Key } from '../curve/key.ts';
import { levelKey } from './keys.ts';
import type { Kit, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';
import { EVERY, movesInto, nearestMove, stopsThere } from './moves.ts';

/** Lets a move go past its end and come back once. */
export const overshoot: Kit = {
  id: 'overshoot',
  name: 'Overshoot',
  about: 'A move goes a little past its end and comes back to it, once.',
  fields: [
    { kind: 'channel', name: 'channel', label: 'channel', start: EVERY },
    frameField('at', 'move ends at'),
    {
      kind: 'number',
      name: 'past',
      label: 'past it by',
      hint: 'as a share of the move',
      unit: '%',
      min: 0,
      max: 200,
      step: 1,
      start: 12,
    },
    {
      kind: 'number',
      name: 'out',
      label: 'frames past',
      unit: 'frames',
      min: 1,
      max: 100,
      step: 1,
      start: 2,
      whole: true,
    },
    {
      kind: 'number',
      name: 'back',
      label: 'frames back',
      unit: 'frames',
      min: 1,
      max: 200,
      step: 1,
      start: 4,
      whole: true,
    },
  ],
  suggest: (shot, member, frame) => ({ at: nearestMove(shot, member, frame, 'to') }),
  write({ shot, member, settings }): Written {
    const at = numberOf(settings, 'at');
    const moves = movesInto(shot, member, String(settings.channel), at);
    if (moves.length === 0)
      return { problem: `Nothing of it arrives at a key on frame ${at}: choose a frame where a move ends.` };
    const turn = at + numberOf(settings, 'out');
    const keys: Record<string, Key[]> = {};
    for (const { path, start, end } of moves) {
      const past = ((end - start) * numberOf(settings, 'past')) / 100;
      keys[path] = [levelKey(turn, end + past), levelKey(turn + numberOf(settings, 'back'), end)];
    }
    return { keys, note: stopsThere(moves, at) };
  },
};
