import fc from 'fast-check';
import { expect, test } from 'vitest';
import { isPlain, Names, plainName } from './names.ts';

test.each([
  ['Harbour wall', 'Harbour_wall'],
  ['Läufer n° 3', 'Laufer_n_3'],
  ['3 crates', 'n_3_crates'],
  ['  ', 'n'],
  ['../../etc/passwd', 'etc_passwd'],
])('"%s" becomes the plain name %s', (name, plain) => {
  expect(plainName(name)).toBe(plain);
});

test('any name becomes a plain one, and a plain one stays as it is', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 100 }), (name) => {
      const plain = plainName(name);
      expect(isPlain(plain)).toBe(true);
      expect(plainName(plain)).toBe(plain);
    }),
  );
});

test('each name is given once, plain or as it is', () => {
  const plain = new Names(true);
  expect(['Crate', 'crate', 'Crate', 'Crate 2'].map((n) => plain.give(n))).toEqual([
    'Crate',
    'crate',
    'Crate_2',
    'Crate_2_2',
  ]);
  const asTheyAre = new Names(false);
  expect(['Crate 1', 'Crate 1'].map((n) => asTheyAre.give(n))).toEqual(['Crate 1', 'Crate 1_2']);
});
