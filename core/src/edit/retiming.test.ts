import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Curve, type NumberCurve, smoothKey, valueAt } from '../curve/index.ts';
import { emptyShot, type Shot } from '../document/index.ts';
import { Table } from '../table/table.ts';
import { curve as anyCurve, numberCurve } from '../testing/arbitraries.ts';
import { moveKeys } from './commands/keys.ts';
import { addMember, newMember } from './commands/members.ts';
import {
  carryKeys,
  closesOnItself,
  cutKeys,
  insertFrames,
  putDownKeys,
  repeatKeys,
  retimeKeys,
  rippleKeys,
  staggerKeys,
} from './commands/retime.ts';
import { type CollisionAnswer, collisionAnswers, type KeySelection, planRetiming, type Retiming } from './retiming.ts';

const PATH = 'b.move.y';
const ball = (() => {
  const s = emptyShot('s1', 'One ball');
  return addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'b' }) });
})();
const keyed = (...frames: number[]): Shot => ({ ...ball, curves: Table.of({ [PATH]: through(...frames) }) });
const through = (...frames: number[]): NumberCurve => ({
  type: 'number',
  keys: frames.map((f) => smoothKey(f, f)),
  before: 'hold',
  after: 'hold',
});
const framesOf = (s: Shot, path = PATH) => s.curves.at(path).keys.map((k) => k.frame);
/** Frame and the value it had, which tells which key it was. */
const who = (s: Shot) => s.curves.at(PATH).keys.map((k) => [k.frame, k.value]);
const retimed = (s: Shot, frames: readonly number[], how: Retiming, collision: CollisionAnswer = 'replace') =>
  retimeKeys.apply(s, { keys: { [PATH]: frames }, how, collision });
const withCurve = (c: Curve): [Shot, string] => {
  const path = c.type === 'number' ? PATH : 'b.orientation';
  return [{ ...ball, curves: Table.of({ [path]: c }) }, path];
};
const all = (c: Curve) => c.keys.map((k) => k.frame);

describe('what happens to keys in the way', () => {
  const five = () => keyed(1, 5, 9, 13, 20);
  const move = (by: number): Retiming => ({ kind: 'move', by });

  test('replace: the one landed on goes, and the plan says so', () => {
    expect(who(retimed(five(), [5], move(4)))).toEqual([
      [1, 1],
      [9, 5],
      [13, 13],
      [20, 20],
    ]);
    expect(planRetiming(five(), { [PATH]: [5] }, move(4), 'replace')).toMatchObject({ replaced: 1, pushed: 0 });
    expect(planRetiming(five(), { [PATH]: [5, 9] }, move(4), 'replace')).toMatchObject({ replaced: 1 });
    expect(planRetiming(five(), { [PATH]: [5, 9, 13, 20] }, move(4), 'replace')).toMatchObject({ replaced: 0 });
  });

  test('push: what is in the way goes along, a frame ahead, and no key is lost', () => {
    expect(who(retimed(five(), [5], move(7), 'push'))).toEqual([
      [1, 1],
      [12, 5],
      [13, 9],
      [14, 13],
      [20, 20],
    ]);
    expect(who(retimed(five(), [13], move(-9), 'push'))).toEqual([
      [1, 1],
      [2, 5],
      [3, 9],
      [4, 13],
      [20, 20],
    ]);
    expect(planRetiming(five(), { [PATH]: [5] }, move(7), 'push')).toMatchObject({ replaced: 0, pushed: 2 });
  });

  test('stop: the picked keys halt a frame before the first in the way, all of them together', () => {
    const plan = planRetiming(five(), { [PATH]: [1, 5] }, move(12), 'stop');
    expect(plan).toMatchObject({ stopped: true, how: move(3), keys: { [PATH]: [4, 8] } });
    expect(framesOf(retimed(five(), [20], move(-40), 'stop'))).toEqual([1, 5, 9, 13, 14]);
    const two = { ...five(), curves: five().curves.with('b.move.x', through(1, 5, 6)) };
    const both = planRetiming(two, { [PATH]: [5], 'b.move.x': [5] }, move(3), 'stop');
    expect(both.how).toEqual(move(0));
  });

  test('stop also limits a change of scale', () => {
    const plan = planRetiming(five(), { [PATH]: [5, 9] }, { kind: 'scale', about: 5, factor: 3, whole: false }, 'stop');
    expect(plan.keys[PATH][0]).toBe(5);
    expect(plan.keys[PATH][1]).toBeCloseTo(12, 9);
  });

  test('a plan is carried out on the shot it was made for, and made anew for any other', () => {
    const plan = planRetiming(five(), { [PATH]: [5] }, move(1), 'stop');
    const other = keyed(1, 5, 30);
    const args = { keys: { [PATH]: [5] }, how: move(1), collision: 'stop' as const, plan };
    expect(framesOf(retimeKeys.apply(plan.shot, args))).toEqual([1, 6, 9, 13, 20]);
    expect(framesOf(retimeKeys.apply(other, args))).toEqual([1, 6, 30]);
  });

  test('keys that would leave the frames a document can hold stay where they are', () => {
    const plan = planRetiming(five(), { [PATH]: [1, 5] }, move(2_000_000), 'replace');
    expect(plan).toMatchObject({ outside: true, how: move(0), keys: { [PATH]: [1, 5] } });
  });

  test('a copy dragged onto another key answers the same', () => {
    const copy = (collision: CollisionAnswer) =>
      who(moveKeys.apply(five(), { keys: { [PATH]: [5] }, by: 8, copy: true, collision }));
    expect(copy('replace')).toEqual([
      [1, 1],
      [5, 5],
      [9, 9],
      [13, 5],
      [20, 20],
    ]);
    expect(copy('push')).toEqual([
      [1, 1],
      [5, 5],
      [9, 9],
      [13, 5],
      [14, 13],
      [20, 20],
    ]);
    expect(copy('stop')).toEqual(who(five()));
  });

  test('pushing loses no key and keeps their order, wherever keys go', () => {
    fc.assert(
      fc.property(numberCurve, fc.integer({ min: -60, max: 60 }), fc.nat(255), (c, by, mask) => {
        const picked = all(c).filter((_, i) => (mask >> i) & 1);
        fc.pre(picked.length > 0);
        const numbered = { ...c, keys: c.keys.map((k, i) => ({ ...k, value: i })) };
        const [s] = withCurve(numbered);
        const next = retimed(s, picked, move(by), 'push').curves.at(PATH).keys;
        expect(next.map((k) => k.value)).toEqual(numbered.keys.map((k) => k.value));
        expect(next.every((k, i) => i === 0 || k.frame > next[i - 1].frame)).toBe(true);
      }),
    );
  });

  test('whatever is done and however it is answered, keys stay in order, one a frame', () => {
    const how: fc.Arbitrary<Retiming> = fc.oneof(
      fc.record({ kind: fc.constant('move' as const), by: fc.integer({ min: -99, max: 99 }) }),
      fc.record({
        kind: fc.constant('scale' as const),
        about: fc.integer({ min: -20, max: 150 }),
        factor: fc.integer({ min: 1, max: 64 }).map((n) => n / 16),
        whole: fc.boolean(),
      }),
      fc.constant({ kind: 'reverse' as const }),
      fc.constant({ kind: 'whole' as const }),
      fc.constant({ kind: 'onto' as const, frames: [-20, 3, 4, 11, 30, 31.5, 60] }),
    );
    fc.assert(
      fc.property(anyCurve, how, fc.constantFrom(...collisionAnswers), fc.nat(255), (c, way, collision, mask) => {
        const picked = all(c).filter((_, i) => (mask >> i) & 1);
        const [s, path] = withCurve(c);
        const next = retimeKeys.apply(s, { keys: { [path]: picked }, how: way, collision });
        const frames = framesOf(next, path);
        expect(frames.every((f, i) => i === 0 || f > frames[i - 1])).toBe(true);
        if (collision !== 'replace') expect(frames.length).toBe(c.keys.length);
        const plan = planRetiming(s, { [path]: picked }, way, collision);
        expect(frames.length).toBe(c.keys.length - plan.replaced);
        for (const f of plan.keys[path] ?? []) expect(frames).toContain(f);
      }),
    );
  });
});

test('time scaled by a factor and back gives the keys back', () => {
  fc.assert(
    fc.property(anyCurve, fc.integer({ min: 4, max: 64 }), fc.integer({ min: -20, max: 150 }), (c, n, about) => {
      const [s, path] = withCurve(c);
      const keys = (x: Shot): KeySelection => ({ [path]: framesOf(x, path) });
      const scale = (x: Shot, factor: number) =>
        retimeKeys.apply(x, {
          keys: keys(x),
          how: { kind: 'scale', about, factor, whole: false },
          collision: 'replace',
        });
      const back = scale(scale(s, n / 16), 16 / n).curves.at(path);
      expect(back.keys.length).toBe(c.keys.length);
      back.keys.forEach((k, i) => {
        expect(k.frame).toBeCloseTo(c.keys[i].frame, 6);
        expect(k.value).toEqual(c.keys[i].value);
        expect(k.in.kind).toBe(c.keys[i].in.kind);
      });
    }),
  );
});

test('scaled time plays the same motion faster, free handles and all', () => {
  fc.assert(
    fc.property(numberCurve, (c) => {
      const [s] = withCurve({ ...c, before: 'hold', after: 'hold' });
      const half = retimed(s, all(c), { kind: 'scale', about: 1, factor: 0.5, whole: false }).curves.at(
        PATH,
      ) as NumberCurve;
      for (let f = -20; f <= 150; f += 3.25) {
        expect(valueAt(half, 1 + (f - 1) / 2)).toBeCloseTo(valueAt({ ...c, before: 'hold', after: 'hold' }, f), 6);
      }
    }),
  );
});

describe('reversing', () => {
  test('twice is the identity', () => {
    fc.assert(
      fc.property(anyCurve, fc.nat(255), (c, mask) => {
        const picked = all(c).filter((_, i) => (mask >> i) & 1);
        const [s, path] = withCurve(c);
        const args = (frames: readonly number[]) => ({
          keys: { [path]: frames },
          how: { kind: 'reverse' as const },
          collision: 'stop' as const,
        });
        const plan = planRetiming(s, { [path]: picked }, { kind: 'reverse' }, 'stop');
        const there = retimeKeys.apply(s, args(picked));
        const back = retimeKeys.apply(there, args(plan.keys[path] ?? []));
        expect(back.curves.get(path)).toEqual(c);
      }),
    );
  });

  test('plays the same motion backwards', () => {
    fc.assert(
      fc.property(numberCurve, (c) => {
        fc.pre(c.keys.every((k) => k.out.kind !== 'stepped'));
        const held: NumberCurve = { ...c, before: 'hold', after: 'hold' };
        const [first, last] = [c.keys[0].frame, c.keys.at(-1)!.frame];
        const [s] = withCurve(held);
        const back = retimed(s, all(c), { kind: 'reverse' }).curves.at(PATH) as NumberCurve;
        for (let i = 0; i <= 20; i++) {
          const f = first + ((last - first) * i) / 20;
          expect(valueAt(back, first + last - f)).toBeCloseTo(valueAt(held, f), 6);
        }
      }),
    );
  });
});

describe('whole frames', () => {
  test('onto beats each goes to the nearest, one a beat, and none past another', () => {
    const beats = { kind: 'onto', frames: [1, 13, 25, 37] } as const;
    expect(framesOf(retimed(keyed(2, 12, 24, 40), [2, 12, 24, 40], beats))).toEqual([1, 13, 25, 37]);
    expect(framesOf(retimed(keyed(11, 12, 30), [11, 12, 30], beats))).toEqual([11, 13, 25]);
    expect(framesOf(retimed(keyed(11, 12, 30), [11, 30], beats))).toEqual([11, 12, 25]);
    expect(framesOf(retimed(keyed(5), [5], { kind: 'onto', frames: [] }))).toEqual([5]);
  });

  test('stray keys go to the nearest, and none is lost where it is taken', () => {
    const s = keyed(1, 4.6, 5, 9.2, 9.4);
    const plan = planRetiming(s, { [PATH]: framesOf(s) }, { kind: 'whole' }, 'replace');
    expect(plan.keys[PATH]).toEqual([1, 4.6, 5, 9, 9.4]);
    expect(plan.between).toBe(2);
    expect(framesOf(retimed(keyed(1, 4.6, 9.4), [4.6, 9.4], { kind: 'whole' }))).toEqual([1, 5, 9]);
  });

  test('a scale that would land two keys on one frame leaves one between frames', () => {
    const how: Retiming = { kind: 'scale', about: 1, factor: 0.5, whole: true };
    expect(framesOf(retimed(keyed(1, 2, 3, 7), [1, 2, 3, 7], how))).toEqual([1, 1.5, 2, 4]);
  });
});

describe('ripple, insert and take out', () => {
  const two = (): Shot => ({ ...ball, curves: Table.of({ [PATH]: through(1, 5, 9), 'b.move.x': through(1, 7) }) });

  test('everything from here on moves, on every row', () => {
    const next = rippleKeys.apply(two(), { paths: [PATH, 'b.move.x'], from: 5, by: 10, collision: 'stop' });
    expect(framesOf(next)).toEqual([1, 15, 19]);
    expect(framesOf(next, 'b.move.x')).toEqual([1, 17]);
  });

  test('a frame is put in after this one, and taken out again', () => {
    const paths = [PATH, 'b.move.x'];
    const more = insertFrames.apply(two(), { paths, after: 3, count: 1 });
    expect([framesOf(more), framesOf(more, 'b.move.x')]).toEqual([
      [1, 6, 10],
      [1, 8],
    ]);
    expect(insertFrames.apply(more, { paths, after: 3, count: -1 }).curves).toEqual(two().curves);
  });

  test('no more frames are taken out than there are', () => {
    const less = insertFrames.apply(two(), { paths: [PATH], after: 3, count: -9 });
    expect(framesOf(less)).toEqual([1, 4, 8]);
    expect(insertFrames.apply(less, { paths: [PATH], after: 3, count: -1 })).toBe(less);
  });
});

describe('cutting keys out', () => {
  // Two rows of a bounce: landings on both, tops on the height alone.
  const s = (): Shot => ({
    ...ball,
    curves: Table.of({ [PATH]: through(1, 9, 17, 21, 25, 31), 'b.move.x': through(1, 9, 17, 25) }),
  });
  const paths = [PATH, 'b.move.x'];

  test('closes the gap on every row: what followed the last of them follows the key before them', () => {
    const next = cutKeys.apply(s(), { keys: { [PATH]: [17], 'b.move.x': [17] }, paths });
    expect([framesOf(next), framesOf(next, 'b.move.x')]).toEqual([
      [1, 9, 13, 17, 23],
      [1, 9, 17],
    ]);
  });

  test('from the beginning, what is left begins where they did', () => {
    const next = cutKeys.apply(s(), { keys: { [PATH]: [1, 9], 'b.move.x': [1, 9] }, paths });
    expect([framesOf(next), framesOf(next, 'b.move.x')]).toEqual([
      [9, 13, 17, 23],
      [9, 17],
    ]);
  });

  test('from the end nothing else moves', () => {
    expect(framesOf(cutKeys.apply(s(), { keys: { [PATH]: [25, 31] }, paths }))).toEqual([1, 9, 17, 21]);
  });
});

test('rows are offset one after another', () => {
  const s = ['a', 'b', 'c'].reduce(
    (x, id) => {
      const next = addMember.apply(x, { member: newMember(x, { kind: 'ball', id }) });
      return { ...next, curves: next.curves.with(`${id}.move.y`, through(1, 9)) };
    },
    emptyShot('s', 'Three'),
  );
  const groups = ['a', 'b', 'c'].map((id) => ({ [`${id}.move.y`]: [1, 9] }));
  const next = staggerKeys.apply(s, { groups, step: 2, collision: 'stop' });
  expect(s.curves.keys().map((p) => framesOf(next, p))).toEqual([
    [1, 9],
    [3, 11],
    [5, 13],
  ]);
});

describe('repeating a run', () => {
  const cycle = (): Shot => ({
    ...ball,
    curves: Table.of({
      [PATH]: {
        ...through(1, 7, 13, 20),
        keys: [smoothKey(1, 0), smoothKey(7, 1), smoothKey(13, 0), smoothKey(20, 5)],
      },
    }),
  });
  const keys = { [PATH]: [1, 7, 13] };
  const repeat = (collision: CollisionAnswer, gap = 0, travel = false) =>
    who(repeatKeys.apply(cycle(), { keys, times: 2, gap, travel, collision }));

  test('end to end, the end of one being the beginning of the next', () => {
    expect(repeat('replace')).toEqual([
      [1, 0],
      [7, 1],
      [13, 0],
      [19, 1],
      [25, 0],
      [31, 1],
      [37, 0],
    ]);
    expect(closesOnItself(cycle(), keys)).toBe(true);
    expect(closesOnItself(cycle(), { [PATH]: [7, 13] })).toBe(false);
  });

  test('with a gap, and what comes later pushed on or stopping it', () => {
    expect(repeat('push', 1).at(-1)).toEqual([46, 5]);
    expect(repeat('push', 1).slice(3, 6)).toEqual([
      [14, 0],
      [20, 1],
      [26, 0],
    ]);
    expect(repeat('stop')).toEqual(who(cycle()));
  });

  test('travelling, each copy goes on from where the last one ended', () => {
    const s: Shot = {
      ...ball,
      curves: Table.of({ [PATH]: { ...through(1, 9), keys: [smoothKey(1, 1), smoothKey(9, 3)] } }),
    };
    const next = repeatKeys.apply(s, { keys: { [PATH]: [1, 9] }, times: 2, gap: 0, travel: true, collision: 'stop' });
    expect(who(next)).toEqual([
      [1, 1],
      [9, 3],
      [17, 5],
      [25, 7],
    ]);
  });
});

test('keys are carried off and set down elsewhere with their shapes', () => {
  const s = keyed(1, 5, 9);
  const carried = carryKeys(s, { [PATH]: [5, 9] });
  const next = putDownKeys.apply(s, { carried: { 'b.move.x': carried[PATH], [PATH]: carried[PATH] }, frame: 9 });
  expect(who(next)).toEqual([
    [1, 1],
    [5, 5],
    [9, 5],
    [13, 9],
  ]);
  expect(framesOf(next, 'b.move.x')).toEqual([9, 13]);
});
