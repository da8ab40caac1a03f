import type { Key } from '../curve/key.ts';
import { levelKey } from './keys.ts';
import type { Kit, Written } from './kit.ts';
import { frameField, numberOf } from './kit.ts';
import { EVERY, movesFrom, nearestMove } from './moves.ts';

/** Draws back before a move: against it, and slower than it. */
export const gather: Kit = {
  id: 'gather',
  name: 'Gather',
  about: 'Before a move: draws back against it, slower than the move itself, and holds for a moment.',
  fields: [
    { kind: 'channel', name: 'channel', label: 'channel', start: EVERY },
    frameField('at', 'move begins at'),
    {
      kind: 'number',
      name: 'back',
      label: 'back by',
      hint: 'as a share of the move',
      unit: '%',
      min: 0,
      max: 200,
      step: 1,
      start: 15,
    },
    {
      kind: 'number',
      name: 'frames',
      label: 'takes',
      unit: 'frames',
      min: 2,
      max: 200,
      step: 1,
      start: 7,
      whole: true,
    },
    {
      kind: 'number',
      name: 'hold',
      label: 'holds',
      hint: 'at its farthest, before it lets go',
      unit: 'frames',
      min: 0,
      max: 100,
      step: 1,
      start: 1,
      whole: true,
    },
  ],
  suggest: (shot, member, frame) => ({ at: nearestMove(shot, member, frame, 'from') }),
  write({ shot, member, settings }): Written {
    const at = numberOf(settings, 'at');
    const moves = movesFrom(shot, member, String(settings.channel), at);
    if (moves.length === 0)
      return { problem: `No move of it begins at a key on frame ${at}: choose a frame where one does.` };
    const [frames, hold] = [numberOf(settings, 'frames'), numberOf(settings, 'hold')];
    const keys: Record<string, Key[]> = {};
    for (const { path, start, end } of moves) {
      const far = start - ((end - start) * numberOf(settings, 'back')) / 100;
      // Farthest a frame before the move, so that the key it begins on is gone through at speed.
      const turn = at - 1;
      const held = hold > 0 && frames - 1 - hold >= 1 ? [levelKey(turn - hold, far)] : [];
      keys[path] = [levelKey(at - frames, start), ...held, levelKey(turn, far)];
    }
    return { keys };
  },
};
