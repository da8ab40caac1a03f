import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { handleSlope } from '../curve/handles.ts';
import type { Key, NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { type Clip, plainManner } from '../document/clip.ts';
import { laidOut } from './circle.ts';
import { shifted, withSeam } from './shift.ts';

const clip: Clip = {
  id: 'walk',
  rig: 'porter',
  name: 'Walk',
  first: 1,
  length: 24,
  cycles: true,
  travel: 0,
  travelling: false,
  halves: 'mirrored',
  labels: [],
  stances: {},
  way: null,
  manner: plainManner,
  follows: {},
  kept: null,
};

/** A curve of the clip with smooth, flat and straight keys at any of its frames, two at least. */
const anyCurve: fc.Arbitrary<NumberCurve> = fc
  .uniqueArray(
    fc.record({
      // Often at the seam and with nothing in one half: there a key that is put in has the seam for its neighbour.
      phase: fc.oneof(
        fc.constant(0),
        fc.integer({ min: 0, max: clip.length / 2 }),
        fc.integer({ min: 0, max: clip.length - 1 }),
      ),
      value: fc.integer({ min: -20, max: 20 }),
      kind: fc.constantFrom('smooth', 'smooth', 'flat', 'linear'),
    }),
    { selector: (k) => k.phase, minLength: 2, maxLength: 5 },
  )
  .map((list) => {
    const circle = new Map(
      list.map(({ phase, value, kind }): [number, Key] => [
        phase,
        {
          frame: clip.first + phase,
          value,
          in: { kind } as Key['in'],
          out: { kind } as Key['out'],
          joined: true,
          role: 'key',
        },
      ]),
    );
    return laidOut(circle, 'number', clip) as NumberCurve;
  });

const roundOf = (curve: NumberCurve): number[] => {
  const reader = new CurveReader(curve);
  return Array.from({ length: 4 * clip.length + 1 }, (_, i) => reader.at(clip.first + i / 4));
};

describe('a key at the seam', () => {
  test('changes nothing anywhere, and where the curve is smooth there its speed goes through', () => {
    fc.assert(
      fc.property(anyCurve, fc.constantFrom('mirrored' as const, 'free' as const), (curve, halves) => {
        const sealed = withSeam(curve, { ...clip, halves }) as NumberCurve;
        expect(sealed.keys[0].frame).toBe(clip.first);
        expect(sealed.keys.at(-1)!.frame).toBe(clip.first + clip.length);
        if (halves === 'mirrored') expect(sealed.keys.some((k) => k.frame === clip.first + clip.length / 2)).toBe(true);
        for (const [i, v] of roundOf(sealed).entries()) expect(v).toBeCloseTo(roundOf(curve)[i], 9);
        if (curve.keys.every((k) => k.out.kind !== 'linear')) {
          const slope = (i: number, side: 'in' | 'out') => handleSlope(sealed, i, side);
          expect(slope(sealed.keys.length - 1, 'in')).toBeCloseTo(slope(0, 'out'), 9);
        }
      }),
      { numRuns: 300 },
    );
  });

  test('goes along when a curve is shifted, and back again it is what it was', () => {
    fc.assert(
      fc.property(anyCurve, fc.integer({ min: -40, max: 40 }), (curve, by) => {
        const moved = shifted(curve, clip, by) as NumberCurve;
        const before = new CurveReader(curve);
        const after = new CurveReader(moved);
        for (let f = clip.first; f < clip.first + clip.length; f += 0.5)
          expect(after.at(f + by)).toBeCloseTo(before.at(f), 9);
      }),
    );
  });
});
