import { addMember, changeChannels, emptyShot, newMember, removeKeys } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { joinedKeys, keyNear, livingKeys, selectionOf, toggledKey } from './pick-keys.ts';
import { rowKeys, sheetRows } from './sheet-rows.ts';

function shot() {
  let s = emptyShot('s1', 'Sheet');
  s = addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'a', name: 'Float' }) });
  for (const frame of [1, 9, 17]) {
    s = changeChannels.apply(s, { frame, values: { 'a.move.x': frame, 'a.move.y': -frame }, autoKey: 'every' });
  }
  return s;
}
const s = shot();
const [member, x] = sheetRows(s, { selection: [], folded: [], find: '', filter: 'keyed', frame: 1 });

describe('picking keys in the sheet', () => {
  test('takes the nearest within reach, and none further off', () => {
    const span = { first: 1, last: 33 };
    // 320 pixels for 32 frames: ten a frame.
    expect(keyNear(s, x, span, 320, 83)?.frame).toBe(9);
    expect(keyNear(s, x, span, 320, 76)?.frame).toBe(9);
    expect(keyNear(s, x, span, 320, 60)).toBeNull();
  });

  test("of a member's row means the keys of all its channels on that frame", () => {
    const [, middle] = rowKeys(s, member);
    expect(selectionOf([middle])).toEqual({ 'a.move.x': [9], 'a.move.y': [9] });
  });

  test('adds with a second press and takes out with a third', () => {
    const [first, middle] = rowKeys(s, x);
    const both = toggledKey(selectionOf([first]), middle);
    expect(both).toEqual({ 'a.move.x': [1, 9] });
    expect(toggledKey(both, middle)).toEqual({ 'a.move.x': [1] });
    expect(toggledKey(toggledKey(both, middle), first)).toEqual({});
  });

  test('of part of a row completes it before it takes it out', () => {
    const [, middle] = rowKeys(s, member);
    expect(toggledKey({ 'a.move.x': [9] }, middle)).toEqual({ 'a.move.x': [9], 'a.move.y': [9] });
  });

  test('of a box added to others keeps what was picked on the same row', () => {
    expect(joinedKeys({ 'a.move.x': [1] }, { 'a.move.x': [1, 9], 'a.move.y': [9] })).toEqual({
      'a.move.x': [1, 9],
      'a.move.y': [9],
    });
  });

  test('forgets keys that are no longer there', () => {
    const gone = removeKeys.apply(s, { keys: { 'a.move.x': [9] } });
    expect(livingKeys(gone, { 'a.move.x': [1, 9], 'a.move.y': [9], 'b.move.x': [1] })).toEqual({
      'a.move.x': [1],
      'a.move.y': [9],
    });
  });
});
