import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberCurve } from '../testing/arbitraries.ts';
import { halves, mostOf, product, raised, writePart } from './bernstein.ts';
import { type NumberCurve, smoothKey } from './key.ts';
import { CurveReader, valueAt } from './sample.ts';
import { thinned } from './thin.ts';

const baked = (motion: (frame: number) => number, frames: number): NumberCurve => ({
  type: 'number',
  keys: Array.from({ length: frames }, (_, i) => smoothKey(i + 1, motion(i + 1))),
  before: 'hold',
  after: 'hold',
});

/** The most two curves differ at many places between two frames, and just inside both. */
function apart(a: NumberCurve, b: NumberCurve, first: number, last: number, steps = 4000): number {
  const [ra, rb] = [new CurveReader(a), new CurveReader(b)];
  let most = 0;
  for (let i = 0; i <= steps; i++) {
    const frame = first + ((last - first) * i) / steps;
    most = Math.max(most, Math.abs(ra.at(frame) - rb.at(frame)));
  }
  return most;
}

const cubic = fc.tuple(...Array.from({ length: 4 }, () => fc.integer({ min: -64, max: 64 }).map((v) => v / 8)));
const value = (b: readonly number[], u: number): number => {
  let row = [...b];
  while (row.length > 1) row = row.slice(1).map((v, i) => row[i] * (1 - u) + v * u);
  return row[0];
};

describe('polynomials by their Bernstein coefficients', () => {
  test('products, raised degrees, halves and parts keep the values', () => {
    fc.assert(
      fc.property(cubic, cubic, fc.integer({ min: 0, max: 16 }), (a, b, n) => {
        const u = n / 16;
        expect(value(product(a, b), u)).toBeCloseTo(value(a, u) * value(b, u), 9);
        expect(value(raised(a, 9), u)).toBeCloseTo(value(a, u), 9);
        const [first, second] = halves(a);
        expect(value(first, u)).toBeCloseTo(value(a, u / 2), 9);
        expect(value(second, u)).toBeCloseTo(value(a, 0.5 + u / 2), 9);
        const part = [0, 0, 0, 0];
        writePart(a, 0.2, 0.7, part);
        expect(value(part, u)).toBeCloseTo(value(a, 0.2 + u / 2), 9);
      }),
    );
  });

  test('the bound is never below the largest value, and close to it', () => {
    fc.assert(
      fc.property(cubic, (a) => {
        let most = 0;
        for (let i = 0; i <= 1000; i++) most = Math.max(most, Math.abs(value(a, i / 1000)));
        const bound = mostOf(a, 100);
        expect(bound).toBeGreaterThanOrEqual(most - 1e-12);
        expect(bound).toBeLessThanOrEqual(Math.max(most * 1.01, 0.1 + 1e-9));
      }),
    );
  });

  test('what is beyond the limit is said to be', () => {
    expect(mostOf([0, 3, 3, 0], 2)).toBe(Number.POSITIVE_INFINITY);
    expect(mostOf([0, 3, 3, 0], 2.3)).toBeCloseTo(2.25, 2);
  });
});

describe('thinning', () => {
  test('never moves the motion more than its tolerance, at any sub-frame', () => {
    fc.assert(
      fc.property(numberCurve, fc.constantFrom(0.01, 1, 30), (curve, tolerance) => {
        const thin = thinned(curve, tolerance);
        const [first, last] = [curve.keys[0].frame, curve.keys.at(-1)!.frame];
        expect(apart(curve, thin.curve, first, last)).toBeLessThanOrEqual(thin.largest + 1e-6);
        expect(thin.largest).toBeLessThanOrEqual(tolerance);
        expect(thin.curve.keys.length).toBe(curve.keys.length - thin.removed);
      }),
    );
  });

  test('leaves the seam of a cycle alone where the key beside it goes', () => {
    const free = (rise: number) => ({ kind: 'free' as const, frames: 8 / 3, rise });
    const middle = { ...smoothKey(9, 4), in: free(-4 / 3), out: free(4 / 3), joined: true };
    const keys = [smoothKey(1, 0), middle, { ...smoothKey(17, 8), in: { kind: 'linear' as const } }, smoothKey(30, 3)];
    const cycle: NumberCurve = { type: 'number', keys, before: 'cycle', after: 'travel' };
    const thin = thinned(cycle, 0.5);
    expect(thin.removed).toBeGreaterThan(0);
    expect(apart(cycle, thin.curve, 1, 30)).toBeLessThanOrEqual(thin.largest + 1e-6);
  });

  test('a wave keyed on every frame keeps a few keys a period', () => {
    const wave = baked((f) => Math.sin((f / 24) * 2 * Math.PI), 241);
    const thin = thinned(wave, 0.005);
    expect(thin.curve.keys.length).toBeLessThan(45);
    expect(apart(wave, thin.curve, 1, 241)).toBeLessThanOrEqual(0.005);
    // It goes on smoothly where it went smoothly before.
    const joined = thin.curve.keys.filter((k) => k.joined).length;
    expect(joined).toBeGreaterThan(thin.curve.keys.length * 0.5);
  });

  test('a straight line keeps its two ends, and a hold too', () => {
    const line: NumberCurve = { ...baked((f) => f * 0.25, 50), before: 'slope', after: 'slope' };
    expect(thinned(line, 1e-6).curve.keys.map((k) => k.frame)).toEqual([1, 50]);
    const hold = thinned(
      baked(() => 3, 50),
      1e-6,
    );
    expect(hold.curve.keys.map((k) => k.frame)).toEqual([1, 50]);
    expect([hold.curve.keys[0].out.kind, hold.curve.keys[1].in.kind]).toEqual(['flat', 'flat']);
    expect(hold.largest).toBeCloseTo(0, 12);
  });

  test('keeps a sharp landing and what may not go', () => {
    const fall = baked((f) => (f <= 13 ? 2 - ((f - 1) / 12) ** 2 : 1 + ((f - 13) / 12) * 0.5), 25);
    const thin = thinned(fall, 0.01);
    expect(thin.curve.keys.map((k) => k.frame)).toContain(13);
    expect(thin.curve.keys.length).toBeLessThan(8);
    const kept = thinned(fall, 0.5, (i) => i % 6 !== 0);
    expect(kept.curve.keys.map((k) => k.frame)).toEqual([1, 7, 13, 19, 25]);
  });

  test('leaves stepped stretches and what lies beyond the keys alone', () => {
    const base = baked((f) => f * f, 20);
    const curve: NumberCurve = {
      ...base,
      after: 'slope',
      keys: base.keys.map((k, i) => (i === 8 ? { ...k, out: { kind: 'stepped' as const }, joined: false } : k)),
    };
    const thin = thinned(curve, 1).curve;
    expect(thin.keys.map((k) => k.frame)).toEqual(expect.arrayContaining([9, 10]));
    expect(valueAt(thin, 60)).toBeCloseTo(valueAt(curve, 60), 6);
    expect(valueAt(thin, 9.7)).toBe(81);
  });

  test('a curve with nothing to spare stays the same object', () => {
    const curve = baked((f) => (f % 2) * 5, 9);
    expect(thinned(curve, 0.001).curve).toBe(curve);
  });
});
