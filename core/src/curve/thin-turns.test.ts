import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { quaternionAbout, quaternionBetween, quaternionNormal } from '../pose/quaternion.ts';
import type { Quaternion } from '../schema/numbers.ts';
import type { OrientationCurve } from './key.ts';
import { orientationValueAt } from './reshape.ts';
import { thinnedTurns } from './thin-turns.ts';

const curveOf = (values: readonly Quaternion[]): OrientationCurve => ({
  type: 'orientation',
  keys: values.map((value, i) => ({
    frame: 1 + i,
    value,
    in: { kind: 'linear' },
    out: { kind: 'linear' },
    joined: false,
    role: 'key',
  })),
  before: 'hold',
  after: 'hold',
});

const degrees = (a: Quaternion, b: Quaternion): number => {
  const [x, y, z, w] = quaternionBetween(a, b);
  return (2 * Math.atan2(Math.hypot(x, y, z), Math.abs(w)) * 180) / Math.PI;
};

test('an even turn needs its ends and, towards half a round, a key between them', () => {
  const about = (angle: number) => quaternionAbout([1, 2, 0], (angle * Math.PI) / 180);
  const quarter = thinnedTurns(curveOf(Array.from({ length: 31 }, (_, i) => about(3 * i))), 1e-6);
  expect(quarter.keys.map((k) => k.frame)).toEqual([1, 31]);
  // The same turns written with the other sign are the same turns.
  const signed = Array.from(
    { length: 31 },
    (_, i) => about(3 * i).map((v) => (i % 2 ? -v : v)) as unknown as Quaternion,
  );
  expect(thinnedTurns(curveOf(signed), 1e-6).keys.map((k) => k.frame)).toEqual([1, 31]);
  const round = thinnedTurns(curveOf(Array.from({ length: 101 }, (_, i) => about(3 * i))), 1e-6);
  expect(round.keys.map((k) => k.frame)).toEqual([1, 55, 101]);
});

test('every turn is kept within the tolerance, whatever the turns are', () => {
  const wander = fc.array(fc.tuple(...Array.from({ length: 4 }, () => fc.integer({ min: -9, max: 9 }))), {
    minLength: 2,
    maxLength: 40,
  });
  fc.assert(
    fc.property(wander, fc.constantFrom(0.01, 1, 20), (steps, tolerance) => {
      let now: Quaternion = [0, 0, 0, 1];
      const values = steps.map((step) => {
        now = quaternionNormal(now.map((v, c) => v + step[c] / 30) as unknown as Quaternion);
        return now;
      });
      const thin = thinnedTurns(curveOf(values), (tolerance * Math.PI) / 180);
      expect([thin.keys[0].frame, thin.keys[thin.keys.length - 1].frame]).toEqual([1, values.length]);
      values.forEach((value, i) => {
        expect(degrees(orientationValueAt(thin, 1 + i), value)).toBeLessThanOrEqual(tolerance + 1e-6);
      });
    }),
  );
});
