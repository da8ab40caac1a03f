import { expect, test } from 'vitest';
import { Quality } from './quality.ts';

test('three slow pictures bring the draft, one does not, and only a long run of quick ones brings the full picture back', () => {
  const quality = new Quality();
  quality.took(200);
  quality.took(8);
  expect([quality.took(90), quality.took(90), quality.took(90)]).toEqual([false, false, true]);
  expect(quality.draft).toBe(true);
  for (let i = 0; i < 11; i++) expect(quality.took(5)).toBe(false);
  expect(quality.took(5)).toBe(true);
  expect(quality.draft).toBe(false);
});
