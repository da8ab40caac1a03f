import { expect, test } from 'vitest';
import { isPassed } from './passed.ts';

const shot = { play: { first: 1, last: 24 } };

test('a sound is heard once as the play head comes to it or over it, and not again while it stands there', () => {
  expect(isPassed(12, 11, 12, shot)).toBe(true);
  expect(isPassed(12, 10, 14, shot)).toBe(true);
  expect(isPassed(12, 12, 13, shot)).toBe(false);
  expect(isPassed(12, 12, 12, shot)).toBe(false);
});

test('round the end of the range the last frames count, and the first', () => {
  expect(isPassed(24, 22, 2, shot)).toBe(true);
  expect(isPassed(1, 22, 2, shot)).toBe(true);
  expect(isPassed(12, 22, 2, shot)).toBe(false);
});
