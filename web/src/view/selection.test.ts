import { beforeEach, expect, test } from 'vitest';
import { pickChannels, pickKeys, pickNothing, select, useSelection } from './selection.ts';

beforeEach(pickNothing);
const picked = () => useSelection.getState().picked;

test('the last one picked leads, and one that is picked again leads again', () => {
  select(['a', 'b']);
  select(['c'], 'add');
  expect(picked()).toEqual(['a', 'b', 'c']);
  select(['a'], 'add');
  expect(picked()).toEqual(['b', 'c', 'a']);
});

test('turned over, those that are picked go and others come; some of each come', () => {
  select(['a', 'b', 'c']);
  select(['b'], 'toggle');
  expect(picked()).toEqual(['a', 'c']);
  select(['b', 'c'], 'toggle');
  expect(picked()).toEqual(['a', 'b', 'c']);
  select(['a', 'b', 'c'], 'toggle');
  expect(picked()).toEqual([]);
});

test('channels go with those they are of; keys stay picked', () => {
  select(['a']);
  pickChannels(['a.move.y']);
  pickKeys({ 'a.move.y': [1, 13] });
  select(['b']);
  expect(useSelection.getState()).toEqual({ picked: ['b'], channels: [], keys: { 'a.move.y': [1, 13] } });
});

test('who is picked already is not picked anew: nobody who listens is told, and the channels stay', () => {
  select(['a']);
  pickChannels(['a.move.y']);
  let told = 0;
  const end = useSelection.subscribe(() => told++);
  select(['a']);
  select(['a'], 'add');
  end();
  expect(told).toBe(0);
  expect(useSelection.getState().channels).toEqual(['a.move.y']);
});
