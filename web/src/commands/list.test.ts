import { Program } from '@varrup/core';
import { expect, test, vi } from 'vitest';
import { ball, shotWith, withKit } from '../../../core/src/testing/sets.ts';
import '../desk/commands.ts';
import { useShot } from '../shot/shot-store.ts';
import { commands } from './list.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));
vi.stubGlobal('requestAnimationFrame', () => 1);
vi.stubGlobal('location', { pathname: '/shots/s' });

test('no shortcut serves two commands, and no two commands are one', () => {
  const keys = commands.flatMap((command) => command.shortcut ?? []);
  expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
  const ids = commands.map((command) => command.id);
  expect(ids.filter((id, i) => ids.indexOf(id) !== i)).toEqual([]);
});

test('whether a command can be given is told without working out a frame: menus ask it of all they hold', () => {
  const shot = withKit(shotWith(ball()), 'bounce', { height: 1, material: 'rubber' });
  useShot.setState({ status: 'ready', shot, committed: shot });
  const evaluated = vi.spyOn(Program.prototype, 'evaluate');
  const open = commands.filter((command) => command.enabled?.() ?? true).map((command) => command.id);
  expect(open).toContain('sound.landings');
  expect(evaluated).not.toHaveBeenCalled();
});
