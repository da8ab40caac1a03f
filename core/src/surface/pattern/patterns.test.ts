import { describe, expect, test } from 'vitest';
import { patternNames } from '../../document/material.ts';
import { colourNumbers } from '../../schema/numbers.ts';
import { lot, noise, roughNoise } from './noise.ts';
import { patterns } from './patterns.ts';
import { paintedTile, patternTile } from './tile.ts';

describe('noise', () => {
  test('is from 0 to 1, begins again where the tile does, and is smooth', () => {
    for (const at of [noise(5, 9, 3), roughNoise(3, 4, 7)]) {
      for (let i = 0; i < 400; i++) {
        const [u, v] = [lot(i, 0, 1), lot(i, 1, 1)];
        const value = at(u, v);
        expect(value).toBeGreaterThanOrEqual(0);
        expect(value).toBeLessThanOrEqual(1);
        expect(at(u + 1, v - 2)).toBeCloseTo(value, 9);
        expect(Math.abs(at(u + 1e-5, v) - value)).toBeLessThan(1e-3);
      }
      expect(at(0, 0.3)).toBeCloseTo(at(1 - 1e-12, 0.3), 6);
    }
  });

  test('lots are spread evenly', () => {
    const tenths = new Array(10).fill(0);
    for (let i = 0; i < 10_000; i++) tenths[Math.floor(lot(i % 100, Math.floor(i / 100), 5) * 10)]++;
    for (const count of tenths) expect(Math.abs(count - 1000)).toBeLessThan(120);
  });
});

describe.each(patternNames)('the pattern %s', (name) => {
  test('stays between its two colours, shows both, and is the same every time', () => {
    const tile = patternTile(name, 0.7, 96);
    const mixes = [...tile].filter((_, i) => i % 2 === 0);
    expect(Math.max(...mixes) - Math.min(...mixes)).toBeGreaterThan(60);
    expect(patternTile(name, 0.7, 96)).toBe(tile);
    expect(tile.length).toBe(96 * 96 * 2);
  });

  test('goes on over the edge of its tile: from the last point to the first no further than elsewhere', () => {
    const at = patterns[name](0.7);
    const [a, b] = [new Float64Array(2), new Float64Array(2)];
    /** How far two neighbours are apart on the average, along a line across. */
    const step = (u: number, v: number, du: number, dv: number) => {
      at((u + 1) % 1, (v + 1) % 1, a);
      at((u + du + 1) % 1, (v + dv + 1) % 1, b);
      return Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]);
    };
    const h = 1e-3;
    const mean = (over: (i: number) => number) =>
      Array.from({ length: 200 }, (_, i) => over(i)).reduce((s, v) => s + v, 0) / 200;
    // Edges of boards and bricks may lie on the edge of the tile: they change as much as any such edge does.
    const most = Math.max(
      ...Array.from({ length: 79 }, (_, k) => mean((i) => step((k + 1) / 80 - h / 2, i / 200, h, 0))),
      ...Array.from({ length: 79 }, (_, k) => mean((i) => step(i / 200, (k + 1) / 80 - h / 2, 0, h))),
    );
    expect(mean((i) => step(1 - h / 2, i / 200, h, 0))).toBeLessThanOrEqual(most + 0.01);
    expect(mean((i) => step(i / 200, 1 - h / 2, 0, h))).toBeLessThanOrEqual(most + 0.01);
  });
});

test('a tile is painted as light mixes: the colours themselves at both ends, half their light half way', () => {
  const [first, second] = [colourNumbers('#c4432b'), colourNumbers('#2f5da8')];
  const painted = paintedTile(Uint8Array.of(0, 255, 255, 255, 128, 255, 0, 0), first, second);
  expect([...painted.slice(0, 4)]).toEqual([0xc4, 0x43, 0x2b, 255]);
  expect([...painted.slice(4, 8)]).toEqual([0x2f, 0x5d, 0xa8, 255]);
  // Half the light of 0xc4 and of 0x2f, by the standard's formula: 0x93, to a step.
  expect(Math.abs(painted[8] - 0x92)).toBeLessThanOrEqual(1);
  expect([...painted.slice(12, 15)]).toEqual([0, 0, 0]);
});
