import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { outside, rangeWords, readNumber, written } from './number-range.ts';

const metres = { min: -10_000, max: 10_000, unit: 'm' };
const frames = { min: 1, max: 200, whole: true };

test.each([
  ['2', 0.5, metres, { value: 2 }],
  ['+=0.1', 0.5, metres, { value: 0.6 }],
  ['2*3', 0, frames, { value: 6 }],
  ['1e9', 0, metres, { refused: '1,000,000,000 m is too much: from −10,000 to 10,000 m it may be.' }],
  ['-1e9', 0, metres, { refused: '−1,000,000,000 m is too little: from −10,000 to 10,000 m it may be.' }],
  ['-5', 1, frames, { refused: '−5 is too little: whole numbers from 1 to 200 it may be.' }],
  ['2.5', 1, frames, { refused: '2.5 is not whole: whole numbers from 1 to 200 it may be.' }],
  ['', 1, frames, { refused: '“” is no number: whole numbers from 1 to 200 it may be.' }],
  ['2k', 1, metres, { refused: '“2k” is no number: from −10,000 to 10,000 m it may be.' }],
])('%s, typed over %f', (text, now, range, read) => {
  expect(readNumber(text, now, range)).toEqual(read);
});

test('what is taken always lies in the range, and a range says its ends', () => {
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), fc.boolean(), (value, whole) => {
      const range = { min: -3, max: 7.5, whole };
      const fits = value >= -3 && value <= 7.5 && (!whole || Number.isInteger(value));
      expect(outside(value, range) === null).toBe(fits);
    }),
  );
  expect(rangeWords({ min: 0.001, max: 1e6 })).toBe('from 0.001 to 1,000,000');
});

test('numbers are written with a real minus, and zero without one', () => {
  expect([written(-1.25, 1), written(-0.0001, 3), written(2, 0)]).toEqual(['−1.3', '0.000', '2']);
});
