import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readJson } from './json.ts';

const bytes = (text: string) => Buffer.from(text);
const refusal = (text: string): unknown => {
  try {
    readJson(bytes(text));
    return null;
  } catch (error) {
    return (error as { body: unknown }).body;
  }
};

describe('JSON from outside', () => {
  test('is read as what it is, whatever its texts hold', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const text = JSON.stringify(value);
        expect(readJson(bytes(text))).toEqual(JSON.parse(text));
      }),
    );
    expect(readJson(bytes(String.raw`{"a":"[[[[\"{,\\","b":[1,2]}`))).toEqual({ a: '[[[["{,\\', b: [1, 2] });
  });

  test('is refused where it is none', () => {
    for (const text of ['', '{', '[1,]', '{"a"}', ']]]]', '"half'])
      expect(refusal(text)).toEqual({ error: 'What was sent is not JSON.' });
    expect(() => readJson(Uint8Array.of(0x22, 0xff, 0xfe, 0x22))).toThrow('What was sent is not JSON.');
  });

  test.each([
    ['forty-one deep', '['.repeat(41) + ']'.repeat(41), 'What was sent is nested more than 40 deep.'],
    ['of very many parts', `[${'[],'.repeat(1_600_000)}1]`, 'What was sent has more than 3,000,000 parts.'],
    [
      'of records with very many names',
      `{${Array.from({ length: 160_000 }, (_, i) => `"m${i}":1`).join(',')}}`,
      'What was sent has more than 120,000 names.',
    ],
    ['of very long texts', `["${'x'.repeat(100_001)}"]`, 'What was sent has a text of more than 100 KB.'],
  ])('%s is refused before anything is made of it', (_, text, error) => {
    expect(refusal(text)).toEqual({ error });
  });

  test('of many small records is read, however many names they have together', () => {
    const key = '{"frame":1,"value":0,"in":{"kind":"smooth"}}';
    expect(readJson(bytes(`[${Array(100_000).fill(key).join(',')}]`))).toHaveLength(100_000);
  });
});
