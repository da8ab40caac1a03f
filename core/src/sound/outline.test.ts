import fc from 'fast-check';
import { expect, test } from 'vitest';
import { outlineOf, outlinePart } from './index.ts';

/** Silence, then a tone whose loudness grows. */
const tone = (seconds: number, rate: number) =>
  Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) =>
    i / rate < 0.5 ? 0 : (0.9 * i * Math.sin((i / rate) * 2 * Math.PI * 200)) / (seconds * rate),
  );

test('an outline is as loud as the sound, wherever it is asked', () => {
  const rate = 8_000;
  const outline = outlineOf(tone(4, rate), rate, 100_000);
  expect(outline).toHaveLength(2 + 400);
  fc.assert(
    fc.property(fc.double({ min: 0.6, max: 3.4, noNaN: true }), (at) => {
      const [there] = outlinePart(outline, at, at + 0.1, 1);
      expect(there).toBeGreaterThan((0.9 * at) / 4 - 0.01);
      expect(there).toBeLessThan((0.9 * (at + 0.12)) / 4 + 0.01);
    }),
  );
  expect([...outlinePart(outline, 0, 0.4, 4)]).toEqual([0, 0, 0, 0]);
  expect([...outlinePart(outline, 5, 6, 3)]).toEqual([0, 0, 0]);
});

test('of a long sound there are fewer points a second, and never more bytes than there may be', () => {
  const rate = 1_000;
  const [long, most] = [tone(120, rate), 600];
  const outline = outlineOf(long, rate, most);
  expect(outline.length).toBeLessThanOrEqual(most);
  const [early, late] = outlinePart(outline, 20, 100, 2);
  expect(early).toBeCloseTo((0.9 * 60) / 120, 1);
  expect(late).toBeCloseTo((0.9 * 100) / 120, 1);
});
