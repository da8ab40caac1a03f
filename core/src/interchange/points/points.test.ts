import fc from 'fast-check';
import { zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { Refused } from '../../schema/refused.ts';
import { ball, RADIUS, shotWith } from '../../testing/sets.ts';
import { usualChoices } from '../bake/choices.ts';
import { writeNpy } from './npy.ts';
import { pointCachesOf } from './of-shot.ts';
import type { PointCache } from './points.ts';
import { readPointCache } from './read.ts';
import { writePointCache } from './write.ts';

const choices = { ...usualChoices, frames: { first: 1, last: 4 }, clips: [], rate: 24 };
const small: PointCache = {
  rate: 24,
  frames: 2,
  bodies: [{ name: 'A', first: 0, count: 3 }],
  points: Float32Array.from({ length: 18 }, (_, i) => i / 3),
  triangles: Uint32Array.of(0, 1, 2),
};

describe('a point cache', () => {
  test('comes in again as it went out', () => {
    expect(readPointCache(writePointCache(small))).toEqual(small);
  });

  test('has every vertex of a ball its radius from where the ball is, at every frame', () => {
    const shot = shotWith(ball({ 'move.x': 2 }));
    const [{ cache }] = pointCachesOf(shot, choices);
    expect(cache.frames).toBe(4);
    expect(cache.points.length).toBe(4 * cache.bodies[0].count * 3);
    for (let p = 0; p < cache.points.length; p += 3) {
      const [x, y, z] = cache.points.subarray(p, p + 3);
      expect(Math.hypot(x - 2, y - RADIUS, z)).toBeCloseTo(RADIUS, 5);
    }
  });

  test('is turned and sized as the receiver has it', () => {
    const [{ cache }] = pointCachesOf(shotWith(ball({ 'move.y': 3 })), { ...choices, up: 'z', scale: 100 });
    const heights = cache.points.filter((_, i) => i % 3 === 2);
    expect(Math.max(...heights)).toBeCloseTo((3 + RADIUS) * 100, 3);
  });

  test('of nobody is refused', () => {
    expect(() => pointCachesOf(shotWith(), choices)).toThrow('nobody to hand on');
  });
});

const numbers = (shape: number[], count: number) => writeNpy(shape, new Float32Array(count));
const parts = {
  'points.npy': writeNpy([2, 3, 3], small.points),
  'triangles.npy': writeNpy([1, 3], small.triangles),
  'about.json': new Uint8Array([...'{"rate":24,"frames":2,"bodies":[]}'].map((c) => c.charCodeAt(0))),
};

test.each([
  ['no archive at all', new Uint8Array([1, 2, 3]), 'no archive'],
  ['a part that is missing', zipSync({ 'points.npy': parts['points.npy'] }), 'has no triangles.npy'],
  ['a shape that is not there', zipSync({ ...parts, 'points.npy': numbers([2, 3, 3], 5) }), 'says it holds'],
  ['another number of frames', zipSync({ ...parts, 'points.npy': numbers([1, 3, 3], 9) }), 'is not 2 frames'],
  [
    'vertices that are not there',
    zipSync({ ...parts, 'triangles.npy': writeNpy([1, 3], Uint32Array.of(0, 1, 9)) }),
    'names vertices',
  ],
  ['no sense in what it is about', zipSync({ ...parts, 'about.json': new Uint8Array([123]) }), 'is not JSON'],
])('with %s it is refused', (_, bytes, why) => {
  expect(() => readPointCache(bytes)).toThrow(why);
});

test('five hundred spoilt caches are read or refused with a sentence', () => {
  const good = writePointCache(small);
  const change = fc.record({ at: fc.nat({ max: good.length - 1 }), byte: fc.nat({ max: 255 }) });
  const length = fc.oneof(fc.constant(good.length), fc.nat({ max: good.length }));
  fc.assert(
    fc.property(fc.array(change, { minLength: 1, maxLength: 4 }), length, (changes, end) => {
      const bytes = good.slice(0, end);
      for (const { at, byte } of changes) if (at < end) bytes[at] = byte;
      try {
        readPointCache(bytes);
      } catch (error) {
        expect(error).toBeInstanceOf(Refused);
      }
    }),
    { numRuns: 500 },
  );
});
