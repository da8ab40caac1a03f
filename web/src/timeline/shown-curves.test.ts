import { addMember, changeChannels, emptyShot, newMember } from '@varrup/core';
import { expect, test } from 'vitest';
import { type CurveChoice, shownCurves, valueSpan } from './shown-curves.ts';

function shot() {
  let s = emptyShot('s1', 'Curves');
  for (const id of ['a', 'b']) s = addMember.apply(s, { member: newMember(s, { kind: 'ball', id }) });
  for (const [frame, v] of [
    [1, 0],
    [13, Math.PI],
  ]) {
    s = changeChannels.apply(s, {
      frame,
      values: { 'a.turn.z': v, 'a.move.y': 2 - v / 4, 'b.move.x': v },
      autoKey: 'every',
    });
  }
  return s;
}

const shown = (choice: Partial<CurveChoice> = {}) =>
  shownCurves(shot(), {
    selection: [],
    channels: [],
    pinned: [],
    hidden: [],
    isolated: [],
    normal: false,
    ...choice,
  });
const paths = (choice: Partial<CurveChoice>) => shown(choice).map((c) => c.path);

test('the curves of what is picked are shown: members, or channels where some are picked', () => {
  expect(paths({})).toEqual(['a.turn.z', 'a.move.y', 'b.move.x']);
  expect(paths({ selection: ['a'] })).toEqual(['a.turn.z', 'a.move.y']);
  expect(paths({ selection: ['a'], channels: ['a.move.y'] })).toEqual(['a.move.y']);
});

test('pinned curves stay whatever is picked; isolated ones are seen alone', () => {
  expect(paths({ selection: ['b'], pinned: ['a.move.y'] })).toEqual(['a.move.y', 'b.move.x']);
  expect(paths({ selection: ['b'], isolated: ['a.turn.z'] })).toEqual(['a.turn.z']);
});

test('turns are shown in degrees, and the values shown leave a margin', () => {
  const [turn] = shown({ channels: ['a.turn.z'] });
  expect(turn.unit).toBe('°');
  const { low, high } = valueSpan([turn]);
  expect(low).toBeCloseTo(-180 * 0.12, 6);
  expect(high).toBeCloseTo(180 * 1.12, 6);
  expect(valueSpan([])).toEqual({ low: -1, high: 1 });
});

test('normalised, each curve goes from 0 to 1 whatever its size', () => {
  for (const { curve, scale, shift } of shown({ normal: true })) {
    const values = curve.keys.map((k) => k.value * scale + shift);
    expect(Math.min(...values)).toBeCloseTo(0, 9);
    expect(Math.max(...values)).toBeCloseTo(1, 9);
  }
});
