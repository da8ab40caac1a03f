import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { extension, numberCurve, time } from '../testing/arbitraries.ts';
import { compileCurve, writeControlPoints } from './compile.ts';
import { handleReach, handleSlope } from './handles.ts';
import { type Key, type NumberCurve, smoothKey } from './key.ts';
import { keyIndexAt, withHandle, withHandleKind, withJoined, withKey, withoutKeys } from './reshape.ts';
import { CurveReader, valueAt } from './sample.ts';
import { withSplit } from './split.ts';

const curveOf = (keys: Key[], ends: Partial<NumberCurve> = {}): NumberCurve => ({
  type: 'number',
  keys,
  before: 'hold',
  after: 'hold',
  ...ends,
});
const smooth = (...points: [number, number][]) => curveOf(points.map(([f, v]) => smoothKey(f, v)));

describe('a curve', () => {
  test('passes through its keys', () => {
    fc.assert(
      fc.property(numberCurve, (curve) => {
        const reader = new CurveReader(curve);
        for (const key of curve.keys) expect(reader.at(key.frame)).toBeCloseTo(key.value, 9);
      }),
    );
  });

  test('reads the same in any order of frames', () => {
    fc.assert(
      fc.property(numberCurve, fc.array(time), (curve, at) => {
        const reader = new CurveReader(curve);
        for (const frame of at) expect(reader.at(frame)).toBe(valueAt(curve, frame));
      }),
    );
  });

  test('with smooth keys never overshoots them', () => {
    const points = fc
      .uniqueArray(fc.integer({ min: 0, max: 60 }), { minLength: 2, maxLength: 9 })
      .chain((at) =>
        fc.tuple(...at.sort((a, b) => a - b).map((f) => fc.tuple(fc.constant(f), fc.integer({ min: -9, max: 9 })))),
      );
    fc.assert(
      fc.property(points, (list) => {
        const curve = smooth(...list);
        for (let i = 0; i + 1 < list.length; i++) {
          const [from, to] = [list[i], list[i + 1]];
          let before = from[1];
          for (let s = 0; s <= 20; s++) {
            const v = valueAt(curve, from[0] + ((to[0] - from[0]) * s) / 20);
            // On its way from one key to the next it never turns back.
            expect((v - before) * Math.sign(to[1] - from[1] || 1)).toBeGreaterThanOrEqual(-1e-9);
            if (to[1] === from[1]) expect(v).toBeCloseTo(from[1], 12);
            before = v;
          }
        }
      }),
    );
  });

  test('with smooth keys has one slope on both sides of each', () => {
    const curve = smooth([1, 0], [5, 2], [9, 3], [20, 8]);
    for (const i of [1, 2]) {
      expect(handleSlope(curve, i, 'in')).toBeCloseTo(handleSlope(curve, i, 'out'), 12);
      expect(handleSlope(curve, i, 'in')).toBeGreaterThan(0);
    }
  });

  test('that is flat at a key has no speed there, and one that is linear runs straight', () => {
    const flat = withHandleKind(smooth([1, 0], [11, 10]), 1, 'both', 'flat');
    expect((valueAt(flat, 1.001) - valueAt(flat, 1)) / 0.001).toBeLessThan(0.01);
    let linear = withHandleKind(smooth([1, 0], [11, 10]), 1, 'out', 'linear');
    linear = withHandleKind(linear, 11, 'in', 'linear');
    for (let f = 1; f <= 11; f += 0.5) expect(valueAt(linear, f)).toBeCloseTo(f - 1, 12);
  });

  test('that is stepped holds until the next key', () => {
    const curve = withHandleKind(smooth([1, 3], [9, 7]), 1, 'out', 'stepped');
    expect(valueAt(curve, 8.999)).toBe(3);
    expect(valueAt(curve, 9)).toBe(7);
  });
});

test('the control points of a segment are those of its handles', () => {
  fc.assert(
    fc.property(numberCurve, (curve) => {
      const compiled = compileCurve(curve);
      const out = new Float64Array(4);
      for (let i = 0; i + 1 < curve.keys.length; i++) {
        const [from, to] = [curve.keys[i], curve.keys[i + 1]];
        const [leave, arrive] = [handleReach(curve, i, 'out'), handleReach(curve, i + 1, 'in')];
        writeControlPoints(compiled, i, out);
        const level = [out[0], from.value, out[2], from.value];
        const expected =
          leave && arrive
            ? [from.frame + leave.frames, from.value + leave.rise, to.frame - arrive.frames, to.value + arrive.rise]
            : level;
        expected.forEach((v, c) => {
          expect(out[c]).toBeCloseTo(v, 8);
        });
      }
    }),
  );
});

describe('beyond its keys a curve', () => {
  const base = curveOf([
    { ...smoothKey(1, 2), out: { kind: 'linear' }, joined: false },
    { ...smoothKey(5, 4), in: { kind: 'linear' }, out: { kind: 'linear' }, joined: false },
    { ...smoothKey(9, 3), in: { kind: 'linear' }, joined: false },
  ]);
  const beyond = (after: NumberCurve['after']) => ({ ...base, before: after, after });

  test('holds', () => {
    expect([-50, 1000].map((f) => valueAt(beyond('hold'), f))).toEqual([2, 3]);
  });

  test('goes on at its slope', () => {
    expect(valueAt(beyond('slope'), 13)).toBeCloseTo(3 - 0.25 * 4, 12);
    expect(valueAt(beyond('slope'), -3)).toBeCloseTo(2 - 0.5 * 4, 12);
  });

  test('cycles: every frame equals the one a length earlier', () => {
    fc.assert(
      fc.property(fc.double({ min: -200, max: 200, noNaN: true }), (frame) => {
        fc.pre(Math.abs((((frame - 1) % 8) + 8) % 8) > 1e-6);
        expect(valueAt(beyond('cycle'), frame)).toBeCloseTo(valueAt(beyond('cycle'), frame + 8), 9);
      }),
    );
    expect(valueAt(beyond('cycle'), 9)).toBe(3);
    expect(valueAt(beyond('cycle'), 9.001)).toBeCloseTo(2, 2);
  });

  test('cycles and travels: every cycle adds what one gains', () => {
    for (const f of [-20, 0, 3, 8.5, 30]) {
      expect(valueAt(beyond('travel'), f + 8) - valueAt(beyond('travel'), f)).toBeCloseTo(1, 9);
    }
  });

  test('swings: it comes back the way it went', () => {
    for (const d of [0.25, 1, 3.5, 7.75]) {
      expect(valueAt(beyond('swing'), 9 + d)).toBeCloseTo(valueAt(beyond('swing'), 9 - d), 9);
      expect(valueAt(beyond('swing'), 1 - d)).toBeCloseTo(valueAt(beyond('swing'), 1 + d), 9);
      expect(valueAt(beyond('swing'), 17 + d)).toBeCloseTo(valueAt(beyond('swing'), 1 + d), 9);
    }
  });

  test('with one key is constant, whatever the extension', () => {
    fc.assert(
      fc.property(extension, (after) => {
        expect(valueAt(curveOf([smoothKey(5, 7)], { before: after, after }), 99)).toBe(7);
      }),
    );
  });

  test('is smooth through the seam of a cycle', () => {
    const curve = { ...smooth([1, 0], [5, 3], [9, 4], [13, 8]), before: 'travel' as const, after: 'travel' as const };
    const slope = (f: number) => (valueAt(curve, f + 1e-5) - valueAt(curve, f - 1e-5)) / 2e-5;
    expect(slope(13 - 1e-3)).toBeCloseTo(slope(13 + 1e-3), 2);
    expect(slope(13)).toBeGreaterThan(0.1);
  });
});

describe('changing a curve', () => {
  test('a key set again on its frame replaces the value and keeps the shape', () => {
    const curve = withHandleKind(smooth([1, 0], [5, 1]), 5, 'in', 'linear');
    const again = withKey(curve, 5, 9);
    expect(again.keys).toHaveLength(2);
    expect(again.keys[1]).toMatchObject({ value: 9, in: { kind: 'linear' } });
  });

  test('going over to free handles keeps the motion', () => {
    fc.assert(
      fc.property(numberCurve, (curve) => {
        fc.pre(curve.keys.length > 1 && curve.keys.every((k) => k.out.kind !== 'stepped'));
        const free = curve.keys.reduce((c, k) => withHandleKind(c, k.frame, 'both', 'free'), curve);
        const [first, last] = [curve.keys[0].frame, curve.keys.at(-1)!.frame];
        for (let i = 0; i <= 10; i++) {
          const f = first + ((last - first) * i) / 10;
          expect(valueAt(free, f)).toBeCloseTo(valueAt(curve, f), 6);
        }
      }),
    );
  });

  test('a key put on a curve changes it nowhere', () => {
    fc.assert(
      fc.property(numberCurve, fc.integer({ min: -20 * 8, max: 150 * 8 }), (curve, n) => {
        const split = withSplit({ ...curve, before: 'hold', after: 'hold' }, n / 8);
        for (let f = -20; f <= 150; f += 1.7) {
          // A handle that would be shorter than the shortest there is moves the curve by a few millionths.
          expect(valueAt(split, f)).toBeCloseTo(valueAt({ ...curve, before: 'hold', after: 'hold' }, f), 4);
        }
      }),
    );
  });

  test('joined handles turn together and broken ones do not', () => {
    const joined = withHandle(smooth([1, 0], [5, 1], [9, 0]), 5, 'out', 2, 3);
    expect(handleSlope(joined, 1, 'in')).toBeCloseTo(1.5, 12);
    const broken = withHandle(withJoined(joined, 5, false), 5, 'out', 2, -3);
    expect(handleSlope(broken, 1, 'in')).toBeCloseTo(1.5, 12);
    expect(handleSlope(broken, 1, 'out')).toBeCloseTo(-1.5, 12);
    const again = withJoined(broken, 5, true);
    expect(handleSlope(again, 1, 'in')).toBeCloseTo(handleSlope(again, 1, 'out'), 12);
  });

  test('taking all keys away leaves no curve', () => {
    expect(withoutKeys(smooth([1, 0], [5, 1]), [1, 5])).toBeNull();
    expect(withoutKeys(smooth([1, 0], [5, 1]), [1])?.keys.map((k) => k.frame)).toEqual([5]);
  });

  test('a key is found among many by its frame, whole or not', () => {
    const keys = Array.from({ length: 1000 }, (_, i) => ({ frame: i * 1.5 }));
    expect(keyIndexAt(keys, 300)).toBe(200);
    expect(keyIndexAt(keys, 301.5)).toBe(201);
    expect(keyIndexAt(keys, 301)).toBe(-1);
  });
});
