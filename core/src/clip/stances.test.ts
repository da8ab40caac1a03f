import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Key, NumberCurve } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import type { Clip, Stance } from '../document/clip.ts';
import { type Circle, laidOut } from './circle.ts';
import { groundSpeed, holdStance } from './stances.ts';

const LENGTH = 24;
const clip = { first: 1, length: LENGTH, travel: 1.2 } as Clip;

const smoothKey = (phase: number, value: number): Key => ({
  frame: clip.first + phase,
  value,
  in: { kind: 'smooth' },
  out: { kind: 'smooth' },
  joined: true,
  role: 'key',
});

const anyCircle = fc
  .uniqueArray(fc.tuple(fc.integer({ min: 0, max: LENGTH - 1 }), fc.integer({ min: -40, max: 40 })), {
    selector: ([phase]) => phase,
    minLength: 2,
    maxLength: 9,
  })
  .map((list): Circle => new Map(list.map(([phase, v]) => [phase, smoothKey(phase, v / 100)])));

const anyStance = fc
  .tuple(fc.integer({ min: 0, max: LENGTH - 1 }), fc.integer({ min: 2, max: LENGTH - 3 }))
  .map(([from, frames]): Stance => ({ from, to: from + frames }));

const readerOf = (circle: Circle) => {
  const reader = new CurveReader(laidOut(circle, 'number', clip) as NumberCurve);
  return (phase: number) => reader.at(clip.first + phase);
};
const hold = (circle: Circle, stance: Stance, speed: number, touched: number[]) =>
  holdStance(circle, stance, clip, { speed, shift: null }, new Set(touched), readerOf(new Map(circle)));

describe('a foot that stands', () => {
  test('goes back under the body as fast as that travels, and in nothing else', () => {
    expect(groundSpeed(clip, 'move.z')).toBeCloseTo(-0.05, 12);
    for (const channel of ['move.x', 'move.y', 'turn.x', 'turn.y', 'turn.z'])
      expect(groundSpeed(clip, channel)).toBe(0);
  });

  test('lies on one straight way from its beginning to its end, whatever keys it had', () => {
    fc.assert(
      fc.property(anyCircle, anyStance, fc.constantFrom(0, -0.05), (circle, stance, speed) => {
        const before = new Set(circle.keys());
        hold(circle, stance, speed, [stance.from]);
        const at = readerOf(circle);
        for (let f = stance.from; f <= stance.to; f += 0.5)
          expect(at(f)).toBeCloseTo(at(stance.from) + speed * (f - stance.from), 9);
        // No key goes; those at both ends of the stance come.
        for (const phase of before) expect(circle.has(phase)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test('leaves keys in the air alone, and held once more nothing changes', () => {
    fc.assert(
      fc.property(anyCircle, anyStance, (circle, stance) => {
        const before = new Map(circle);
        hold(circle, stance, -0.05, [stance.from]);
        const ends = new Set([stance.from % LENGTH, stance.to % LENGTH]);
        for (const [phase, key] of before) {
          const along = (((phase - stance.from) % LENGTH) + LENGTH) % LENGTH;
          if (along > stance.to - stance.from && !ends.has(phase)) expect(circle.get(phase)).toBe(key);
        }
        const held = new Map(circle);
        hold(circle, stance, -0.05, []);
        expect([...circle]).toEqual([...held]);
        for (const [phase, key] of held) expect(circle.get(phase)).toBe(key);
      }),
      { numRuns: 300 },
    );
  });

  test('is taken along by a key that a hand has put within it', () => {
    const circle: Circle = new Map([
      [0, smoothKey(0, 0.3)],
      [6, smoothKey(6, 0.1)],
      [12, smoothKey(12, -0.3)],
      [18, smoothKey(18, 0)],
    ]);
    hold(circle, { from: 0, to: 12 }, -0.05, [6]);
    const at = readerOf(circle);
    expect(at(6)).toBeCloseTo(0.1, 12);
    expect(at(0)).toBeCloseTo(0.4, 12);
    expect(at(12)).toBeCloseTo(-0.2, 12);
    expect(circle.get(18)?.value).toBe(0);
  });
});
