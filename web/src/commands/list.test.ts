import { expect, test, vi } from 'vitest';
import '../desk/commands.ts';
import { commands } from './list.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

test('no shortcut serves two commands, and no two commands are one', () => {
  const keys = commands.flatMap((command) => command.shortcut ?? []);
  expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
  const ids = commands.map((command) => command.id);
  expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
});
