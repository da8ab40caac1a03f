import { describe, expect, test } from 'vitest';
import { skyLight, sunHeight, writeSky } from './sky.ts';

const at = (hour: number, haze = 0) => {
  const out = skyLight();
  writeSky(hour, haze, out);
  return out;
};
const hours = Array.from({ length: 24 * 60 + 1 }, (_, m) => m / 60);

describe('the sun', () => {
  test('rises at six and sets at six, and stands as high at noon as the latitude leaves', () => {
    expect(sunHeight(6)).toBeCloseTo(0, 9);
    expect(sunHeight(18)).toBeCloseTo(0, 9);
    expect((sunHeight(12) * 180) / Math.PI).toBeCloseTo(36, 9);
    expect((sunHeight(0) * 180) / Math.PI).toBeCloseTo(-36, 9);
  });

  test('comes from the east in the morning, the south at noon, the west in the evening, always from above', () => {
    expect(at(8).towards[0]).toBeGreaterThan(0.5);
    expect(at(16).towards[0]).toBeLessThan(-0.5);
    expect([Math.abs(at(12).towards[0]), at(12).towards[2] > 0]).toEqual([0, true]);
    for (const hour of hours) {
      const { towards } = at(hour);
      expect(Math.hypot(...towards)).toBeCloseTo(1, 9);
      expect(towards[1]).toBeGreaterThan(0);
    }
  });
});

test('nothing of the light jumps in a day but where it comes from, and that only while there is none', () => {
  let before = at(0, 0.3);
  for (const hour of hours.slice(1)) {
    const now = at(hour, 0.3);
    for (const part of ['sun', 'zenith', 'horizon', 'above', 'below', 'floor'] as const)
      for (let c = 0; c < 3; c++) {
        expect(now[part][c]).toBeGreaterThanOrEqual(0);
        expect(now[part][c]).toBeLessThanOrEqual(1);
        expect(Math.abs(now[part][c] - before[part][c])).toBeLessThan(0.04);
      }
    expect(Math.abs(now.strength - before.strength)).toBeLessThan(0.15);
    expect(Math.abs(now.ambient - before.ambient)).toBeLessThan(0.05);
    const turned = Math.hypot(...now.towards.map((v, c) => v - before.towards[c]));
    if (turned > 0.05) expect(Math.max(now.strength, before.strength)).toBeLessThan(0.02);
    before = now;
  }
  expect(at(24).strength).toBeCloseTo(at(0).strength, 9);
});

test('a night is dark and a day is bright; haze takes from the sun and gives to the sky', () => {
  const light = ({ floor }: { floor: Float64Array }) => floor[0] + floor[1] + floor[2];
  expect(light(at(13))).toBeGreaterThan(2.5 * light(at(23)));
  expect(at(13, 1).strength).toBeLessThan(0.5 * at(13).strength);
  expect(at(13, 1).ambient).toBeGreaterThan(at(13).ambient);
  expect(at(13).lost).toBe(0);
  // In full haze nothing is left of what stands a hundred metres away.
  expect(Math.exp(-((at(13, 1).lost * 100) ** 2))).toBeLessThan(1e-3);
});
