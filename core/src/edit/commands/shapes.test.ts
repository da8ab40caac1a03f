import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  type Curve,
  type NumberCurve,
  shapeOf,
  smoothKey,
  valueAt,
  withHandle,
  withHandleKind,
} from '../../curve/index.ts';
import { emptyShot, type Shot, withLoose } from '../../document/index.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Table } from '../../table/table.ts';
import { numberCurve } from '../../testing/arbitraries.ts';
import { changedPaths, setKeys } from './change.ts';
import { setHandleKind } from './keys.ts';
import { addMember, newMember, removeMembers } from './members.ts';
import { setRotation } from './rotation.ts';
import { chooseKeyed, keyedChannels, removeSet, saveSet, setPaths } from './sets.ts';
import { removeStill, shapeAlike, stillCurves, thinKeys, thinningOf, thinReport } from './shapes.ts';
import { changeValues, type ValueChange } from './values.ts';

const PATH = 'b.move.y';
const ball = (() => {
  const s = emptyShot('s1', 'One ball');
  return addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'b' }) });
})();
const through = (...points: [number, number][]): NumberCurve => ({
  type: 'number',
  keys: points.map(([f, v]) => smoothKey(f, v)),
  before: 'hold',
  after: 'hold',
});
const withCurves = (curves: Readonly<Record<string, Curve>>): Shot => ({ ...ball, curves: Table.of(curves) });
const numberAt = (s: Shot, path: string, frame: number) => valueAt(s.curves.get(path) as NumberCurve, frame);

describe('the shape of one key given to others', () => {
  // A high bounce whose landing was made sharp by hand, and two smaller ones.
  const bounces = () => {
    const soft = through([1, 4], [9, 0], [17, 2], [23, 0], [29, 1], [33, 0]);
    const into = withHandle({ ...soft, keys: soft.keys.map((k) => ({ ...k, joined: false })) }, 9, 'in', 4, 2.4);
    return withCurves({ [PATH]: withHandle(into, 9, 'out', 4, 1.2) });
  };

  test('a sharp landing stays as sharp for a small bounce, by its own height and time', () => {
    const s = bounces();
    const shape = shapeOf(s.curves.get(PATH) as NumberCurve, 1);
    const next = shapeAlike.apply(s, { keys: { [PATH]: [23, 33] }, shape });
    const [, first, , second, , last] = (next.curves.get(PATH) as NumberCurve).keys;
    expect(first.in).toEqual({ kind: 'free', frames: 4, rise: 2.4 });
    // Half the way of 8 frames and 0.6 of the height of 4: for 6 frames and 2 metres, 3 and 1.2.
    expect(second.in).toEqual({ kind: 'free', frames: 3, rise: expect.closeTo(1.2, 9) });
    expect(second.out).toEqual({ kind: 'free', frames: 3, rise: expect.closeTo(0.6, 9) });
    expect(last.in).toEqual({ kind: 'free', frames: 2, rise: expect.closeTo(0.6, 9) });
    expect([second.joined, second.value, second.frame]).toEqual([false, 0, 23]);
  });

  test('given to the key it came from, nothing changes', () => {
    fc.assert(
      fc.property(numberCurve, fc.nat(7), (curve, n) => {
        const i = n % curve.keys.length;
        const s = withCurves({ [PATH]: { ...curve, before: 'hold', after: 'hold' } });
        const next = shapeAlike.apply(s, { keys: { [PATH]: [curve.keys[i].frame] }, shape: shapeOf(curve, i) });
        for (let f = -25; f <= 155; f += 4.5) expect(numberAt(next, PATH, f)).toBeCloseTo(numberAt(s, PATH, f), 5);
      }),
    );
  });
});

test('changing the interpolation of a selection touches nothing else', () => {
  fc.assert(
    fc.property(
      numberCurve,
      fc.constantFrom('smooth', 'flat', 'linear', 'free', 'stepped' as const),
      fc.nat(255),
      (curve, kind, mask) => {
        const s = withCurves({ [PATH]: curve, 'b.move.x': curve });
        const frames = curve.keys.map((k) => k.frame).filter((_, i) => (mask >> i) & 1);
        const next = setHandleKind.apply(s, { keys: { [PATH]: frames }, side: 'both', kind });
        expect(next.curves.get('b.move.x')).toBe(s.curves.get('b.move.x'));
        expect({ ...next, curves: null }).toEqual({ ...s, curves: null });
        next.curves.at(PATH).keys.forEach((key, i) => {
          if (!frames.includes(key.frame)) expect(key).toBe(curve.keys[i]);
          expect([key.frame, key.value, key.role]).toEqual([
            curve.keys[i].frame,
            curve.keys[i].value,
            curve.keys[i].role,
          ]);
        });
      },
    ),
  );
});

describe('values of picked keys', () => {
  const s = () => withCurves({ [PATH]: through([1, 0], [5, 2], [9, 4], [13, 10]) });
  const values = (how: ValueChange, frames = [5, 9]) =>
    changeValues
      .apply(s(), { keys: { [PATH]: frames }, how })
      .curves.at(PATH)
      .keys.map((k) => k.value);

  test('are scaled about their mean, the first, or a number', () => {
    expect(values({ kind: 'scale', factor: 2, about: 'mean' })).toEqual([0, 1, 5, 10]);
    expect(values({ kind: 'scale', factor: 2, about: 'first' })).toEqual([0, 2, 6, 10]);
    expect(values({ kind: 'scale', factor: -1, about: 0 })).toEqual([0, -2, -4, 10]);
  });

  test('are offset, flattened, and smoothed towards their neighbours', () => {
    expect(values({ kind: 'offset', by: 0.5 })).toEqual([0, 2.5, 4.5, 10]);
    expect(values({ kind: 'flatten', to: 'last' })).toEqual([0, 4, 4, 10]);
    expect(values({ kind: 'smooth', share: 1 }, [9])).toEqual([0, 2, 6, 10]);
    expect(values({ kind: 'smooth', share: 0.5 }, [1, 9])).toEqual([0, 2, 5, 10]);
  });

  test('scaled with their handles: the whole motion is scaled', () => {
    fc.assert(
      fc.property(numberCurve, fc.integer({ min: -24, max: 24 }), (curve, n) => {
        // A tuned or smooth handle follows its neighbours, so all keys are taken.
        const before = withCurves({ [PATH]: curve });
        const keys = { [PATH]: curve.keys.map((k) => k.frame) };
        const next = changeValues.apply(before, { keys, how: { kind: 'scale', factor: n / 8, about: 3 } });
        for (let f = -20; f <= 150; f += 8.5) {
          const want = 3 + (numberAt(before, PATH, f) - 3) * (n / 8);
          expect(Math.abs(numberAt(next, PATH, f) - want)).toBeLessThan(1e-6 * Math.max(1, Math.abs(want)));
        }
      }),
    );
  });
});

describe('thinning a shot', () => {
  const baked = (scale: number) =>
    through(...Array.from({ length: 60 }, (_, i): [number, number] => [i + 1, Math.sin(i / 8) * scale]));

  test('says how many go and how much that changes, in each unit, before it is done', () => {
    const s = withCurves({ [PATH]: baked(2), 'b.turn.x': baked(1) });
    const keys = Object.fromEntries(s.curves.entries().map(([p, c]) => [p, c.keys.map((k) => k.frame)]));
    const tolerances = { m: 0.01, '°': 0.002, '': 1 };
    const report = thinReport(s, keys, tolerances);
    expect(report.of).toBe(120);
    expect(report.removed).toBeGreaterThan(60);
    expect(report.largest.m).toBeGreaterThan(0);
    expect(report.largest.m).toBeLessThanOrEqual(0.01);
    expect(report.largest['°']).toBeLessThanOrEqual(0.002);
    const done = thinKeys.apply(s, { keys, tolerances });
    expect(done.curves).toEqual(report.after.curves);
    expect(thinKeys.apply(s, { keys, tolerances, report })).toBe(report.after);
    expect(thinKeys.apply({ ...s }, { keys, tolerances, report }).curves).toEqual(report.after.curves);
  });

  test('goes curve by curve, so that it can be watched and given up', () => {
    const s = withCurves({ [PATH]: baked(2), 'b.turn.x': baked(1) });
    const keys = Object.fromEntries(s.curves.entries().map(([p, c]) => [p, c.keys.map((k) => k.frame)]));
    const steps = thinningOf(s, keys, { m: 0.01, '°': 0.01, '': 0.01 });
    expect(steps.next().value).toBe(0.5);
    expect(steps.next().value).toBe(1);
    expect(steps.next().done).toBe(true);
  });

  test('takes only picked keys', () => {
    const s = withCurves({ [PATH]: baked(2) });
    const report = thinReport(s, { [PATH]: [20, 21, 22] }, { m: 1, '°': 1, '': 1 });
    expect(report.removed).toBe(3);
  });
});

test('curves that never change go, and leave their value', () => {
  const still = through([1, 2], [9, 2]);
  const s = withCurves({
    [PATH]: still,
    'b.move.x': through([1, 2], [9, 3]),
    'b.move.z': withHandle(still, 1, 'out', 2, 1),
  });
  expect(stillCurves(s, s.curves.keys())).toEqual([PATH]);
  const next = removeStill.apply(s, { paths: s.curves.keys() });
  expect(next.curves.keys()).toEqual(['b.move.x', 'b.move.z']);
  expect(next.members.at('b').values['move.y']).toBe(2);
});

describe('control sets', () => {
  const set = { id: 'feet', name: 'Feet', paths: ['b.move.y', 'b.turn.x', 'gone.move.x'] };

  test('are kept in the shot, lose who is deleted, and are deleted', () => {
    const s = saveSet.apply(ball, { set });
    expect(setPaths(s, s.sets.at('feet'))).toEqual(['b.move.y', 'b.turn.x']);
    expect(removeMembers.apply(s, { ids: ['b'] }).sets.at('feet').paths).toEqual(['gone.move.x']);
    expect(removeSet.apply(s, { id: 'feet' }).sets.toJSON()).toEqual({});
  });

  test('mean the turn of a member whichever way it turns', () => {
    const s = setRotation.apply(saveSet.apply(ball, { set }), { id: 'b', rotation: 'orientation', order: 'xyz' });
    expect(setPaths(s, s.sets.at('feet'))).toEqual(['b.move.y', 'b.orientation']);
  });
});

test('what "key every channel" means can be chosen for each object, and taken back', () => {
  const usual = keyedChannels(ball.members.at('b'), Rigs.none);
  const s = chooseKeyed.apply(ball, { ids: ['b'], channels: ['move.y', 'turn.z'] });
  expect(keyedChannels(s.members.at('b'), Rigs.none)).toEqual(['move.y', 'turn.z']);
  const turned = setRotation.apply(s, { id: 'b', rotation: 'orientation', order: 'xyz' });
  expect(keyedChannels(turned.members.at('b'), Rigs.none)).toEqual(['move.y', 'orientation']);
  expect(keyedChannels(chooseKeyed.apply(s, { ids: ['b'], channels: null }).members.at('b'), Rigs.none)).toEqual(usual);
});

test('what has changed since the last key is found, loose or held', () => {
  let s = withCurves({ [PATH]: through([1, 0], [9, 2]), 'b.move.x': through([1, 1], [9, 1]) });
  const paths = ['b.move.x', PATH, 'b.move.z'];
  expect(changedPaths(s, paths, 9)).toEqual([]);
  expect(changedPaths(s, paths, 5)).toEqual([PATH]);
  s = { ...s, loose: withLoose(s.loose, 'b.move.x', 9, 3) };
  expect(changedPaths(s, paths, 9)).toEqual(['b.move.x']);
  const keyed = setKeys.apply(s, { frame: 9, paths: changedPaths(s, paths, 9) });
  expect(keyed.curves.at('b.move.x').keys.map((k) => k.value)).toEqual([1, 3]);
  expect(withHandleKind(keyed.curves.get(PATH) as NumberCurve, 9, 'in', 'flat').keys[1].in.kind).toBe('flat');
});
