import { emptyShot } from '@varrup/core';
import { expect, test } from 'vitest';
import { fileName, readFrames, spread } from './job.ts';

test('a file is named after its shot, in signs every system takes', () => {
  expect(fileName(emptyShot('s', '01 Float on the steps'), 'mp4')).toBe('01-float-on-the-steps.mp4');
  expect(fileName(emptyShot('s', 'Vågen / übers: Wasser?'), 'png', 'frame-12')).toBe('vagen-ubers-wasser-frame-12.png');
  expect(fileName(emptyShot('s', '???'), 'webm')).toBe('shot.webm');
});

test('frames are spread evenly, ends included, none twice', () => {
  expect(spread(1, 25, 4)).toEqual([1, 9, 17, 25]);
  expect(spread(1, 3, 12)).toEqual([1, 2, 3]);
  expect(spread(5, 5, 12)).toEqual([5]);
});

test('frames can be written as people write them, and what cannot be read is said', () => {
  const within = { first: 1, last: 48 };
  expect(readFrames('24, 1 13–15 13', within)).toEqual([1, 13, 14, 15, 24]);
  expect(readFrames('twelve', within)).toMatch(/“twelve” is not a frame/);
  expect(readFrames('40-60', within)).toMatch(/reaches outside/);
  expect(readFrames('9-3', within)).toMatch(/ends before/);
  expect(readFrames('', within)).toMatch(/Name the frames/);
});
