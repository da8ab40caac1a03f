import {
  addMember,
  bringRig,
  changeChannels,
  emptyShot,
  newMember,
  newRigMembers,
  perform,
  type Shot,
} from '@varrup/core';
import { beforeEach, expect, test } from 'vitest';
import { walkerRigs } from '../../../core/src/testing/rig.ts';
import { noteWay } from '../shot/lately.ts';
import { Mirror, Mirrored, type News, wholeOf } from './mirror.ts';

const json = (shot: Shot) => JSON.parse(JSON.stringify(shot));
/** What a message makes of news. */
const carried = (news: News): News => structuredClone(news);

let shot: Shot;
beforeEach(() => {
  const empty = emptyShot('s1', 'Mirrored', walkerRigs);
  shot = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'a' }) });
});

const moved = (from: Shot, x: number): Shot => {
  const done = perform(from, changeChannels, { frame: 1, values: { 'a.move.x': x }, autoKey: 'every' })!;
  noteWay(from, done.shot, done.edit.patches);
  return done.shot;
};

test('the first news are the whole shot, the next ones what has changed', () => {
  const [here, there] = [new Mirror(), new Mirrored()];
  const first = here.news(shot);
  expect('document' in first).toBe(true);
  expect(json(there.hear(carried(first)))).toEqual(json(shot));
  const next = moved(moved(shot, 1), 2);
  const news = here.news(next);
  expect('patches' in news && JSON.parse(news.patches)).toHaveLength(2);
  expect(json(there.hear(carried(news)))).toEqual(json(next));
});

test('a version that nobody has noted the way to is found all the same', () => {
  const [here, there] = [new Mirror(), new Mirrored()];
  there.hear(carried(here.news(shot)));
  const next = changeChannels.apply(shot, { frame: 1, values: { 'a.move.y': 3 }, autoKey: 'every' });
  expect(json(there.hear(carried(here.news(next))))).toEqual(json(next));
});

test('another shot comes whole, and so does everything after the mirror was lost', () => {
  const [here, there] = [new Mirror(), new Mirrored()];
  there.hear(carried(here.news(shot)));
  const other = emptyShot('s2', 'Another');
  expect(json(there.hear(carried(here.news(other))))).toEqual(json(other));
  here.forget();
  expect('document' in here.news(other)).toBe(true);
});

test('a rig is told once, when it comes to be linked', () => {
  const [here, there] = [new Mirror(), new Mirrored()];
  expect(here.news(shot).rigs).toEqual([]);
  there.hear(carried(wholeOf(shot)));
  const next = bringRig.apply(shot, newRigMembers(shot, { rig: 'walker', version: 1, id: 'w' }));
  const news = here.news(next);
  expect(news.rigs.map((r) => r.id)).toEqual(['walker']);
  expect(there.hear(carried(news)).rigs.find({ rig: 'walker', version: 1 })?.rig.id).toBe('walker');
  expect(here.news(moved(next, 1)).rigs).toEqual([]);
});

test('news of changes to a shot that never came are refused', () => {
  expect(() => new Mirrored().hear({ patches: '[]', rigs: [] })).toThrow(/never came/);
});
