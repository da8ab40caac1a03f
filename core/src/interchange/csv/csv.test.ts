import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Refused } from '../../schema/refused.ts';
import { readCurveTable } from './read.ts';
import { type CurveTable, tableForms } from './table.ts';
import { writeCurveTable } from './write.ts';

const name = fc.stringMatching(/^[A-Za-z ,";äß]{1,12}$/);
const number = fc.integer({ min: -1e9, max: 1e9 }).map((v) => v / 1e4);

const table: fc.Arbitrary<CurveTable> = fc
  .record({
    rate: fc.constantFrom(24, 25, 30, 60),
    first: fc.integer({ min: -50, max: 50 }),
    count: fc.integer({ min: 2, max: 12 }),
    columns: fc.uniqueArray(
      fc.record({
        member: name,
        channel: fc.constantFrom('move x', 'turn y', 'heel'),
        unit: fc.constantFrom('', 'm', '°' as const),
      }),
      {
        minLength: 1,
        maxLength: 5,
        selector: ({ member, channel }) => `${member}|${channel}`,
      },
    ),
    numbers: fc.array(number, { minLength: 60, maxLength: 60 }),
  })
  .map(({ rate, first, count, columns, numbers }) => ({
    rate,
    frames: Array.from({ length: count }, (_, f) => first + f),
    columns: columns.map((column, c) => ({ ...column, values: numbers.slice(c * count, (c + 1) * count) })),
  }));

describe.each(tableForms)('a table of curves, %s,', (form) => {
  test('comes in again as it went out, whatever names hold', () => {
    fc.assert(
      fc.property(table, (wanted) => {
        const again = readCurveTable(writeCurveTable(wanted, form));
        expect(again).toEqual(wanted);
      }),
    );
  });
});

test('is read with semicolons, other columns, empty lines and any ends of lines', () => {
  const text = '\uFEFFshot;frame;Float: move y (m);note\r\n1;1;0.5;up\n\n1;2;;\r1;3;1.5;down';
  expect(readCurveTable(text)).toEqual({
    rate: 24,
    frames: [1, 2, 3],
    columns: [{ member: 'Float', channel: 'move y', unit: 'm', values: [0.5, null, 1.5] }],
  });
});

test.each([
  ['', 'Line 1: it is no table of curves'],
  ['a,b\n1,2', 'Line 1: it is no table of curves'],
  ['frame,A: x\n1,2\n2,two', 'Line 3: A: x is “two”'],
  ['frame,A: x\n1,NaN', 'Line 2: A: x is “NaN”'],
  ['member,channel,frame,value\nA,x,one,2', 'Line 2: the frame is “one”'],
  ['frame,"A: x\n1,2', 'does not end'],
])('%j is refused: %s', (text, why) => {
  expect(() => readCurveTable(text)).toThrow(why);
});

test('a thousand spoilt tables are read or refused with a sentence', () => {
  const good = writeCurveTable(fc.sample(table, { numRuns: 1, seed: 3 })[0], 'long');
  fc.assert(
    fc.property(fc.nat({ max: good.length - 1 }), fc.nat({ max: 30 }), fc.string({ maxLength: 5 }), (at, cut, put) => {
      const text = good.slice(0, at) + put + good.slice(at + cut);
      try {
        const { frames, columns } = readCurveTable(text);
        for (const { values } of columns) expect(values).toHaveLength(frames.length);
      } catch (error) {
        expect(error).toBeInstanceOf(Refused);
      }
    }),
    { numRuns: 1000 },
  );
});
