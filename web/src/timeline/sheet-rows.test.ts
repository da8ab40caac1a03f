import { addMember, changeChannels, emptyShot, newMember } from '@varrup/core';
import { expect, test } from 'vitest';
import { craneShot } from '../testing/arm.ts';
import { allFolded, foldMark, profileOf, type RowChoice, ribbonHalf, rowKeys, sheetRows } from './sheet-rows.ts';

function shot() {
  let s = emptyShot('s1', 'Rows');
  s = addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'a', name: 'Float' }) });
  s = addMember.apply(s, { member: newMember(s, { kind: 'box', id: 'b', name: 'Crate' }) });
  for (const [frame, x] of [
    [1, 0],
    [9, 0],
    [17, 4],
  ]) {
    s = changeChannels.apply(s, { frame, values: { 'a.move.x': x }, autoKey: 'every' });
  }
  return changeChannels.apply(s, { frame: 9, values: { 'a.move.y': 1 }, autoKey: 'every' });
}

const rows = (choice: Partial<RowChoice> = {}) =>
  sheetRows(shot(), { selection: [], folded: [], find: '', filter: 'keyed', frame: 1, ...choice });
const labels = (choice: Partial<RowChoice>) => rows(choice).map((r) => r.label);

test('who has keys has a row, with a row for each channel that moves; who is picked has one too', () => {
  expect(labels({})).toEqual(['Float', 'move x', 'move y']);
  expect(labels({ selection: ['b'], folded: ['a'] })).toEqual(['Float', 'Crate']);
});

test('a word finds a member with all its channels, or the channels of that name, folded or not', () => {
  expect(labels({ find: 'flo' })).toEqual(['Float', 'move x', 'move y']);
  expect(labels({ find: 'MOVE Y', folded: ['a'] })).toEqual(['Float', 'move y']);
  expect(labels({ find: 'anchor' })).toEqual([]);
});

test('rows can be kept to who is picked, and to what is keyed on this frame', () => {
  expect(labels({ filter: 'picked', selection: ['b'] })).toEqual(['Crate']);
  expect(labels({ filter: 'here', frame: 17 })).toEqual(['Float', 'move x']);
  expect(labels({ filter: 'here', frame: 9 })).toEqual(['Float', 'move x', 'move y']);
  expect(labels({ filter: 'here', frame: 5 })).toEqual([]);
});

test('a member shows the keys of all its channels', () => {
  const [member] = rows();
  expect(rowKeys(shot(), member).map((k) => [k.frame, k.paths.length])).toEqual([
    [1, 1],
    [9, 2],
    [17, 1],
  ]);
});

test('a ribbon has no thickness where nothing moves, and can be taken hold of where it does', () => {
  const [member] = rows();
  expect(ribbonHalf(shot(), member, 4)).toBe(0);
  expect(ribbonHalf(shot(), member, 12)).toBeGreaterThan(5);
});

test('the ribbon is empty where nothing moves and thickest in the middle of a smooth move', () => {
  const profile = profileOf(shot(), 'a.move.x')!;
  expect(Math.max(...profile.speeds.slice(0, 8))).toBe(0);
  expect(profile.speeds.indexOf(profile.most)).toBeGreaterThanOrEqual(11);
  expect(profile.speeds.indexOf(profile.most)).toBeLessThanOrEqual(12);
});

test('a rig has a row for all of its body; its controls have rows under it, folded until one opens them', () => {
  const keyed = changeChannels.apply(craneShot(), {
    frame: 5,
    values: { 'crane-hand.move.x': 0.1, 'crane-hand.turn.y': 0.2, 'crane-post.turn.y': 0.3 },
    autoKey: 'every',
  });
  const choice: RowChoice = { selection: [], folded: [], find: '', filter: 'keyed', frame: 5 };
  const of = (more: Partial<RowChoice>) => sheetRows(keyed, { ...choice, ...more });
  expect(of({}).map((r) => [r.label, r.folded])).toEqual([
    ['Crane', false],
    ['post', true],
    ['hand L', true],
  ]);
  // The keys of the body are all in the rig's own row.
  expect(rowKeys(keyed, of({})[0])[0].paths).toHaveLength(3);
  const open = foldMark(keyed.members.at('crane-hand'));
  expect(of({ folded: [open] }).map((r) => r.label)).toEqual(['Crane', 'post', 'hand L', 'move x', 'turn y']);
  expect(of({ folded: ['crane'] }).map((r) => r.label)).toEqual(['Crane']);
  expect(of({ folded: allFolded(keyed, true) }).map((r) => r.label)).toEqual(['Crane']);
  expect(of({ folded: allFolded(keyed, false) })).toHaveLength(6);
  expect(of({ find: 'hand' }).map((r) => r.label)).toEqual(['hand L']);
  expect(of({ find: 'turn y' }).map((r) => r.label)).toEqual(['post', 'turn y', 'hand L', 'turn y']);
});
