import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose } from '../../pose/affine.ts';
import { quaternion } from '../../testing/arbitraries.ts';
import { slantOf, writePlace } from './mover.ts';

const size = fc.double({ min: 0.05, max: 20, noNaN: true });
const place = fc.tuple(
  fc.integer({ min: -50, max: 50 }),
  fc.integer({ min: -50, max: 50 }),
  fc.integer({ min: -50, max: 50 }),
);

/** A matrix that sizes, turns and moves, in this order. */
function matrixOf(q: readonly number[], sizes: readonly number[], at: readonly number[]): Float64Array {
  const m = new Float64Array(16);
  const length = Math.hypot(...q);
  compose(
    m,
    0,
    Float64Array.from(q, (v) => v / length),
    0,
    1,
    at[0],
    at[1],
    at[2],
  );
  for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) m[c * 4 + r] *= sizes[c];
  return m;
}

test('a matrix is taken apart into a move, a turn and a size that make it again, mirrored or not', () => {
  fc.assert(
    fc.property(quaternion, fc.tuple(size, size, size), fc.boolean(), place, (q, sizes, mirrored, at) => {
      const m = matrixOf(q, mirrored ? [-sizes[0], sizes[1], sizes[2]] : sizes, at);
      const out = new Float64Array(10);
      writePlace(m, 0, out, 0);
      const again = matrixOf([...out.subarray(3, 7)], [...out.subarray(7)], [...out.subarray(0, 3)]);
      m.forEach((v, i) => {
        expect(Math.abs(again[i] - v)).toBeLessThan(1e-9);
      });
      expect(Math.hypot(...out.subarray(3, 7))).toBeCloseTo(1, 12);
    }),
  );
});

test('a matrix is slanted by as much as two of its columns lean to one another', () => {
  const square = matrixOf([0.2, 0.5, 0.1, 0.8], [1, 2, 3], [4, 5, 6]);
  expect(slantOf(square, 0)).toBeLessThan(1e-12);
  // A shear by 30°.
  const slanted = Float64Array.of(
    1,
    0,
    0,
    0,
    Math.sin(Math.PI / 6),
    Math.cos(Math.PI / 6),
    0,
    0,
    0,
    0,
    1,
    0,
    0,
    0,
    0,
    1,
  );
  expect(slantOf(slanted, 0)).toBeCloseTo(0.5, 12);
});
