import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { quaternion } from '../testing/arbitraries.ts';
import {
  compose,
  invert,
  isMove,
  multiply,
  multiplyMove,
  slerp,
  swing,
  transformPoint,
  turnOf,
  turnTimes,
} from './affine.ts';
import { quaternionAbout, quaternionMultiply } from './quaternion.ts';

const number = fc.double({ min: -10, max: 10, noNaN: true });
const point = fc.tuple(number, number, number);
const size = fc.double({ min: 0.1, max: 5, noNaN: true });

const made = (q: readonly number[], s: number, p: readonly number[]) => {
  const out = new Float64Array(16);
  const length = Math.hypot(...q);
  compose(
    out,
    0,
    Float64Array.from(q, (v) => v / length),
    0,
    s,
    p[0],
    p[1],
    p[2],
  );
  return out;
};
const turned = (q: Float64Array, v: readonly number[]) => {
  const m = new Float64Array(16);
  compose(m, 0, q, 0, 1, 0, 0, 0);
  const out = new Float64Array(3);
  transformPoint(out, 0, m, 0, v[0], v[1], v[2]);
  return [...out];
};

describe('affine matrices', () => {
  test('times one that only moves are what they are times any', () => {
    fc.assert(
      fc.property(quaternion, size, point, point, (q, s, p, [x, y, z]) => {
        const m = made(q, s, p);
        const move = made([0, 0, 0, 1], 1, [x, y, z]);
        expect(isMove(move)).toBe(true);
        const [due, out] = [new Float64Array(16), new Float64Array(16)];
        multiply(due, 0, m, 0, move, 0);
        multiplyMove(out, 0, m, 0, x, y, z);
        expect([...out].map((v) => v + 0)).toEqual([...due].map((v) => v + 0));
      }),
    );
    expect(isMove(made([0, 0, 0.01, 1], 1, [0, 0, 0]))).toBe(false);
    expect(isMove(made([0, 0, 0, 1], 1.01, [0, 0, 0]))).toBe(false);
  });

  test('times their inverse are nothing', () => {
    fc.assert(
      fc.property(quaternion, size, point, (q, s, p) => {
        const m = made(q, s, p);
        const out = new Float64Array(16);
        invert(out, 0, m, 0);
        multiply(out, 0, m, 0, out, 0);
        for (let i = 0; i < 16; i++) expect(out[i]).toBeCloseTo(i % 5 === 0 ? 1 : 0, 9);
      }),
    );
  });

  test('give back the turn they were made of, whatever their size', () => {
    fc.assert(
      fc.property(quaternion, size, point, (q, s, p) => {
        const length = Math.hypot(...q);
        const out = new Float64Array(4);
        turnOf(out, 0, made(q, s, p), 0);
        const same = q.reduce((sum, v, i) => sum + (v / length) * out[i], 0);
        expect(Math.abs(same)).toBeCloseTo(1, 9);
      }),
    );
  });

  test('that are flat have no inverse, and say so', () => {
    const flat = made([0, 0, 0, 1], 1, [0, 0, 0]);
    flat[0] = 0;
    expect(invert(new Float64Array(16), 0, flat, 0)).toBe(false);
  });
});

describe('turns in flat arrays', () => {
  test('multiply as quaternions do', () => {
    const [a, b] = [quaternionAbout([1, 2, 3], 0.7), quaternionAbout([-2, 1, 0.5], -1.3)];
    const out = new Float64Array(4);
    turnTimes(out, 0, Float64Array.from(a), 0, Float64Array.from(b), 0);
    quaternionMultiply(a, b).forEach((v, i) => {
      expect(out[i]).toBeCloseTo(v, 12);
    });
  });

  test('go between two the shorter way, at an even pace', () => {
    const from = Float64Array.from(quaternionAbout([0, 0, 1], 0.2));
    const to = Float64Array.from(quaternionAbout([0, 0, 1], 1.4)).map((v) => -v);
    const out = new Float64Array(4);
    for (const share of [0, 0.25, 0.5, 1]) {
      slerp(out, 0, from, 0, to, 0, share);
      expect(2 * Math.atan2(out[2], out[3])).toBeCloseTo(0.2 + 1.2 * share, 9);
    }
  });
});

describe('a swing', () => {
  test('brings one direction to another, and by a share that share of the angle', () => {
    fc.assert(
      fc.property(point, point, fc.double({ min: 0, max: 1, noNaN: true }), (from, to, share) => {
        const [a, b] = [Math.hypot(...from), Math.hypot(...to)];
        fc.pre(a > 0.01 && b > 0.01);
        const q = new Float64Array(4);
        const way = [from[0], from[1], from[2], to[0], to[1], to[2]] as const;
        swing(q, 0, ...way, 1);
        const there = turned(q, from);
        for (let c = 0; c < 3; c++) expect(there[c] / a).toBeCloseTo(to[c] / b, 6);
        const angle = (x: Float64Array) => 2 * Math.atan2(Math.hypot(x[0], x[1], x[2]), x[3]);
        const whole = angle(q);
        swing(q, 0, ...way, share);
        expect(angle(q)).toBeCloseTo(whole * share, 6);
      }),
    );
  });

  test('of opposite directions goes half round', () => {
    for (const v of [
      [1, 0, 0],
      [0, 1, 0],
      [0.3, -0.2, 0.9],
    ]) {
      const q = new Float64Array(4);
      swing(q, 0, v[0], v[1], v[2], -v[0], -v[1], -v[2], 1);
      turned(q, v).forEach((n, i) => {
        expect(n).toBeCloseTo(-v[i], 9);
      });
    }
  });
});
