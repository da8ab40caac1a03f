import { addMember, changeChannels, emptyShot, newMember, setHandleKind } from '@varrup/core';
import { expect, test } from 'vitest';
import { profileOf, rowKeys, sheetRows } from './sheet-rows.ts';

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

test('who has keys has a row, with a row for each channel that moves; who is picked has one too', () => {
  expect(sheetRows(shot(), [], []).map((r) => r.label)).toEqual(['Float', 'move x', 'move y']);
  expect(sheetRows(shot(), ['b'], ['a']).map((r) => r.label)).toEqual(['Float', 'Crate']);
});

test('a member shows the keys of all its channels, and a channel says where it holds', () => {
  const s = setHandleKind.apply(shot(), { keys: { 'a.move.y': [9] }, side: 'out', kind: 'stepped' });
  const [member, x] = sheetRows(s, [], []);
  expect(rowKeys(s, member).map((k) => [k.frame, k.paths.length])).toEqual([
    [1, 1],
    [9, 2],
    [17, 1],
  ]);
  expect(rowKeys(s, x).map((k) => k.held)).toEqual([true, false, false]);
});

test('the ribbon is empty where nothing moves and thickest in the middle of a smooth move', () => {
  const profile = profileOf(shot(), 'a.move.x')!;
  expect(Math.max(...profile.speeds.slice(0, 8))).toBe(0);
  expect(profile.speeds.indexOf(profile.most)).toBeGreaterThanOrEqual(11);
  expect(profile.speeds.indexOf(profile.most)).toBeLessThanOrEqual(12);
});
