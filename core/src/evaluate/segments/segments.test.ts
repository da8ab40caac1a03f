import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { compileCurve } from '../../curve/compile.ts';
import type { NumberCurve } from '../../curve/key.ts';
import { CurveReader } from '../../curve/sample.ts';
import { Stretch } from '../../curve/seek.ts';
import { numberCurve, time } from '../../testing/arbitraries.ts';
import { PlacedCurves } from '../placed-curves.ts';
import { IS_GENTLE, IS_HARD, IS_TAME, sortOf } from './rows.ts';

/** A rise of 1 over 100 frames with free handles that reach so far. */
const between = (leave: number, arrive: number): NumberCurve => ({
  type: 'number',
  before: 'hold',
  after: 'hold',
  keys: [
    {
      frame: 0,
      value: 0,
      in: { kind: 'flat' },
      out: { kind: 'free', frames: leave * 100, rise: 0.2 },
      joined: false,
      role: 'key',
    },
    {
      frame: 100,
      value: 1,
      in: { kind: 'free', frames: arrive * 100, rise: -0.1 },
      out: { kind: 'flat' },
      joined: false,
      role: 'key',
    },
  ],
});

/** The sort of a curve's first segment. */
function sortOfFirst(curve: NumberCurve) {
  const stretch = new Stretch();
  stretch.segment = 0;
  return sortOf(compileCurve(curve), stretch);
}

/** The value by halving the interval the parameter lies in until it cannot be halved: slow, and right. */
function byHalving(leave: number, arrive: number, share: number): number {
  const bezier = (p1: number, p2: number, u: number) => 3 * u * (1 - u) * ((1 - u) * p1 + u * p2) + u * u * u;
  let [low, high] = [0, 1];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (bezier(leave, 1 - arrive, middle) < share) low = middle;
    else high = middle;
  }
  return bezier(0.2, 0.9, (low + high) / 2);
}

test('with all gentle and tame handles the value is found to 1e-10', () => {
  const placed = new PlacedCurves();
  const reaches = [...Array.from({ length: 27 }, (_, i) => Math.min(0.0801 + i * 0.02, 0.5999)), 0.16, 0.5];
  const handles = reaches.flatMap((leave) => reaches.map((arrive) => [leave, arrive] as const));
  handles.forEach(([leave, arrive], i) => {
    const curve = between(leave, arrive);
    const isGentle = Math.min(leave, arrive) >= 0.16 && Math.max(leave, arrive) <= 0.5;
    expect(sortOfFirst(curve)).toBe(isGentle ? IS_GENTLE : IS_TAME);
    placed.put(String(i), curve, i);
  });
  const values = new Float64Array(handles.length);
  let worst = 0;
  for (let frame = 0; frame < 100; frame += 0.7) {
    placed.run(frame, values);
    handles.forEach(([leave, arrive], i) => {
      worst = Math.max(worst, Math.abs(values[i] - byHalving(leave, arrive, frame / 100)));
    });
  }
  expect(worst).toBeLessThan(1e-10);
});

test('shorter or longer handles are not taken for tame', () => {
  for (const [leave, arrive] of [
    [0.07, 0.3],
    [0.3, 0.07],
    [0.62, 0.3],
    [0.3, 0.62],
    [0, 0],
  ])
    expect(sortOfFirst(between(leave, arrive))).toBe(IS_HARD);
});

test('whatever sorts its segments are of, and whichever way time goes, a curve has the value a reader gives it', () => {
  fc.assert(
    fc.property(
      fc.array(numberCurve, { minLength: 1, maxLength: 90 }),
      fc.array(time, { minLength: 1 }),
      (curves, times) => {
        const placed = new PlacedCurves();
        const values = new Float64Array(curves.length);
        curves.forEach((curve, i) => {
          const still = placed.put(String(i), curve, i);
          if (still !== null) values[i] = still;
        });
        const readers = curves.map((curve) => new CurveReader(curve));
        for (const at of times) {
          placed.run(at, values);
          readers.forEach((reader, i) => {
            const due = reader.at(at);
            expect(Math.abs(values[i] - due)).toBeLessThanOrEqual(1e-10 * Math.max(1, Math.abs(due)));
          });
        }
      },
    ),
  );
});

test('curves that come and go leave the others where they are', () => {
  const step = fc.record({ path: fc.nat(80), curve: fc.option(numberCurve), at: time });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 60 }), (steps) => {
      const placed = new PlacedCurves();
      const values = new Float64Array(81);
      const there = new Map<number, CurveReader>();
      for (const { path, curve, at } of steps) {
        if (curve) {
          const still = placed.put(String(path), curve, path);
          if (still !== null) values[path] = still;
          there.set(path, new CurveReader(curve));
        } else {
          placed.drop(String(path));
          there.delete(path);
        }
        placed.run(at, values);
        for (const [target, reader] of there) expect(values[target]).toBeCloseTo(reader.at(at), 8);
      }
    }),
  );
});
