import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Key, type NumberCurve, SAME_FRAME } from '../curve/key.ts';
import { valueAt } from '../curve/sample.ts';
import { thinned } from '../curve/thin.ts';
import { corrected } from './corrected.ts';

const key = (frame: number, value: number, kind: 'smooth' | 'flat' | 'linear' = 'smooth'): Key => ({
  frame,
  value,
  in: { kind },
  out: { kind },
  joined: true,
  role: 'key',
});
const curve = (...keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });

const anyCurve = fc
  .uniqueArray(
    fc.record({
      frame: fc.integer({ min: 0, max: 60 }),
      value: fc.double({ min: -2, max: 2, noNaN: true }),
      kind: fc.constantFrom('smooth' as const, 'flat' as const, 'linear' as const),
    }),
    { minLength: 1, maxLength: 7, selector: (k) => k.frame },
  )
  .map((list) => curve(...list.sort((a, b) => a.frame - b.frame).map((k) => key(k.frame, k.value, k.kind))));

describe('own keys over a curve', () => {
  test('are what they say on their frames', () => {
    fc.assert(
      fc.property(anyCurve, anyCurve, (own, given) => {
        const made = corrected(own, given);
        for (const k of own.keys) expect(valueAt(made, k.frame)).toBeCloseTo(k.value, 6);
      }),
    );
  });

  test('that differ by the same everywhere leave its shape as it is', () => {
    fc.assert(
      fc.property(
        anyCurve,
        fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 5 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -10, max: 70, noNaN: true }),
        (given, at, by, frame) => {
          const frames = [...new Set(at)].sort((a, b) => a - b);
          const own = curve(...frames.map((f) => key(f, valueAt(given, f) + by)));
          expect(valueAt(corrected(own, given), frame)).toBeCloseTo(valueAt(given, frame) + by, 3);
        },
      ),
    );
  });

  test('go over from one difference to the next as they are shaped', () => {
    const given = curve(key(0, 0, 'linear'), key(40, 4, 'linear'));
    const made = corrected(curve(key(10, 1, 'linear'), key(20, 3, 'linear')), given);
    // No difference at 10, one at 20, and kept after it.
    for (const [frame, value] of [
      [0, 0],
      [10, 1],
      [15, 2],
      [20, 3],
      [30, 4],
      [40, 5],
    ])
      expect(valueAt(made, frame)).toBeCloseTo(value, 6);
  });

  test('stand over a jump with one key a frame, so that fewer of them can be made', () => {
    const held: Key = { ...key(20 - 1e-3, 1, 'flat'), out: { kind: 'stepped' } };
    const made = corrected(curve(key(5, 3, 'flat')), curve(key(0, 1, 'flat'), held, key(20, 0, 'flat')));
    for (let i = 1; i < made.keys.length; i++)
      expect(made.keys[i].frame - made.keys[i - 1].frame).toBeGreaterThan(SAME_FRAME);
    expect([5, 19, 20, 25].map((frame) => valueAt(thinned(made, 1e-3).curve, frame))).toEqual(
      [3, 3, 2, 2].map((v) => expect.closeTo(v, 2)),
    );
  });

  test('keep the slopes of handles that were drawn', () => {
    const given = curve(key(0, 0, 'linear'), key(40, 8, 'linear'));
    const free = { kind: 'free' as const, frames: 2, rise: 2 };
    const drawn: Key = { ...key(20, 4), in: { ...free, rise: -2 }, out: free };
    const made = corrected(curve(key(10, 2, 'flat'), drawn, key(30, 6, 'flat')), given);
    // Put through by places, so near a short handle a little less.
    const slope = (valueAt(made, 20.01) - valueAt(made, 19.99)) / 0.02;
    expect(Math.abs(slope - 1)).toBeLessThan(0.1);
  });
});
