import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberCurve, value } from '../testing/arbitraries.ts';
import { handleSlope } from './handles.ts';
import { type NumberCurve, smoothKey, type Tuning } from './key.ts';
import { withHandleKind, withTuning } from './reshape.ts';
import { CurveReader } from './sample.ts';
import { tuningOf } from './tuning.ts';

const through = (...points: [number, number][]): NumberCurve => ({
  type: 'number',
  keys: points.map(([f, v]) => smoothKey(f, v)),
  before: 'hold',
  after: 'hold',
});
const tuned = (curve: NumberCurve, frame: number, tuning: Partial<Tuning>) =>
  withTuning(curve, frame, { tension: 0, continuity: 0, bias: 0, ...tuning });
const slopes = (curve: NumberCurve, i: number) => [handleSlope(curve, i, 'in'), handleSlope(curve, i, 'out')];

describe('tension, continuity and bias', () => {
  const curve = through([0, 0], [2, 4], [8, 1]);

  test('all at 0: the slope from the key before to the key after, however far they are', () => {
    for (const slope of slopes(tuned(curve, 2, {}), 1)) expect(slope).toBeCloseTo(1 / 8, 12);
  });

  test('full tension is level; full bias goes by one neighbour alone; continuity makes a corner', () => {
    for (const slope of slopes(tuned(curve, 2, { tension: 1 }), 1)) expect(slope).toBeCloseTo(0, 12);
    // Twice the weighted slope to the neighbour before: 2 · (2/8) · 2.
    for (const slope of slopes(tuned(curve, 2, { bias: 1 }), 1)) expect(slope).toBeCloseTo(1, 12);
    const [arrive, leave] = slopes(tuned(curve, 2, { continuity: -1 }), 1);
    expect(arrive).toBeCloseTo(1, 12);
    expect(leave).toBeCloseTo(-0.75, 12);
  });

  test('for keys at equal distances the published tangents', () => {
    const even = through([0, 1], [10, 3], [20, 9]);
    const [t, c, b] = [0.3, -0.4, 0.25];
    const [arrive, leave] = slopes(tuned(even, 10, { tension: t, continuity: c, bias: b }), 1);
    const published = (s: number) =>
      ((1 - t) * (1 + s * c) * (1 + b) * (3 - 1)) / 2 + ((1 - t) * (1 - s * c) * (1 - b) * (9 - 3)) / 2;
    expect(arrive * 10).toBeCloseTo(published(-1), 12);
    expect(leave * 10).toBeCloseTo(published(1), 12);
  });
});

const number = fc.integer({ min: -100, max: 100 }).map((v) => v / 100);
const tuning = fc.record({ tension: number, continuity: number, bias: number });

test('said as free handles it is the same motion, in value and slope', () => {
  fc.assert(
    fc.property(numberCurve, tuning, fc.nat(7), (curve, t, n) => {
      const i = n % curve.keys.length;
      const { frame } = curve.keys[i];
      const said = withTuning(curve, frame, t);
      const free = withHandleKind(said, frame, 'both', 'free');
      const [first, last] = [curve.keys[0].frame - 2, curve.keys.at(-1)!.frame + 2];
      const [a, b] = [
        new CurveReader({ ...said, before: 'hold', after: 'hold' }),
        new CurveReader({ ...free, before: 'hold', after: 'hold' }),
      ];
      // A cycle's seam makes neighbours of the two ends, so only what lies between the keys is compared.
      fc.pre(curve.before === 'hold' && curve.after === 'hold');
      for (let k = 0; k <= 40; k++) {
        const f = first + ((last - first) * k) / 40;
        expect(b.at(f)).toBeCloseTo(a.at(f), 6);
      }
      const [one, other] = [slopes(said, i), slopes(free, i)];
      expect(other[0]).toBeCloseTo(one[0], 6);
      expect(other[1]).toBeCloseTo(one[1], 6);
    }),
  );
});

test('two slopes that can be said in the three numbers are said exactly', () => {
  fc.assert(
    fc.property(numberCurve, fc.nat(7), value, value, (curve, n, a, b) => {
      const i = n % curve.keys.length;
      const found = tuningOf(curve, i, a, b);
      fc.pre(found !== null && curve.keys[i].out.kind !== 'stepped');
      const said = withTuning(curve, curve.keys[i].frame, found!);
      const size = Math.max(1, Math.abs(a), Math.abs(b));
      // At an end, and beside a stepped stretch, there is a handle on one side only.
      const [arrive, leave] = slopes(said, i);
      if (i > 0 && curve.keys[i - 1].out.kind !== 'stepped') expect(Math.abs(arrive - a) / size).toBeLessThan(1e-6);
      if (i + 1 < curve.keys.length) expect(Math.abs(leave - b) / size).toBeLessThan(1e-6);
    }),
    { numRuns: 400 },
  );
});

test('a shape already tuned is found again', () => {
  fc.assert(
    fc.property(number, number, (tension, continuity) => {
      fc.pre(Math.abs(1 - tension) > 0.05);
      const curve = tuned(through([0, 0], [5, 2], [9, 3]), 5, { tension, continuity });
      const found = tuningOf(curve, 1, handleSlope(curve, 1, 'in'), handleSlope(curve, 1, 'out'))!;
      expect(found.tension).toBeCloseTo(tension, 6);
      expect(found.continuity).toBeCloseTo(continuity, 6);
      expect(found.bias).toBeCloseTo(0, 6);
    }),
  );
});
