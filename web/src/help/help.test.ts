import { addMember, changeChannels, emptyShot, newMember, perform, Rigs, type Shot, setKeys } from '@varrup/core';
import { expect, test, vi } from 'vitest';
import { commands } from '../commands/list.ts';
import '../desk/commands.ts';
import { type Doings, nextStep, STEPS } from './first-shot.ts';
import { firstSteps, panelHelp } from './texts.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

const panels = [
  ...[
    'Cast',
    'Stage',
    'Channels',
    'Poses',
    'Clips',
    'Span',
    'Company',
    'Sets',
    'Kits',
    'Checks',
    'Pose strip',
    'Material',
    'Light',
  ],
  ...['Sheet', 'Curves', 'Mix', 'Cycle', 'Bounces', 'Formula', 'Files', 'Remarks', 'Pictures', 'Made', 'Playground'],
  ...['Idea', 'Drawing table', 'Board', 'Breakdown', 'Panel', 'Footage', 'Notes', 'Versions'],
];

test('every panel is explained in a few sentences, with where to go from there', () => {
  expect([...panelHelp.keys()].sort()).toEqual([...panels].sort());
  for (const [panel, { about, goOn }] of panelHelp) {
    const sentences = about.split(/[.:;](?:\s|$)/).filter(Boolean).length;
    expect(sentences, panel).toBeGreaterThanOrEqual(3);
    expect(sentences, panel).toBeLessThanOrEqual(7);
    expect(goOn.length, panel).toBeGreaterThan(20);
  }
});

test('every shortcut that the help names is one', () => {
  const keys = new Set(commands.flatMap((c) => c.shortcut ?? []));
  const texts = [...[...panelHelp.values()].flatMap((h) => [h.about, h.goOn]), ...firstSteps.map((s) => s.text)];
  const named = texts.flatMap((text) => [...text.matchAll(/`([^`]+)`/g)].map((m) => m[1]));
  // Numbers are what is typed.
  expect(named.filter((k) => !keys.has(k) && !/^[\d.]+$/.test(k))).toEqual([]);
});

test('the first shot has seven steps, each taken when it is done, in whatever way', () => {
  expect(firstSteps).toHaveLength(STEPS);
  expect(firstSteps.every((s) => s.title && s.text)).toBe(true);
  let shot: Shot = emptyShot('first', 'First', Rigs.none);
  const doing = { frame: 1, hasPlayed: false, sawChecks: false };
  const step = (more: Partial<Doings> = {}) => nextStep(0, { shot, ...doing, ...more });
  expect(step()).toBe(0);
  shot = perform(shot, addMember, { member: newMember(shot, { kind: 'ball', id: 'ball' }) })!.shot;
  expect(step()).toBe(1);
  shot = perform(shot, changeChannels, { frame: 1, values: { 'ball.move.y': 2 }, autoKey: 'off' })!.shot;
  expect(step()).toBe(2);
  shot = perform(shot, setKeys, { frame: 1, paths: ['ball.move.y'] })!.shot;
  expect(step()).toBe(3);
  expect(step({ frame: 13 })).toBe(4);
  shot = perform(shot, changeChannels, { frame: 13, values: { 'ball.move.y': 0.2 }, autoKey: 'every' })!.shot;
  // On a key again: the step that was taken stays taken.
  expect(nextStep(4, { shot, ...doing })).toBe(5);
  expect(nextStep(5, { shot, ...doing, hasPlayed: true })).toBe(6);
  expect(nextStep(6, { shot, ...doing, sawChecks: true })).toBe(STEPS);
});
