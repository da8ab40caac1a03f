import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Box, snapAlong, snapSize, toStep } from './snap.ts';

const box = (x: number, y: number, z: number, size = 1): Box => ({
  min: [x, y, z],
  max: [x + size, y + size, z + size],
});
const REACH = 0.1;

test('a thing stands on the ground, against another, level with it, or middle to middle', () => {
  expect(snapAlong(box(5, 0.06, 5), [], 1, REACH)).toBeCloseTo(-0.06, 12);
  const other = box(0, 0, 0);
  expect(snapAlong(box(1.07, 0, 0), [other], 0, REACH)).toBeCloseTo(-0.07, 12);
  expect(snapAlong(box(-1.03, 0, 0), [other], 0, REACH)).toBeCloseTo(0.03, 12);
  expect(snapAlong(box(0, 1.02, 0), [other], 1, REACH)).toBeCloseTo(-0.02, 12);
  expect(snapAlong(box(0.05, 1, 0), [other], 0, REACH)).toBeCloseTo(-0.05, 12);
  expect(snapAlong(box(0.28, 1, 0, 0.4), [other], 0, REACH)).toBeCloseTo(0.02, 12);
});

test('what is out of reach, or not beside it, is left alone', () => {
  const other = box(0, 0, 0);
  expect(snapAlong(box(1.3, 0, 0), [other], 0, REACH)).toBe(0);
  expect(snapAlong(box(1.05, 0, 5), [other], 0, REACH)).toBe(0);
  expect(snapAlong(box(0, 3, 0), [other], 1, REACH)).toBe(0);
});

test('what has snapped stays where it is, to a thousandth of a micrometre', () => {
  const boxes = fc.array(
    fc
      .tuple(...Array.from({ length: 3 }, () => fc.double({ min: -2, max: 2, noNaN: true })))
      .map(([x, y, z]) => box(x, y, z)),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(boxes, fc.double({ min: -2, max: 2, noNaN: true }), fc.constantFrom(0, 1, 2), (others, at, axis) => {
      const moving = box(at, at, at);
      const by = snapAlong(moving, others, axis as 0 | 1 | 2, REACH);
      expect(Math.abs(by)).toBeLessThanOrEqual(REACH);
      const move = (p: readonly number[]) => p.map((v, c) => (c === axis ? v + by : v)) as unknown as Box['min'];
      const there = { min: move(moving.min), max: move(moving.max) };
      expect(Math.abs(snapAlong(there, others, axis as 0 | 1 | 2, REACH))).toBeLessThan(by === 0 ? 0.1 + 1e-9 : 1e-9);
    }),
  );
});

test('a number goes to the nearest step', () => {
  expect(toStep(0.26, 0.1)).toBeCloseTo(0.3, 12);
  expect(toStep(-0.26, 0.5)).toBeCloseTo(-0.5, 12);
  expect(toStep(0.1 + 0.2, 0.1)).toBeCloseTo(0.3, 12);
});

test('a size goes to where a face of the box stands level with another, and no further than the reach', () => {
  const [moving, other] = [box(2, 0, 0), box(0, 0, 0)];
  const factor = (hand: number) => snapSize(moving, 2.5, hand, [other], 0, REACH);
  // Its left face is half a metre from its pivot: at three times its size it comes to the other's right one, at four to its middle.
  expect(factor(2.85)).toBeCloseTo(3, 12);
  expect(factor(3.1)).toBeCloseTo(3, 12);
  expect(factor(4.1)).toBeCloseTo(4, 12);
  expect(factor(3.5)).toBe(3.5);
  expect(factor(9)).toBe(9);
  // Onto the ground, down from a pivot over it; a face that is at the pivot never goes anywhere.
  const over: Box = { min: [5, 0.5, 5], max: [6, 1.5, 6] };
  expect(snapSize(over, 1, 1.98, [], 1, REACH)).toBeCloseTo(2, 12);
  expect(snapSize(over, 0.5, 1.2, [], 1, REACH)).toBe(1.2);
});
