import { expect, test } from 'vitest';
import { pressed } from './command.ts';

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  pressed({ key, code: '', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more });

test.each([
  [press('k'), 'K'],
  [press('K', { shiftKey: true }), 'Shift+K'],
  [press('z', { ctrlKey: true }), 'Ctrl+Z'],
  [press('z', { metaKey: true }), 'Ctrl+Z'],
  [press(' '), 'Space'],
  [press('ArrowLeft', { shiftKey: true }), 'Shift+←'],
  [press('?', { shiftKey: true }), '?'],
  [press('/', {}), '/'],
  [press('1', { altKey: true }), 'Alt+1'],
  [press('!', { altKey: true, shiftKey: true, code: 'Digit1' }), 'Alt+Shift+1'],
  [press('=', { shiftKey: true, code: 'Digit0' }), '='],
  [press('Delete'), 'Delete'],
])('a press is written as its shortcut: %s is %s', (got, expected) => {
  expect(got).toBe(expected);
});
