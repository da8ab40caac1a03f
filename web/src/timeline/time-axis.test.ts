import { expect, test } from 'vitest';
import { panned, ruling, timeScale, zoomed } from './time-axis.ts';

test('zooming keeps the frame under the pointer where it is', () => {
  const span = { first: 1, last: 97 };
  const near = zoomed(span, 0.5, 25);
  expect(timeScale(near, 800)(25)).toBeCloseTo(timeScale(span, 800)(25), 9);
  expect(near.last - near.first).toBeCloseTo(48, 9);
  expect(zoomed(span, 1e-9, 25).last - zoomed(span, 1e-9, 25).first).toBe(3);
});

test('panning moves both ends', () => {
  expect(panned({ first: 1, last: 5 }, 2.5)).toEqual({ first: 3.5, last: 7.5 });
});

test('the ruling counts from frame 1 and never crowds', () => {
  const { step, frames } = ruling({ first: 0, last: 100 }, 900, 24);
  expect(frames[0]).toBe(1);
  expect(frames[1] - frames[0]).toBe(step);
  expect((step * 900) / 100).toBeGreaterThanOrEqual(46);
  expect(ruling({ first: 0, last: 100_000 }, 900, 24).frames.length).toBeLessThan(40);
});
