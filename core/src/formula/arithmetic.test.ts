import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { canBeTyped, typedNumber } from './arithmetic.ts';

describe('a number that is typed', () => {
  test.each([
    ['2', 2],
    ['0,5', 0.5],
    ['−3.25', -3.25],
    ['.5', 0.5],
    [' 7 ', 7],
    ['1e9', 1e9],
    ['1E-3', 0.001],
    ['2*3', 6],
    ['1+2*3', 7],
    ['(1+2)*3', 9],
    ['10/4', 2.5],
    ['2--3', 5],
    ['+=0.1', 10.1],
    ['-=4', 6],
    ['−=4', 6],
    ['*=1/2', 5],
    ['/=4', 2.5],
    ['+=-1', 9],
  ])('%s is %f', (text, value) => {
    expect(typedNumber(text, 10)).toBeCloseTo(value, 12);
  });

  test.each([
    '',
    ' ',
    '-',
    'k',
    '2k',
    '1e',
    'e5',
    '--',
    '2 3',
    '2*',
    '*2',
    '(2',
    '2)',
    '1/0',
    '/=0',
    '+=',
    '==2',
    '=2',
    '1.2.3',
    'NaN',
    'Infinity',
    '0x10',
    '2;3',
    '2<3',
    '1e400',
    '()',
    'frame',
  ])('“%s” is none', (text) => {
    expect(typedNumber(text, 10)).toBeNull();
  });

  test('any number that is written comes back, and nothing that is typed throws', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }), (value) => {
        expect(typedNumber(String(value), 3)).toBe(value === 0 ? 0 : value);
      }),
    );
    const typed = fc.array(fc.constantFrom(...'0123456789.,+-−*/()eE= k')).map((parts) => parts.join(''));
    fc.assert(
      fc.property(typed, (text) => {
        const value = typedNumber(text, 1);
        expect(value === null || Number.isFinite(value)).toBe(true);
      }),
    );
  });

  test('letters cannot be typed into it, but an e after a digit', () => {
    for (const key of [...'0123456789.,+-−*/()=']) expect(canBeTyped(key, '')).toBe(true);
    for (const key of ['k', 'v', ' ', '[', 'ä', 'e']) expect(canBeTyped(key, '')).toBe(false);
    expect(canBeTyped('e', '1')).toBe(true);
    expect(canBeTyped('k', '2')).toBe(false);
  });
});
