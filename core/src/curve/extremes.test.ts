import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberCurve } from '../testing/arbitraries.ts';
import { extremesOf } from './extremes.ts';
import { type Key, type NumberCurve, smoothKey } from './key.ts';
import { CurveReader } from './sample.ts';

const curve = (...keys: Key[]): NumberCurve => ({ type: 'number', keys, before: 'hold', after: 'hold' });
const linear = (frame: number, value: number): Key => ({
  frame,
  value,
  in: { kind: 'linear' },
  out: { kind: 'linear' },
  joined: false,
  role: 'key',
});

describe('the extremes of a curve', () => {
  test('are the corners of a zigzag, its ends among them, with the slopes on both sides', () => {
    const found = extremesOf(curve(linear(1, 0), linear(11, 1), linear(16, 0), linear(26, 0.5)));
    expect(found.map((e) => [e.kind, e.frame, Math.round(e.value * 1e9) / 1e9 + 0])).toEqual([
      ['bottom', 1, 0],
      ['top', 11, 1],
      ['bottom', 16, 0],
      ['top', 26, 0.5],
    ]);
    expect(found[1].slopeIn).toBeCloseTo(0.1, 9);
    expect(found[1].slopeOut).toBeCloseTo(-0.2, 9);
  });

  test('that lie level say from when until when', () => {
    const [, top] = extremesOf(curve(linear(1, 0), linear(5, 1), linear(9, 1), linear(12, 0)));
    expect(top).toMatchObject({ kind: 'top', frame: 5, until: 9 });
  });

  test('between keys are found where the curve turns, not where the keys are', () => {
    const over = curve(
      { ...smoothKey(1, 0), out: { kind: 'free', frames: 4, rise: 3 }, joined: false },
      { ...smoothKey(13, 0), in: { kind: 'free', frames: 4, rise: 3 }, joined: false },
    );
    const [, top] = extremesOf(over);
    expect(top.frame).toBeCloseTo(7, 9);
    expect(top.value).toBeCloseTo(2.25, 9);
  });

  test('a level curve has none, a stepped one jumps at its keys', () => {
    expect(extremesOf(curve(linear(1, 3), linear(9, 3)))).toEqual([]);
    const stepped = { ...linear(1, 0), out: { kind: 'stepped' as const } };
    expect(extremesOf(curve(stepped, linear(9, 2), linear(12, 1))).map((e) => [e.kind, e.frame])).toEqual([
      ['bottom', 9],
      ['top', 9],
      ['bottom', 12],
    ]);
  });

  test('of any curve take turns, and nothing between two of them lies outside them', () => {
    fc.assert(
      fc.property(numberCurve, (any) => {
        const found = extremesOf(any);
        const reader = new CurveReader(any);
        for (let i = 1; i < found.length; i++) {
          const [a, b] = [found[i - 1], found[i]];
          expect(a.kind).not.toBe(b.kind);
          expect(b.frame).toBeGreaterThanOrEqual(a.until);
          const [low, high] = [Math.min(a.value, b.value), Math.max(a.value, b.value)];
          const slack = 1e-6 * Math.max(1, Math.abs(low), Math.abs(high));
          for (let s = 0.05; s < 1; s += 0.1) {
            const v = reader.at(a.until + (b.frame - a.until) * s);
            expect(v).toBeGreaterThan(low - slack);
            expect(v).toBeLessThan(high + slack);
          }
        }
      }),
      { numRuns: 200 },
    );
  });
});
