import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offTheFall } from './flight-falls.ts';
import { depthIn } from './pieces.ts';

describe('a flight', () => {
  const fallen = (rate: number, frames: number, v: number, g: number) =>
    Float64Array.from({ length: frames + 1 }, (_, i) => 1 + (v * i) / rate - (g * (i / rate) ** 2) / 2);

  test('that is thrown is on the way it falls, at any rate', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(12, 24, 25, 60),
        fc.integer({ min: 4, max: 60 }),
        fc.double({ min: -6, max: 6, noNaN: true }),
        (rate, n, v) => {
          expect(Math.abs(offTheFall(fallen(rate, n, v, 9.81), 0, n, rate).off)).toBeLessThan(1e-9);
        },
      ),
    );
  });

  test('under another weight is off by what the weights differ over its time, at its middle', () => {
    // g t² / 8 is how high a flight of t seconds goes: a sixth of the weight misses five sixths of that.
    const { at, off } = offTheFall(fallen(24, 24, 0, 9.81 / 6), 0, 24, 24);
    expect(at).toBe(12);
    expect(off).toBeCloseTo((-9.81 * (5 / 6)) / 8, 9);
    expect(offTheFall(fallen(24, 24, 0, 2 * 9.81), 0, 24, 24).off).toBeCloseTo(9.81 / 8, 9);
  });
});

describe('how deep a place is', () => {
  /** Turned by a quarter about the vertical, twice as large, and moved: columns of a matrix. */
  const world = Float64Array.of(0, 0, -2, 0, 0, 2, 0, 0, 2, 0, 0, 0, 3, 1, -2, 1);
  const box = { form: 'box', world, min: [-0.5, 0, -0.1], max: [0.5, 0.4, 0.1] } as const;

  test('in a box is the way out through its nearest side', () => {
    // Its width of a metre lies along the depth of the stage now, two metres long.
    expect(depthIn(box, 3, 1.4, -2)).toBeCloseTo(0.2, 9);
    expect(depthIn(box, 3.15, 1.4, -2)).toBeCloseTo(0.05, 9);
    expect(depthIn(box, 3, 1.4, -2.9)).toBeCloseTo(0.1, 9);
    expect(depthIn(box, 3, 1.9, -2)).toBeCloseTo(-0.1, 9);
  });

  test('in what is round is the way to its hull', () => {
    const at = (x: number, y: number, z: number) => Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1);
    const ball = { form: 'ball', world: at(1, 1, 1), min: [-0.5, -0.5, -0.5], max: [0.5, 0.5, 0.5] } as const;
    const drum = { form: 'cylinder', world: at(0, 0, 0), min: [-0.5, 0, -0.5], max: [0.5, 2, 0.5] } as const;
    const place = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(place, place, place, (x, y, z) => {
        expect(depthIn(ball, 1 + x, 1 + y, 1 + z)).toBeCloseTo(0.5 - Math.hypot(x, y, z), 9);
        expect(depthIn(drum, x, y, z)).toBeCloseTo(Math.min(0.5 - Math.hypot(x, z), y, 2 - y), 9);
      }),
    );
  });
});
