import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { CompiledWay } from './way.ts';

type Point = [number, number, number];

const flat: [number, number][] = [[0, 0]];
const out = new Float64Array(3);
const placeAt = (way: CompiledWay, d: number): [x: number, z: number, heading: number] => {
  way.placeAt(d, out);
  return [out[0], out[1], out[2]];
};

/** Points that lie apart, not all on one spot. */
const anyPoints = fc
  .array(fc.tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -20, max: 20 })), { minLength: 2, maxLength: 6 })
  .map((list) => list.map(([x, z]): Point => [x / 4, 0, z / 4]))
  .filter((list) => list.every(([x, , z], i) => i === 0 || x !== list[i - 1][0] || z !== list[i - 1][2]));

describe('a way', () => {
  test('between points in a row is straight, and as long as they are apart', () => {
    const way = new CompiledWay({
      points: [
        [0, 0, 0],
        [0.6, 0, 0.8],
        [3, 0, 4],
      ],
      ground: flat,
    });
    expect(way.length).toBeCloseTo(5, 9);
    for (const d of [0, 0.7, 1, 2.5, 5]) {
      const [x, z, heading] = placeAt(way, d);
      expect(x).toBeCloseTo(0.6 * d, 6);
      expect(z).toBeCloseTo(0.8 * d, 6);
      expect(heading).toBeCloseTo(Math.atan2(0.6, 0.8), 6);
    }
  });

  test('goes straight on before its beginning and after its end', () => {
    const way = new CompiledWay({
      points: [
        [0, 0, 0],
        [0, 0, 2],
      ],
      ground: flat,
    });
    expect(placeAt(way, -1.5).map((v) => v + 0)).toEqual([0, -1.5, 0]);
    expect(placeAt(way, 3)).toEqual([0, 3, 0]);
  });

  test('goes through every one of its points, and never faster along it than it is long', () => {
    fc.assert(
      fc.property(anyPoints, (points) => {
        const way = new CompiledWay({ points, ground: flat });
        const samples = Array.from({ length: 1_001 }, (_, i) => placeAt(way, (way.length * i) / 1_000));
        for (const [x, , z] of points) {
          const nearest = Math.min(...samples.map((s) => Math.hypot(s[0] - x, s[1] - z)));
          expect(nearest).toBeLessThan(way.length / 900 + 0.002);
        }
        for (let i = 1; i < samples.length; i++) {
          const gone = Math.hypot(samples[i][0] - samples[i - 1][0], samples[i][1] - samples[i - 1][1]);
          expect(gone).toBeLessThan((way.length / 1_000) * 1.001 + 1e-9);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('has a heading without jumps, also where it goes round and round', () => {
    const round = Array.from({ length: 17 }, (_, i): Point => [Math.sin(i * 0.8), 0, Math.cos(i * 0.8)]);
    const way = new CompiledWay({ points: round, ground: flat });
    let last = placeAt(way, 0)[2];
    for (let d = 0.02; d < way.length; d += 0.02) {
      const heading = placeAt(way, d)[2];
      expect(Math.abs(heading - last)).toBeLessThan(0.2);
      last = heading;
    }
    expect(Math.abs(last - placeAt(way, 0)[2])).toBeGreaterThan(3.5 * Math.PI);
  });

  test('lies on its ground: even between its heights, and at a jump on the side it comes from', () => {
    const way = new CompiledWay({
      points: [
        [0, 0, 0],
        [0, 0, 6],
      ],
      ground: [
        [0, 0],
        [2, 1],
        [3, 1],
        [3, 1.5],
        [5, 0.5],
      ],
    });
    const heights = [-1, 0, 1, 2, 2.5, 3, 3.0001, 4, 5, 9].map((d) => way.heightAt(d));
    for (const [i, h] of [0, 0, 0.5, 1, 1, 1, 1.49995, 1, 0.5, 0.5].entries()) expect(heights[i]).toBeCloseTo(h, 9);
  });
});
