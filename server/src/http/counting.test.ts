import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Counting } from './counting.ts';

/** What is refused of a text that comes in pieces of so many bytes; null where nothing is. */
const refusal = (text: string, piece = 65_536): unknown => {
  const bytes = Buffer.from(text);
  const counting = new Counting();
  try {
    for (let i = 0; i < bytes.length; i += piece) counting.take(bytes.subarray(i, i + piece));
    return null;
  } catch (error) {
    return (error as { body: { error: string } }).body.error;
  }
};
const list = (count: number, of: string) => `[${Array(count).fill(of).join(',')}]`;
const record = (count: number) => `{${Array.from({ length: count }, (_, i) => `"m${i}":1`).join(',')}}`;

describe('JSON is counted while it comes in', () => {
  test.each([
    ['deep', 40, (n: number) => '['.repeat(n) + ']'.repeat(n), 'What was sent is nested more than 40 deep.'],
    ['parts', 29, (n: number) => list(n, list(100_000, '1')), 'What was sent has more than 3,000,000 parts.'],
    ['in a list', 200_000, (n: number) => list(n, '0'), 'What was sent has a list of more than 200,000.'],
    ['names in a record', 50_000, record, 'What was sent has more than 50,000 names in a record.'],
    // The first thousand of each record are not counted.
    [
      'times ten thousand names',
      12,
      (n: number) => list(n, record(11_000)),
      'What was sent has more than 120,000 names.',
    ],
    ['in a text', 100_000, (n: number) => `["${'x'.repeat(n)}"]`, 'What was sent has a text of more than 100 KB.'],
    ['in a text', 50_000, (n: number) => `["${'\\"'.repeat(n)}"]`, 'What was sent has a text of more than 100 KB.'],
  ])('so many %s are taken and one more is not: %i', (_, most, make, sentence) => {
    expect(refusal(make(most))).toBeNull();
    expect(refusal(make(most + 1))).toBe(sentence);
  });

  test('it is refused at the first that is too much, however much would follow', () => {
    const counting = new Counting();
    counting.take(Buffer.from('["'));
    const piece = Buffer.alloc(50_000, 'x');
    counting.take(piece);
    counting.take(piece);
    expect(() => counting.take(Buffer.from('x'))).toThrow('100 KB');
  });

  test('many small records are taken, however many names they have together', () => {
    expect(refusal(list(100_000, '{"frame":1,"value":0,"in":{"kind":"smooth"}}'))).toBeNull();
  });

  test('it counts the same however it is cut into pieces, and texts with what looks like more do not mislead it', () => {
    const tricky = fc.constantFrom('[[[[', '{"', '\\', '\\"', '"', ',,,', '∿', 'x');
    const texts = fc.array(tricky).map((parts) => parts.join(''));
    // Forty levels about each: one more anywhere would be refused.
    fc.assert(
      fc.property(texts, fc.integer({ min: 1, max: 9 }), (text, piece) => {
        const inner = JSON.stringify({ a: text, [text]: [] });
        const [open, close] = ['['.repeat(38), ']'.repeat(38)];
        expect(refusal(open + inner + close, piece)).toBeNull();
        expect(refusal(`[${open}${inner}${close}]`, piece)).toContain('40 deep');
      }),
    );
  });
});
