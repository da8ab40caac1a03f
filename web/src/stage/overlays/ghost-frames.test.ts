import { addMember, emptyShot, newMember, type Shot, smoothKey, Table } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { ghostFrames } from './ghost-frames.ts';

const bare = emptyShot('s', 'S');
const shot: Shot = {
  ...addMember.apply(bare, { member: newMember(bare, { kind: 'ball', id: 'ball' }) }),
  curves: Table.of({
    'ball.move.y': {
      type: 'number',
      keys: [1, 9, 17, 30].map((f) => smoothKey(f, f % 5)),
      before: 'hold',
      after: 'hold',
    },
  }),
};
const onion = { on: true, before: 2, after: 3, every: 4, look: 'shapes', who: 'picked' } as const;
const frames = (now: number, more: object = {}) => ghostFrames(shot, ['ball'], now, { ...onion, ...more });

describe('the frames of an onion skin', () => {
  test('are so many before and after, so many frames apart, in the order of time', () => {
    expect(frames(20).map((g) => [g.frame, g.side])).toEqual([
      [12, 'before'],
      [16, 'before'],
      [24, 'after'],
      [28, 'after'],
      [32, 'after'],
    ]);
  });

  test('are stronger the nearer they are', () => {
    const [far, near, next, later] = frames(20);
    expect(near.strength).toBeGreaterThan(far.strength);
    expect(next.strength).toBeGreaterThan(later.strength);
  });

  test('can be those with keys alone', () => {
    expect(frames(10, { every: 'keys' }).map((g) => g.frame)).toEqual([1, 9, 17, 30]);
    expect(frames(9, { every: 'keys' }).map((g) => g.frame)).toEqual([1, 17, 30]);
  });

  test('do not leave the shot', () => {
    expect(frames(2).map((g) => g.frame)).toEqual([6, 10, 14]);
    expect(frames(95).filter((g) => g.side === 'after')).toEqual([]);
  });
});
