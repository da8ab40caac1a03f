import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { sinCos } from './sin-cos.ts';

const out = new Float64Array(2);

test('sine and cosine are the language’s own to the last place or two, at every angle', () => {
  const angle = fc.oneof(
    fc.double({ min: -10, max: 10, noNaN: true }),
    fc.double({ min: -1e6, max: 1e6, noNaN: true }),
    // Where one of the two is next to nothing.
    fc
      .tuple(fc.integer({ min: -6000, max: 6000 }), fc.double({ min: -1e-9, max: 1e-9, noNaN: true }))
      .map(([quarters, by]) => (quarters * Math.PI) / 2 + by),
  );
  fc.assert(
    fc.property(angle, (x) => {
      sinCos(x, out, 0);
      expect(Math.abs(out[0] - Math.sin(x))).toBeLessThan(4.5e-16);
      expect(Math.abs(out[1] - Math.cos(x))).toBeLessThan(4.5e-16);
    }),
    { numRuns: 20_000 },
  );
});

test('quarter turns are as near to exact as the angle is', () => {
  for (let q = -8; q <= 8; q++) {
    sinCos((q * Math.PI) / 2, out, 0);
    expect([out[0], out[1]]).toEqual([
      expect.closeTo(Math.sin((q * Math.PI) / 2), 20),
      expect.closeTo(Math.cos((q * Math.PI) / 2), 20),
    ]);
  }
});

test('no number has no sine', () => {
  sinCos(Number.NaN, out, 0);
  expect([...out]).toEqual([Number.NaN, Number.NaN]);
  sinCos(Number.POSITIVE_INFINITY, out, 0);
  expect(out[0]).toBeNaN();
});
