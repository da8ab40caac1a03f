import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { readJson } from './json.ts';

test('JSON from outside is read as what it is', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const text = JSON.stringify(value);
      expect(readJson(Buffer.from(text))).toEqual(JSON.parse(text));
    }),
  );
});

test('what is no JSON is refused', () => {
  for (const text of ['', '{', '[1,]', '{"a"}', ']]]]', '"half'])
    expect(() => readJson(Buffer.from(text))).toThrow('What was sent is not JSON.');
  expect(() => readJson(Uint8Array.of(0x22, 0xff, 0xfe, 0x22))).toThrow('What was sent is not JSON.');
});
