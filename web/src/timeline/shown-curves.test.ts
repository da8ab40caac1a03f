import { addMember, changeChannels, emptyShot, newMember } from '@varrup/core';
import { expect, test } from 'vitest';
import { shownCurves, valueSpan } from './shown-curves.ts';

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

test('the curves of what is picked are shown: members, or channels where some are picked', () => {
  const paths = (selection: string[], channels: string[]) =>
    shownCurves(shot(), selection, channels).map((c) => c.path);
  expect(paths([], [])).toEqual(['a.turn.z', 'a.move.y', 'b.move.x']);
  expect(paths(['a'], [])).toEqual(['a.turn.z', 'a.move.y']);
  expect(paths(['a'], ['a.move.y'])).toEqual(['a.move.y']);
});

test('turns are shown in degrees, and the values shown leave a margin', () => {
  const [turn] = shownCurves(shot(), ['a'], ['a.turn.z']);
  expect(turn.unit).toBe('°');
  const { low, high } = valueSpan([turn]);
  expect(low).toBeCloseTo(-180 * 0.12, 6);
  expect(high).toBeCloseTo(180 * 1.12, 6);
  expect(valueSpan([])).toEqual({ low: -1, high: 1 });
});
