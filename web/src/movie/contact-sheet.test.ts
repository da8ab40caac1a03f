import { expect, test } from 'vitest';
import { columnsFor } from './contact-sheet.ts';

test.each([
  [1, 1],
  [4, 2],
  [12, 3],
  [16, 4],
])('%i wide pictures stand in %i columns', (count, columns) => {
  expect(columnsFor(count, 16 / 9)).toBe(columns);
});
