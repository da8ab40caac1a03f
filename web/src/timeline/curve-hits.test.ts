import { addMember, changeChannels, emptyShot, newMember } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { type CurvesPlace, handleUnder, keysWithin, keyUnder } from './curve-hits.ts';
import { shownCurves } from './shown-curves.ts';
import { timeScale } from './time-axis.ts';
import { valueScale } from './value-axis.ts';

function shot() {
  let s = emptyShot('s1', 'Hits');
  s = addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'a' }) });
  for (const [frame, y] of [
    [1, 0],
    [9, 2],
    [17, 1],
  ]) {
    s = changeChannels.apply(s, { frame, values: { 'a.move.y': y }, autoKey: 'every' });
  }
  return s;
}

/** The curves as a view of 400 × 200 pixels shows them. */
function place(keys: CurvesPlace['keys'], normal = false): CurvesPlace {
  const choice = { selection: [], channels: [], pinned: [], hidden: [], isolated: [], normal };
  const values = normal ? { low: -0.2, high: 1.2 } : { low: -0.5, high: 2.5 };
  return { curves: shownCurves(shot(), choice), keys, span: { first: 0, last: 20 }, values, width: 400, height: 200 };
}
const at = (p: CurvesPlace, frame: number, value: number): [number, number] => [
  timeScale(p.span, p.width)(frame),
  valueScale(p.values, p.height)(value),
];

describe('a pointer in the curves', () => {
  test('is on a key where its peg is drawn, normalised or not', () => {
    const plain = place({});
    const [x, y] = at(plain, 9, 2);
    expect(keyUnder(plain, x + 4, y - 6)?.index).toBe(1);
    expect(keyUnder(plain, x + 12, y)).toBeNull();
    const normal = place({}, true);
    expect(keyUnder(normal, ...at(normal, 9, 1))?.index).toBe(1);
  });

  test('is on a handle of a picked key, and on none of one that is not picked', () => {
    const picked = place({ 'a.move.y': [9] });
    // The peak is smooth, so its handles are level and reach a third of the way.
    const end = at(picked, 9 + 8 / 3, 2);
    expect(handleUnder(picked, ...end)).toMatchObject({ index: 1, side: 'out' });
    expect(handleUnder(place({}), ...end)).toBeNull();
  });

  test('takes the keys within a box', () => {
    const p = place({});
    const [x0, y1] = at(p, 5, 0.5);
    const [x1, y0] = at(p, 18, 1.5);
    expect(keysWithin(p, [x0, y0, x1, y1])).toEqual({ 'a.move.y': [17] });
    expect(keysWithin(p, [0, 0, 400, 200])).toEqual({ 'a.move.y': [1, 9, 17] });
  });
});
