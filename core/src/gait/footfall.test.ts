import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Anatomy, Leg } from './anatomy.ts';
import { areOpposite, beatsOf, type Fall, fallsOf, forwardness, load, stancesOf } from './footfall.ts';

const leg = (control: string, side: 'left' | 'right', girdle: 'hips' | 'chest' = 'hips') =>
  ({ control, side, girdle }) as Leg;
const two = { legs: [leg('footL', 'left'), leg('footR', 'right')] } as unknown as Anatomy;
const walk = { falls: [0, 0.5], down: 0.6, limp: 0 };

const anyFall = fc
  .tuple(fc.integer({ min: 8, max: 60 }), fc.nat(), fc.nat())
  .map(([length, a, b]): { length: number; fall: Fall } => ({
    length,
    fall: { leg: two.legs[0], from: a % length, frames: 2 + (b % (length - 5)) },
  }));

describe('footfalls', () => {
  test('of a walk come half a cycle apart, each down for its share', () => {
    const falls = fallsOf(two, 24, walk);
    expect(stancesOf(falls)).toEqual({ footL: [{ from: 0, to: 14 }], footR: [{ from: 12, to: 26 }] });
    expect(areOpposite(falls, 24)).toBe(true);
  });

  test('of a limp: the sore foot stands shorter, and the other hurries to relieve it', () => {
    const [left, right] = fallsOf(two, 30, { ...walk, limp: -1 });
    const [, sound] = fallsOf(two, 30, walk);
    expect(left.frames).toBe(Math.round(0.6 * 0.7 * 30));
    expect(right.frames).toBe(sound.frames);
    expect(right.from).toBe(sound.from - 3);
    expect(areOpposite([left, right], 30)).toBe(false);
  });

  test('leave every foot down for two frames and in the air for three, whatever is asked for', () => {
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 96 }), fc.double({ min: 0, max: 1, noNaN: true }), (length, down) => {
        for (const { from, frames } of fallsOf(two, length, { ...walk, down })) {
          expect(frames).toBeGreaterThanOrEqual(2);
          expect(length - frames).toBeGreaterThanOrEqual(3);
          expect(from).toBeGreaterThanOrEqual(0);
          expect(from).toBeLessThan(length);
        }
      }),
    );
  });
});

describe('a foot in its round', () => {
  test('is furthest forward where it comes down, furthest back where it leaves, and goes evenly between', () => {
    fc.assert(
      fc.property(anyFall, ({ length, fall }) => {
        const at = (along: number) => forwardness(fall, fall.from + along, length);
        expect(at(0)).toBeCloseTo(1, 12);
        expect(at(fall.frames)).toBeCloseTo(-1, 12);
        expect(at(fall.frames / 2)).toBeCloseTo(0, 12);
        expect(at((fall.frames + length) / 2)).toBeCloseTo(0, 12);
        for (let f = 0; f < length; f += 0.5) expect(Math.abs(at(f))).toBeLessThanOrEqual(1 + 1e-12);
      }),
    );
  });

  test('carries nothing in the air, and takes the weight over while it stands', () => {
    fc.assert(
      fc.property(anyFall, ({ length, fall }) => {
        for (let f = fall.frames; f < length; f++) expect(load(fall, fall.from + f, length)).toBe(0);
        expect(load(fall, fall.from, length)).toBe(0);
        expect(load(fall, fall.from + fall.frames / 2, length)).toBeGreaterThan(0);
      }),
    );
  });
});

describe('beats', () => {
  test('of feet that come down apart are one each, with down after a quarter of the step', () => {
    const beats = beatsOf(fallsOf(two, 24, walk), 24, 0);
    expect(beats.map(({ contact, down, passing, up }) => [contact, down, passing, up])).toEqual([
      [0, 3, 6, 9],
      [12, 15, 18, 21],
    ]);
  });

  test('of the heavy sink later', () => {
    const [light] = beatsOf(fallsOf(two, 48, walk), 48, 0);
    const [heavy] = beatsOf(fallsOf(two, 48, walk), 48, 1);
    expect(heavy.down - light.down).toBe(2);
    expect(heavy.passing).toBe(light.passing);
  });

  test('of feet that come down nearly together are one, beginning with the first, also over the seam', () => {
    const falls = fallsOf(two, 20, { falls: [0.05, 0.95], down: 0.3, limp: 0 });
    const beats = beatsOf(falls, 20, 0);
    expect(beats).toHaveLength(1);
    expect(beats[0]).toMatchObject({ together: true, contact: 19, fall: falls[1] });
  });
});
