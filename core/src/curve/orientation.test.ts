import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { quaternionAbout, quaternionBetween, quaternionLog } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';
import { orientationCurve } from '../testing/arbitraries.ts';
import type { OrientationCurve, OrientationKey } from './key.ts';
import { orientationValueAt, withOrientationKey } from './reshape.ts';

type Plain = OrientationKey['in']['kind'];
const curveOf = (kind: Plain, ...keys: [number, Quaternion][]): OrientationCurve => ({
  type: 'orientation',
  before: 'hold',
  after: 'hold',
  keys: keys.map(([frame, value]) => ({ frame, value, in: { kind }, out: { kind }, joined: true, role: 'key' })),
});

/** How far apart two orientations are, in radians. */
const apart = (a: Quaternion, b: Quaternion) => {
  const half = Math.hypot(...quaternionLog(quaternionBetween(a, b)));
  return 2 * Math.min(half, Math.PI - half);
};

describe('a curve of orientations', () => {
  test('passes through its keys and stays of unit length', () => {
    fc.assert(
      fc.property(orientationCurve, fc.double({ min: -100, max: 250, noNaN: true }), (curve, frame) => {
        for (const key of curve.keys) expect(apart(orientationValueAt(curve, key.frame), key.value)).toBeLessThan(1e-6);
        expect(Math.hypot(...orientationValueAt(curve, frame))).toBeCloseTo(1, 12);
      }),
    );
  });

  test('takes the shortest way: a turn of 270 degrees goes back 90', () => {
    const curve = curveOf('linear', [1, [0, 0, 0, 1]], [3, quaternionAbout([0, 1, 0], (270 * Math.PI) / 180)]);
    expect(apart(orientationValueAt(curve, 2), quaternionAbout([0, 1, 0], -Math.PI / 4))).toBeLessThan(1e-9);
  });

  test.each(['linear', 'flat'] as const)('a quarter turn with %s keys stays about its one axis', (kind) => {
    const axis = [1, 2, -0.5] as const;
    const curve = curveOf(kind, [1, [0, 0, 0, 1]], [9, quaternionAbout(axis, Math.PI / 2)]);
    for (let f = 1; f <= 9; f += 0.25) {
      const share = (f - 1) / 8;
      const eased = kind === 'linear' ? share : share * share * (3 - 2 * share);
      expect(apart(orientationValueAt(curve, f), quaternionAbout(axis, (eased * Math.PI) / 2))).toBeLessThan(1e-9);
    }
  });

  test('is as fast after a smooth key as before it', () => {
    const curve = curveOf(
      'smooth',
      [1, [0, 0, 0, 1]],
      [9, quaternionAbout([0, 1, 0], 1)],
      [13, quaternionAbout([1, 1, 0], 2)],
    );
    const speed = (f: number) => apart(orientationValueAt(curve, f), orientationValueAt(curve, f + 1e-4)) / 1e-4;
    expect(speed(9 - 2e-4)).toBeCloseTo(speed(9 + 1e-4), 2);
    expect(speed(9)).toBeGreaterThan(0.05);
  });

  test('cycles and swings', () => {
    const keys = curveOf('linear', [1, [0, 0, 0, 1]], [5, quaternionAbout([0, 0, 1], 1)]);
    const at = (after: 'cycle' | 'swing', f: number) => orientationValueAt({ ...keys, after }, f);
    expect(apart(at('cycle', 6), at('cycle', 2))).toBeLessThan(1e-9);
    expect(apart(at('swing', 6), at('swing', 4))).toBeLessThan(1e-9);
  });

  test('takes a key on a frame once', () => {
    const once = withOrientationKey(undefined, 4, [0, 0, 0, 1]);
    const twice = withOrientationKey(once, 4, [0, 1, 0, 0]);
    expect(twice.keys).toHaveLength(1);
    expect(twice.keys[0].value).toEqual([0, 1, 0, 0]);
  });
});
