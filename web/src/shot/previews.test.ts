import { addMember, changeChannels, emptyShot, newMember, renameShot, type Shot } from '@varrup/core';
import { beforeEach, expect, test } from 'vitest';
import { Trials, trialOf } from './previews.ts';
import { useShot } from './shot-store.ts';

const empty = emptyShot('s1', 'Tried');
const start: Shot = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'a' }) });
const to = (x: number) => ({ frame: 1, values: { 'a.move.x': x }, autoKey: 'off' as const });
const x = () => useShot.getState().shot?.members.at('a').values['move.x'];
const name = () => useShot.getState().shot?.name;
const past = () => useShot.getState().history.past.length;

beforeEach(() => {
  useShot.setState({ status: 'ready', shot: start, committed: start });
});

test('what is shown is no edit until it is kept', () => {
  const before = past();
  const preview = useShot.getState().begin('a hand');
  preview.show(changeChannels, to(1));
  preview.show(changeChannels, to(2));
  expect(x()).toBe(2);
  expect(useShot.getState().committed).toBe(start);
  preview.keep();
  expect(useShot.getState().committed?.members.at('a').values['move.x']).toBe(2);
  expect(past()).toBe(before + 1);
});

test('nobody keeps or drops what another one shows', () => {
  const before = past();
  const card = useShot.getState().begin('a card');
  const hand = useShot.getState().begin('a hand');
  card.show(changeChannels, to(5));
  hand.keep();
  hand.drop();
  expect(x()).toBe(5);
  expect(past()).toBe(before);
  card.drop();
  expect(useShot.getState().shot).toBe(start);
});

test('a hand over an open card: its edit is made, and the card is shown on the shot as it is then', () => {
  const card = useShot.getState().begin('a card');
  const hand = useShot.getState().begin('a hand');
  card.show(renameShot, { name: 'By the card' });
  hand.show(changeChannels, to(3));
  expect([x(), name()]).toEqual([3, 'Tried']);
  hand.keep();
  expect(useShot.getState().committed?.name).toBe('Tried');
  expect([x(), name()]).toEqual([3, 'By the card']);
  card.keep();
  expect(useShot.getState().committed?.name).toBe('By the card');
});

test('a trial that does not fit the document any more is over', () => {
  const trials = new Trials();
  const owner = Symbol('a card');
  trials.put(trialOf(owner, false, { name: 'x.y', label: () => 'x', apply: () => fail() }, null));
  expect(trials.on(start)).toBe(start);
  expect(trials.of(owner)).toBeUndefined();
});

function fail(): never {
  throw new Error('Nobody to do it to.');
}

test('a draft stays while others try and edit, and is what checks look at', () => {
  const card = useShot.getState().begin('a card', true);
  const before = useShot.getState().committed!.name;
  card.show(renameShot, { name: 'By the card' });
  const hand = useShot.getState().begin('a hand');
  hand.show(changeChannels, to(5));
  expect(useShot.getState().draft?.name).toBe('By the card');
  hand.keep();
  const { draft, committed } = useShot.getState();
  expect([draft?.name, committed?.name]).toEqual(['By the card', before]);
  expect(draft?.members.values()[0]).toEqual(committed?.members.values()[0]);
  card.drop();
  expect(useShot.getState().draft).toBeNull();
});

test('what a command refuses to go to is not shown; what was shown before is', () => {
  const hand = useShot.getState().begin('a hand');
  hand.show(changeChannels, to(7));
  hand.show(changeChannels, to(1e8));
  expect(x()).toBe(7);
  hand.drop();
});
