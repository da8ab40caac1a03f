import { expect, test } from 'vitest';
import { smoothKey } from '../curve/key.ts';
import { CurveReader } from '../curve/sample.ts';
import { spacing } from './ribbon.ts';

test('spacing is how far the channel goes from frame to frame, slow at an eased key and fast between', () => {
  const reader = new CurveReader({
    type: 'number',
    keys: [smoothKey(1, 0), smoothKey(11, 5)],
    before: 'hold',
    after: 'hold',
  });
  const out = new Float64Array(12);
  const most = spacing(reader, 1, out);
  expect(out.reduce((a, b) => a + b)).toBeCloseTo(5, 12);
  expect(most).toBe(Math.max(...out));
  expect(out[0]).toBeLessThan(out[4] / 3);
  expect(out[11]).toBe(0);
});
