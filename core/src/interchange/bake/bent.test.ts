import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Amounts, basisOf, MOST_SHAPES } from './bent.ts';

const numbers = (count: number) =>
  fc
    .array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: count, maxLength: count })
    .map((list) => Float64Array.from(list));

/** A form as a basis and amounts make it. */
function made({ base, shapes }: ReturnType<typeof basisOf>, amounts: Float64Array): Float64Array {
  return base.map((v, i) => shapes.reduce((sum, shape, k) => sum + amounts[k] * shape[i], v));
}

test('a form that only ever mixes three shapes is said by three, to a hair, with amounts from -1 to 1', () => {
  const mixes = fc.array(numbers(3), { minLength: 4, maxLength: 12 });
  fc.assert(
    fc.property(numbers(30), fc.tuple(numbers(30), numbers(30), numbers(30)), mixes, (base, shapes, all) => {
      const moments = all.map((mix) => base.map((v, i) => v + shapes.reduce((sum, s, k) => sum + mix[k] * s[i], 0)));
      const basis = basisOf(base, moments, 1e-6);
      expect(basis.shapes.length).toBeLessThanOrEqual(3);
      expect(basis.rest).toBeLessThanOrEqual(1e-6);
      const amounts = new Amounts(basis);
      for (const points of moments) {
        const own = new Float64Array(basis.shapes.length);
        amounts.write(points, own, 0);
        made(basis, own).forEach((v, i) => {
          expect(Math.abs(v - points[i])).toBeLessThan(2e-6);
        });
        for (const amount of own) expect(Math.abs(amount)).toBeLessThan(1 + 1e-9);
      }
    }),
  );
});

test('a form that never changes needs no shapes', () => {
  const base = Float64Array.of(1, 2, 3);
  expect(basisOf(base, [base, base], 1e-6).shapes).toEqual([]);
});

test('a form that never does the same twice is said as well as the most shapes can, and how far that is off is told', () => {
  const count = 3 * (MOST_SHAPES + 20);
  const base = new Float64Array(count);
  // Each moment lifts a point of its own.
  const moments = Array.from({ length: count / 3 }, (_, m) => base.map((_, i) => (i === m * 3 ? 1 : 0)));
  const basis = basisOf(base, moments, 1e-6);
  expect(basis.shapes).toHaveLength(MOST_SHAPES);
  expect(basis.rest).toBeCloseTo(1);
});
