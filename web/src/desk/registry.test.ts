import { expect, test, vi } from 'vitest';
import { commandOf } from '../commands/list.ts';
import { panelHelp } from '../help/texts.ts';
import './commands.ts';
import { headingOf, type PanelId, panelOf, panels, shownAmong } from './panels.ts';
import { deskOf, desks, FIRST_DESK } from './registry.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

test('the desks are those of the work, in its order, each with a command', () => {
  expect(desks.map((d) => d.word)).toEqual(['Plan', 'Cast', 'Animate', 'Review', 'Hand on']);
  for (const { id, word } of desks) expect(commandOf(`desk.${id}`).label).toBe(`Go to the desk ${word}`);
});

test('an address without a desk is the first one’s, and one with another word nobody’s', () => {
  expect(deskOf(undefined)?.id).toBe(FIRST_DESK);
  expect(deskOf('deliver')).toBeUndefined();
});

test('every panel stands on a desk, has its command, and its heading in the help', () => {
  const standing = new Set(desks.flatMap((d) => [...d.places.beside, ...d.places.below]));
  for (const id of Object.keys(panels) as PanelId[]) {
    expect(standing.has(id), id).toBe(true);
    expect(commandOf(`view.${id}`).label).toMatch(/^Show the /);
    expect(panelHelp.has(headingOf(panelOf(id))), id).toBe(true);
  }
});

test('a place shows what is chosen where it stands there, else its first', () => {
  expect(shownAmong('kits', ['channels', 'kits'])).toBe('kits');
  expect(shownAmong('sheet', ['channels', 'kits'])).toBe('channels');
});
