import { expect, test, vi } from 'vitest';
import { answers, found, frameTyped, grouped } from './found.ts';
import { commands } from './list.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

const called = (c: (typeof commands)[number]) => `${c.label} ${c.id}`;

test.each([
  ['frame rate', 'time.rate'],
  ['onion', 'view.onion'],
  ['bring in: ball', 'cast.add.ball'],
  ['ball bring', 'cast.add.ball'],
  ['squash', 'kit.squash'],
  ['make a movie', 'shot.movie'],
  ['thin', 'curves.thin'],
  ['first shot', 'help.firstShot'],
  ['undo', 'shot.undo'],
])('“%s” finds %s first', (typed, id) => {
  expect(found(commands, called, typed, 5)[0].is.id).toBe(id);
});

test('no more is offered than asked for, and all of it where nothing is typed', () => {
  expect(found(commands, called, 'key', 7)).toHaveLength(7);
  expect(found(commands, called, ' ', 7).map((f) => f.is)).toEqual(commands);
  expect(found(commands, called, 'zzz', 7)).toEqual([]);
});

test('groups come in the order of the best in each, and nothing is lost between them', () => {
  const all = found(commands, called, 'key', 24);
  const groups = grouped(all, (c) => c.group);
  expect(groups[0][0]).toBe(all[0].is.group);
  expect(new Set(groups.map(([group]) => group)).size).toBe(groups.length);
  expect(new Set(groups.flatMap(([, ones]) => ones))).toEqual(new Set(all.map((f) => f.is)));
});

test('every command is found by its own words, and letters strewn through a text are not a word', () => {
  for (const c of commands) expect(answers(`${c.label} ${c.id}`, c.label), c.id).toBe(1);
  expect(answers('Onion skin: draw the neighbouring frames around this one', 'frame rate')).toBe(0);
  expect(answers('Play or stop', '')).toBe(1);
});

test.each([
  ['37', 37],
  [' frame 37 ', 37],
  ['1.5 s', 37],
  ['0s', 1],
  ['-4', -4],
  ['36.6', 37],
  ['frame rate', null],
  ['37 keys', null],
  ['', null],
])('“%s” means frame %s', (typed, frame) => {
  expect(frameTyped(typed, 24)).toBe(frame);
});
