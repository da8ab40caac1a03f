import { addMember, emptyShot, newMember, type Shot } from '@varrup/core';
import { expect, test } from 'vitest';
import { motionBounds, tellingFrames } from './motion-bounds.ts';
import { evaluator } from './picture.ts';

/** A ball of 0.1 m that rises straight from 0 to 2 m, with a key at so many frames. */
function rising(keys: number): Shot {
  const empty = emptyShot('s', 'Rising');
  const start = addMember.apply(empty, { member: newMember(empty, { id: 'b', kind: 'ball' }) });
  const handle = { kind: 'linear' } as const;
  const list = Array.from({ length: keys }, (_, i) => ({
    frame: 1 + (95 * i) / (keys - 1),
    value: (2 * i) / (keys - 1),
    in: handle,
    out: handle,
    joined: true,
    role: 'key' as const,
  }));
  const curve = { type: 'number', keys: list, before: 'hold', after: 'hold' } as const;
  return { ...start, curves: start.curves.with('b.move.y', curve) };
}

test.each([2, 40, 5000])('all that a motion of %i keys passes through lies in its bounds', (keys) => {
  const shot = rising(keys);
  const { min, max } = motionBounds(shot, evaluator(shot), ['b']);
  const radius = (max.x - min.x) / 2;
  expect(radius).toBeGreaterThan(0.05);
  expect(min.y).toBeCloseTo(-radius, 6);
  expect(max.y).toBeCloseTo(2 + radius, 6);
});

test('few frames are looked at, however many keys or frames there are', () => {
  expect(tellingFrames(rising(5000), ['b']).length).toBeLessThan(100);
  const long = { ...rising(2), play: { first: -200_000, last: 200_000 } };
  const frames = tellingFrames(long, ['b']);
  expect(frames.length).toBeLessThan(100);
  expect(frames).toEqual(expect.arrayContaining([-200_000, 1, 96, 200_000]));
});
