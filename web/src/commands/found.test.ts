import { expect, test, vi } from 'vitest';
import { answers, frameTyped } from './found.ts';
import { commands } from './list.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

/** What is found first by some words: of those that answer best the first. */
const first = (typed: string) =>
  commands.map((c) => ({ c, score: answers(`${c.label} ${c.id}`, typed) })).sort((a, b) => b.score - a.score)[0].c.id;

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
  expect(first(typed)).toBe(id);
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
