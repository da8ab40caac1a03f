import { expect, test } from 'vitest';
import { delays } from './looped-picture.ts';

test.each([
  [24, 48],
  [25, 10],
  [30, 90],
  [23.976, 240],
])(
  'at %s a second %s frames of a looped picture take as long as in the shot, to a hundredth of a second',
  (rate, count) => {
    const each = delays(rate, count);
    expect(each).toHaveLength(count);
    expect(each.reduce((sum, d) => sum + d, 0)).toBe(Math.round((100 * count) / rate));
    expect(Math.max(...each) - Math.min(...each)).toBeLessThanOrEqual(1);
  },
);
