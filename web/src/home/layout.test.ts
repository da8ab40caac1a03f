import { expect, test } from 'vitest';
import { cardLayout, linesOf, productionHeight } from './layout.ts';

test('cards are as many beside each other as are wide enough, and at least one', () => {
  expect([200, 240, 495, 496, 1216].map((width) => cardLayout(width).columns)).toEqual([1, 1, 1, 2, 4]);
});

test('a production is as high as its lines, with a place for a new shot among the others', () => {
  const layout = cardLayout(1216);
  expect([0, 1, 3, 4, 7, 8].map((shots) => linesOf(shots, layout))).toEqual([1, 1, 1, 2, 2, 3]);
  expect(productionHeight(4, layout) - productionHeight(3, layout)).toBe(layout.line);
});
