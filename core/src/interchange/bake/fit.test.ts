import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blend } from './blend.ts';
import { type Fitted, fit } from './fit.ts';
import { apart, type Point, type Series } from './series.ts';

/** A series of one number at every quarter of some frames, from what it is at a time and how fast it goes just before and after. */
function seriesOf(frames: number, at: (t: number) => number, jumps: readonly number[] = []): Series {
  const d = 1e-6;
  const times = Array.from({ length: frames * 4 + 1 }, (_, i) => i / 4);
  const one = (v: number) => Float64Array.of(v);
  const points = times.map((t): Point => {
    const before = jumps.includes(t) ? at(t - d) : at(t);
    return {
      value: one(at(t)),
      before: one(before),
      rateIn: one((at(t - d) - at(t - 2 * d)) / d),
      rateOut: one((at(t + d) - at(t)) / d),
    };
  });
  const middles = times.slice(1).map((t) => one(at(t - 1 / 8)));
  return { part: { at: 0, width: 1, turns: false }, times, points, middles };
}

/** What a fitted series is at a time, by the rule that every player of tracks has. */
function played({ keys, shape }: Fitted, time: number): number {
  const k = keys.findLastIndex((key) => key.time <= time);
  const [a, b] = [keys[k], keys[k + 1]];
  if (!b || shape === 'step' || a.time === time) return a.value[0];
  const out = new Float64Array(1);
  const length = b.time - a.time;
  blend(out, shape === 'cubic', false, (time - a.time) / length, length, a.value, a.rateOut, b.value, b.rateIn);
  return out[0];
}

describe('keys laid over a movement', () => {
  test('of something thrown are two: a parabola is said by its ends', () => {
    const { keys, shape } = fit(
      seriesOf(12, (t) => 3 + 2 * t - 0.2 * t * t),
      true,
      1e-5,
    );
    expect(shape).toBe('cubic');
    expect(keys.map((k) => k.time)).toEqual([0, 12]);
  });

  test('of a bounce stand on its landings and nowhere else, with a rate of their own on each side', () => {
    const bounce = (t: number) => (t % 8) * (8 - (t % 8)) * 0.05;
    const { keys } = fit(seriesOf(24, bounce), true, 1e-5);
    expect(keys.map((k) => k.time)).toEqual([0, 8, 16, 24]);
    expect(keys[1].rateIn[0]).toBeCloseTo(-0.4, 3);
    expect(keys[1].rateOut[0]).toBeCloseTo(0.4, 3);
  });

  test('of something straight are two, bent or not', () => {
    for (const bent of [true, false])
      expect(
        fit(
          seriesOf(10, (t) => 0.3 * t),
          bent,
          1e-6,
        ).keys.length,
      ).toBe(2);
  });

  test('of something that stands is one', () => {
    expect(
      fit(
        seriesOf(10, () => 5),
        true,
        1e-6,
      ).keys,
    ).toHaveLength(1);
  });

  test('of something held and let jump are steps, one where it jumps', () => {
    const { keys, shape } = fit(
      seriesOf(10, (t) => (t < 4 ? 1 : 2), [4]),
      true,
      1e-6,
    );
    expect(shape).toBe('step');
    expect(keys.map((k) => [k.time, k.value[0]])).toEqual([
      [0, 1],
      [4, 2],
    ]);
  });

  test('where it jumps while it moves are two at one time', () => {
    const { keys } = fit(
      seriesOf(10, (t) => (t < 4 ? t : t + 3), [4]),
      true,
      1e-5,
    );
    expect(keys.map((k) => k.time)).toEqual([0, 4, 4, 10]);
    expect(keys[1].value[0]).toBeCloseTo(4, 4);
    expect(keys[2].value[0]).toBe(7);
  });

  test('are within the tolerance everywhere, and fewer the wider it is', () => {
    const wave = fc.record({
      a: fc.double({ min: 0.1, max: 3, noNaN: true }),
      f: fc.double({ min: 0.1, max: 0.9, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(wave, { minLength: 1, maxLength: 3 }), fc.boolean(), (waves, bent) => {
        const at = (t: number) => waves.reduce((sum, { a, f }) => sum + a * Math.sin(f * t), 0);
        const series = seriesOf(24, at);
        let most = Number.POSITIVE_INFINITY;
        for (const tolerance of [0.1, 0.3, 1]) {
          const fitted = fit(series, bent, tolerance);
          for (let t = 0; t <= 24; t += 1 / 8)
            expect(Math.abs(played(fitted, t) - at(t))).toBeLessThanOrEqual(tolerance + 1e-12);
          expect(fitted.keys.length).toBeLessThanOrEqual(most);
          most = fitted.keys.length;
        }
      }),
      { numRuns: 40 },
    );
  });
});

test('the angle between two turns is told to a hair where they are nearly one', () => {
  for (const angle of [1e-7, 1e-3, 1, 3]) {
    const turn = [0, Math.sin(angle / 2), 0, Math.cos(angle / 2)];
    expect(apart(true, [0, 0, 0, 1], turn) / angle).toBeCloseTo(1, 6);
  }
});
