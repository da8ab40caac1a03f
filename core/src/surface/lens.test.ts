import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { confusionOf, lensOf, openingOf, overDisc, shiftOf, viewOf } from './lens.ts';

const view = fc.double({ min: 0.1, max: 2, noNaN: true });
const metres = fc.double({ min: 0.3, max: 60, noNaN: true });
const aperture = fc.double({ min: 1, max: 22, noNaN: true });

describe('a lens', () => {
  it('is told in millimetres and back', () => {
    expect(lensOf(viewOf(50))).toBeCloseTo(50, 12);
    // 24 mm of picture behind 24 mm of lens: 2 · atan(1/2).
    expect(viewOf(24)).toBeCloseTo(2 * Math.atan(0.5), 12);
  });

  it('draws points out of focus as large as the thin lens says', () => {
    // 50 mm at f/2 on 2 m: what stands at 4 m is a disc of 50/2 · (4−2)/4 · 50/(2000−50) mm on a picture 24 mm high.
    const image = (50 * 2000) / (2000 - 50);
    const disc = (50 / 2) * (2000 / 4000) * (50 / (2000 - 50));
    expect(confusionOf(viewOf(image), 2, 2, 4)).toBeCloseTo(disc / 24, 9);
    expect(confusionOf(viewOf(image), 2, 2, 2)).toBe(0);
    expect(openingOf(viewOf(50), 0, 2)).toBe(0);
  });

  it('sampled by pinholes over its opening, spreads a point as far as its circle of confusion', () => {
    fc.assert(
      fc.property(view, aperture, metres, metres, (v, n, focus, at) => {
        const radius = openingOf(v, n, focus) / 2;
        // Where pinholes at both edges of the opening see a point that is straight ahead, in halves of the picture's height.
        const seen = (dx: number) => -dx / at / Math.tan(v / 2) - shiftOf(dx, 0, focus, v, 1)[0];
        const spread = Math.abs(seen(radius) - seen(-radius)) / 2;
        expect(spread).toBeCloseTo(confusionOf(v, n, focus, at), 9);
      }),
    );
  });

  it('is sampled evenly: as many points in each half as in the other, and none outside', () => {
    for (const count of [1, 8, 32]) {
      const points = overDisc(count);
      let [x, y] = [0, 0];
      for (let i = 0; i < points.length; i += 2) {
        expect(Math.hypot(points[i], points[i + 1])).toBeLessThanOrEqual(1);
        x += points[i] / count;
        y += points[i + 1] / count;
      }
      expect(Math.hypot(x, y)).toBeLessThan(0.1);
    }
  });
});
