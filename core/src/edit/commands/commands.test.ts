import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { panelRuns } from '../../board/runs.ts';
import { channelPath, emptyShot, type Shot, shownChannels } from '../../document/index.ts';
import { channelValue } from '../../evaluate/channel-value.ts';
import { frameOf } from '../../evaluate/program.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Refused } from '../../schema/refused.ts';
import { Table } from '../../table/table.ts';
import { perform } from '../edit.ts';
import { changeChannels, channelState, dropLoose, keyLoose, setKeys } from './change.ts';
import { moveKeys, removeKeys, setHandleKind } from './keys.ts';
import {
  addMember,
  copiesOf,
  duplicateMembers,
  groupMembers,
  newMember,
  parentMembers,
  removeMembers,
} from './members.ts';
import { holdMembers } from './posing.ts';
import { setRate } from './rate.ts';
import { setPlayRange, setRange } from './timing.ts';

const withMember = (s: Shot, id: string, parent: string | null = null, values: Record<string, number> = {}) =>
  addMember.apply(s, { member: newMember(s, { kind: 'ball', id, parent, values }) });
const ball = () => withMember(emptyShot('s1', 'One ball'), 'b');
const keyFrames = (s: Shot) =>
  Object.fromEntries(s.curves.entries().map(([path, c]) => [path, c.keys.map((k) => k.frame)]));

describe('setting keys sets exactly the keys named', () => {
  test('every channel an animator sees', () => {
    const s = ball();
    const paths = shownChannels(s.members.at('b'), Rigs.none)
      .filter((c) => c.everyday)
      .map((c) => channelPath('b', c.id));
    const next = setKeys.apply(s, { frame: 7, paths });
    expect(next.curves.keys()).toHaveLength(9);
    expect(new Set(Object.values(keyFrames(next)).flat())).toEqual(new Set([7]));
  });

  test('only what was picked', () => {
    expect(keyFrames(setKeys.apply(ball(), { frame: 3, paths: ['b.move.y'] }))).toEqual({ 'b.move.y': [3] });
  });

  test('by hand with auto-key on every change', () => {
    const s = changeChannels.apply(ball(), { frame: 4, values: { 'b.move.x': 2, 'b.turn.z': 1 }, autoKey: 'every' });
    expect(keyFrames(s)).toEqual({ 'b.move.x': [4], 'b.turn.z': [4] });
  });

  test('by hand with auto-key only where there are keys', () => {
    let s = setKeys.apply(ball(), { frame: 1, paths: ['b.move.y'] });
    s = changeChannels.apply(s, { frame: 9, values: { 'b.move.x': 2, 'b.move.y': 5 }, autoKey: 'animated' });
    expect(keyFrames(s)).toEqual({ 'b.move.y': [1, 9] });
    expect(s.members.at('b').values['move.x']).toBe(2);
  });
});

test('visible switches at its keys and not between them', () => {
  let s = setKeys.apply(ball(), { frame: 1, paths: ['b.visible'] });
  s = changeChannels.apply(s, { frame: 9, values: { 'b.visible': 0 }, autoKey: 'animated' });
  s = changeChannels.apply(s, { frame: 17, values: { 'b.visible': 1 }, autoKey: 'animated' });
  const seen = (frame: number) => frameOf(s, frame).isVisible(0);
  expect([1, 8.9, 9, 16.9, 17].map(seen)).toEqual([true, true, false, false, true]);
});

describe('a stray change with auto-key off', () => {
  const animated = () => setKeys.apply(ball(), { frame: 1, paths: ['b.move.y'] });

  test('is loose on an animated channel and a new constant on the others', () => {
    const s = changeChannels.apply(animated(), { frame: 5, values: { 'b.move.y': 2, 'b.move.x': 1 }, autoKey: 'off' });
    expect(s.loose.toJSON()).toEqual({ 'b.move.y': [{ frame: 5, value: 2 }] });
    expect(keyFrames(s)).toEqual({ 'b.move.y': [1] });
    expect(channelState(s, 'b.move.y', 5)).toBe('loose');
    expect(channelState(s, 'b.move.x', 5)).toBe('constant');
    expect(channelState(s, 'b.move.y', 6)).toBe('animated');
    expect([4, 5, 6].map((frame) => channelValue(s, 'b.move.y', frame))).toEqual([0, 2, 0]);
  });

  test('stays on its frame while others are made, and all are keyed where they were made', () => {
    const at = (s: Shot, frame: number, value: number) =>
      changeChannels.apply(s, { frame, values: { 'b.move.y': value }, autoKey: 'off' });
    const s = at(at(at(animated(), 9, 3), 5, 2), 9, 4);
    expect(s.loose.toJSON()).toEqual({
      'b.move.y': [
        { frame: 5, value: 2 },
        { frame: 9, value: 4 },
      ],
    });
    const one = setKeys.apply(s, { frame: 5, paths: ['b.move.y'] });
    expect(one.loose.toJSON()).toEqual({ 'b.move.y': [{ frame: 9, value: 4 }] });
    const all = keyLoose.apply(s, { paths: ['b.move.y'] });
    expect(all.loose.size).toBe(0);
    expect(all.curves.at('b.move.y').keys.map((k) => [k.frame, k.value])).toEqual([
      [1, 0],
      [5, 2],
      [9, 4],
    ]);
    expect(dropLoose.apply(s, { paths: ['b.move.y'] })).toEqual(animated());
    // A whole channel of them is more than one can keep in mind.
    const many = Array.from({ length: 200 }, (_, i) => i + 10).reduce((next, frame) => at(next, frame, 1), animated());
    expect(() => at(many, 300, 1)).toThrow('key or drop some first');
  });

  test('is gone with one press, or keyed with one press', () => {
    const s = changeChannels.apply(animated(), { frame: 5, values: { 'b.move.y': 2 }, autoKey: 'off' });
    const dropped = dropLoose.apply(s, { paths: ['b.move.y'] });
    expect(dropped).toEqual(animated());
    const kept = setKeys.apply(s, { frame: 5, paths: ['b.move.y'] });
    expect(kept.loose.toJSON()).toEqual({});
    expect(keyFrames(kept)).toEqual({ 'b.move.y': [1, 5] });
    expect(channelState(kept, 'b.move.y', 5)).toBe('keyed');
    expect(channelState(kept, 'b.move.y', 3)).toBe('animated');
  });
});

describe('moving and deleting keys', () => {
  const three = () =>
    [1, 5, 9].reduce(
      (s, frame) => changeChannels.apply(s, { frame, values: { 'b.move.y': frame }, autoKey: 'every' }),
      ball(),
    );

  test('is one edit for many keys', () => {
    const done = perform(three(), moveKeys, { keys: { 'b.move.y': [5, 9] }, by: 2 })!;
    expect(keyFrames(done.shot)['b.move.y']).toEqual([1, 7, 11]);
    expect(done.edit.label).toBe('move 2 keys');
  });

  test('of the last key keeps the value it had', () => {
    const s = removeKeys.apply(three(), { keys: { 'b.move.y': [1, 5, 9] } });
    expect(s.curves.toJSON()).toEqual({});
    expect(frameOf(s, 50).value('b', 'move.y')).toBe(1);
  });

  test('changing the shape of some leaves every other key alone', () => {
    const s = setHandleKind.apply(three(), { keys: { 'b.move.y': [5] }, side: 'in', kind: 'linear' });
    const [first, middle, last] = s.curves.at('b.move.y').keys;
    expect([first, last]).toEqual([three().curves.at('b.move.y').keys[0], three().curves.at('b.move.y').keys[2]]);
    expect(middle).toMatchObject({ in: { kind: 'linear' }, out: { kind: 'smooth' }, joined: false });
  });
});

describe('the cast', () => {
  const place = (s: Shot, id: string, at = 1) => {
    const frame = frameOf(s, at);
    return [...frame.world.slice(frame.layout.slotOf.get(id)! * 16, frame.layout.slotOf.get(id)! * 16 + 16)];
  };
  const family = () => {
    let s = withMember(emptyShot('s1', 'Family'), 'p', null, {
      'move.x': 3,
      'turn.y': 0.9,
      'size.x': 2,
      'size.y': 2,
      'size.z': 2,
    });
    s = withMember(s, 'q', null, { 'move.y': 1, 'turn.x': 0.4, 'turn.z': -0.3, 'pivot.y': 0.5 });
    return withMember(s, 'r', 'q', { 'move.z': 2 });
  };

  test('a member put under another stays where it stood', () => {
    const s = family();
    const next = parentMembers.apply(s, { ids: ['q'], parent: 'p', frame: 1 });
    expect(next.members.at('q').parent).toBe('p');
    place(next, 'r').forEach((v, i) => {
      expect(v).toBeCloseTo(place(s, 'r')[i], 9);
    });
  });

  test('nobody is put under themselves or their own', () => {
    const s = family();
    expect(parentMembers.apply(s, { ids: ['q'], parent: 'r', frame: 1 })).toBe(s);
    expect(parentMembers.apply(s, { ids: ['q'], parent: 'q', frame: 1 })).toBe(s);
  });

  test('nobody is carried by what they carry, by a hold or by a parent, and a sentence says who', () => {
    const s = family();
    const held = holdMembers.apply(s, { ids: ['p'], by: { is: 'member', member: 'q', joint: null }, frame: 5 });
    const circle = 'Some carry one another round in a circle: "Ball", "Ball 2".';
    expect(() => parentMembers.apply(held, { ids: ['q'], parent: 'p', frame: 1 })).toThrow(circle);
    expect(() =>
      groupMembers.apply(held, { ids: ['q'], group: newMember(s, { kind: 'group', id: 'g' }), frame: 1 }),
    ).not.toThrow();
    const carried = holdMembers.apply(s, { ids: ['q'], by: { is: 'member', member: 'p', joint: null }, frame: 5 });
    const back = { ids: ['p'], by: { is: 'member', member: 'r', joint: null }, frame: 9 } as const;
    expect(() => holdMembers.apply(carried, back)).toThrow(Refused);
  });

  test('a group moves nobody, and takes only the topmost of those picked', () => {
    const s = family();
    const group = newMember(s, { kind: 'group', id: 'g' });
    const next = groupMembers.apply(s, { ids: ['p', 'q', 'r'], group, frame: 1 });
    expect([next.members.at('p').parent, next.members.at('q').parent, next.members.at('r').parent]).toEqual([
      'g',
      'g',
      'q',
    ]);
    place(next, 'r').forEach((v, i) => {
      expect(v).toBeCloseTo(place(s, 'r')[i], 9);
    });
  });

  test('a duplicate brings its family and its keys, under new names', () => {
    const s = setKeys.apply(family(), { frame: 4, paths: ['r.move.x'] });
    const copies = copiesOf(s, ['q']);
    const next = duplicateMembers.apply(s, { ids: ['q'], copies });
    const { q, r } = copies;
    expect(next.members.get(r)).toMatchObject({ parent: q, name: 'Ball 5' });
    expect(next.curves.get(`${r}.move.x`)).toEqual(s.curves.get('r.move.x'));
    expect(place(next, r)).toEqual(place(s, 'r'));
  });

  test('deleting a member deletes what hangs on it, and no trace is left', () => {
    let s = setKeys.apply(family(), { frame: 4, paths: ['r.move.x', 'p.move.x'] });
    s = changeChannels.apply(s, { frame: 6, values: { 'r.move.x': 9 }, autoKey: 'off' });
    const next = removeMembers.apply(s, { ids: ['q'] });
    expect(next.members.keys()).toEqual(['p']);
    expect(next.curves.keys()).toEqual(['p.move.x']);
    expect(next.loose.toJSON()).toEqual({});
  });
});

describe('timing', () => {
  const fall = () =>
    changeChannels.apply(setKeys.apply(ball(), { frame: 1, paths: ['b.move.y'] }), {
      frame: 25,
      values: { 'b.move.y': 4 },
      autoKey: 'every',
    });

  test('a rate that keeps seconds shows the same motion at the same time', () => {
    const s = setRate.apply(fall(), { rate: 48, keep: 'seconds' });
    expect(keyFrames(s)['b.move.y']).toEqual([1, 49]);
    expect(s.range).toEqual({ first: 1, last: 191 });
    expect(frameOf(s, 1 + 0.3 * 48).value('b', 'move.y')).toBeCloseTo(
      frameOf(fall(), 1 + 0.3 * 24).value('b', 'move.y')!,
      9,
    );
  });

  test('what is heard, filmed, planned, marked and said keeps its seconds too, within half a frame', () => {
    const panel = { place: 0, name: '', happens: '', says: '', picture: null, camera: null, shot: null };
    const plan: Shot = {
      ...emptyShot('p', 'Planned'),
      range: { first: 1, last: 72 },
      play: { first: 1, last: 72 },
      sounds: Table.of({ knock: { id: 'knock', name: 'Knock', sound: 'knock', frame: 20, gain: 1 } }),
      cuts: Table.of({ cut: { id: 'cut', frame: 33, camera: 'eye' } }),
      markers: Table.of({
        mark: { id: 'mark', frame: 41, name: 'up', what: '', sound: '', effort: '', panel: null },
        second: { id: 'second', frame: 31, name: 'turns', what: '', sound: '', effort: '', panel: 'b' },
      }),
      panels: Table.of({ a: { ...panel, id: 'a', frames: 30 }, b: { ...panel, id: 'b', place: 1, frames: 42 } }),
    };
    fc.assert(
      fc.property(fc.integer({ min: 12, max: 120 }), (rate) => {
        const s = setRate.apply(plan, { rate, keep: 'seconds' });
        const near = (now: number, then: number, off: number) =>
          expect(Math.abs((now - 1) / rate - (then - 1) / 24)).toBeLessThanOrEqual(off / rate + 1e-9);
        near(s.sounds.at('knock').frame, 20, 0);
        near(s.cuts.at('cut').frame, 33, 0.5);
        near(s.markers.at('mark').frame, 41, 0.5);
        near(panelRuns(s)[1].first, 31, 0.5);
        expect(s.markers.at('second').frame).toBe(panelRuns(s)[1].first);
        near(panelRuns(s)[1].last + 1, 73, 0.5);
        // Led by its board, it ends where that does.
        expect(s.range).toEqual({ first: 1, last: panelRuns(s)[1].last });
        expect(s.play).toEqual(s.range);
      }),
    );
  });

  test('a rate that keeps frames moves no key', () => {
    expect(keyFrames(setRate.apply(fall(), { rate: 30, keep: 'frames' }))['b.move.y']).toEqual([1, 25]);
  });

  test('the play range stays inside the range', () => {
    const s = setPlayRange.apply(ball(), { play: { first: 10, last: 500 } });
    expect(s.play).toEqual({ first: 10, last: 96 });
    expect(setRange.apply(s, { range: { first: 1, last: 48 } }).play).toEqual({ first: 10, last: 48 });
    expect(setRange.apply(ball(), { range: { first: 1, last: 200 } }).play).toEqual({ first: 1, last: 200 });
  });
});
