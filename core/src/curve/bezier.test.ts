import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bezierParameter } from './bezier.ts';
import { compileCurve } from './compile.ts';
import type { NumberCurve } from './key.ts';
import { valueAt } from './sample.ts';

/**
 * The reference: the same Bézier solved by bisection in fixed point with 240 binary digits, from the control points as
 * they are given, with none of the code under test.
 */
const DIGITS = 240n;
const ONE = 1n << DIGITS;

/** A double as fixed point, exactly (doubles are binary fractions). */
function exact(x: number): bigint {
  let shift = 0n;
  let v = x;
  while (!Number.isInteger(v)) {
    v *= 2;
    shift++;
  }
  return (BigInt(v) << DIGITS) >> shift;
}
const times = (a: bigint, b: bigint) => (a * b) >> DIGITS;

function cubic(p0: bigint, p1: bigint, p2: bigint, p3: bigint, u: bigint): bigint {
  const v = ONE - u;
  const uu = times(u, u);
  const vv = times(v, v);
  return (
    times(times(vv, v), p0) + 3n * times(times(vv, u), p1) + 3n * times(times(v, uu), p2) + times(times(uu, u), p3)
  );
}

function reference(x: readonly number[], y: readonly number[], at: number): number {
  const [x0, x1, x2, x3] = x.map(exact);
  const [y0, y1, y2, y3] = y.map(exact);
  const target = exact(at);
  let low = 0n;
  let high = ONE;
  for (let i = 0; i < 230; i++) {
    const middle = (low + high) >> 1n;
    if (cubic(x0, x1, x2, x3, middle) < target) low = middle;
    else high = middle;
  }
  // Back to a double through a difference to the first value, so that the reference itself loses no digits.
  return Number(cubic(y0, y1, y2, y3, low) - y0) / Number(ONE) + y[0];
}

const segment = (
  frames: number,
  from: number,
  to: number,
  out: readonly [number, number],
  into: readonly [number, number],
): NumberCurve => ({
  type: 'number',
  before: 'hold',
  after: 'hold',
  keys: [
    {
      frame: 1,
      value: from,
      in: { kind: 'flat' },
      out: { kind: 'free', frames: out[0], rise: out[1] },
      joined: false,
      role: 'key',
    },
    {
      frame: 1 + frames,
      value: to,
      in: { kind: 'free', frames: into[0], rise: into[1] },
      out: { kind: 'flat' },
      joined: false,
      role: 'key',
    },
  ],
});

describe('a Bézier segment', () => {
  // Handles of no length and of (almost) full length are the hard cases, so they are drawn often.
  const share = fc.oneof(fc.double({ min: 0, max: 0.999, noNaN: true }), fc.constantFrom(0, 1e-9, 0.5, 0.999));
  const height = fc.double({ min: -50, max: 50, noNaN: true });

  test('agrees with a high-precision solution to 1e-9 of its range', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 64 }),
        height,
        height,
        share,
        height,
        share,
        height,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (frames, from, to, reachOut, riseOut, reachIn, riseIn, where) => {
          const out = [frames * reachOut, riseOut] as const;
          const into = [frames * reachIn, riseIn] as const;
          const at = 1 + where * frames;
          const heights = [from, from + riseOut, to + riseIn, to];
          const range = Math.max(...heights) - Math.min(...heights);
          const expected = reference([1, 1 + out[0], 1 + frames - into[0], 1 + frames], heights, at);
          const got = valueAt(segment(frames, from, to, out, into), at);
          expect(Math.abs(got - expected)).toBeLessThanOrEqual(1e-9 * range + 1e-12);
        },
      ),
      { numRuns: 400 },
    );
  });

  test('with both handles at almost full reach still agrees next to its steepest point', () => {
    const curve = segment(10, 0, 1, [9.99999, 0], [9.99999, 0]);
    for (const at of [5.9, 5.999999, 6, 6.000001, 6.1]) {
      const expected = reference([1, 1 + 9.99999, 11 - 9.99999, 11], [0, 0, 1, 1], at);
      expect(Math.abs(valueAt(curve, at) - expected)).toBeLessThanOrEqual(1e-9);
    }
  });

  test('never lets time run backwards, however long the handles', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 500, noNaN: true }),
        (a, b) => {
          const [x1, x2] = compileCurve(segment(8, 0, 1, [a, 3], [b, -2])).segments;
          let before = 0;
          for (let i = 0; i <= 200; i++) {
            const s = i / 200;
            const u = bezierParameter(x1, x2, s, 1 - s);
            expect(u).toBeGreaterThanOrEqual(before);
            before = u;
          }
          expect(before).toBe(1);
        },
      ),
    );
  });

  test('shortens a handle that is too long along its own direction', () => {
    const long = segment(10, 0, 0, [40, 8], [0, 0]);
    const fitting = segment(10, 0, 0, [9.99999, 8 / 4.000004], [0, 0]);
    expect(valueAt(long, 4)).toBeCloseTo(valueAt(fitting, 4), 8);
  });
});
