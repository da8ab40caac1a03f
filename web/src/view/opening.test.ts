import { emptyShot } from '@varrup/core';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { useShot } from '../shot/shot-store.ts';
import { useAutoKey } from './auto-key.ts';
import { useCurveView } from './curve-view.ts';
import { useHabits } from './habits.ts';
import { useLooking } from './looking.ts';
import { lookAtShot } from './opening.ts';
import { usePlaces } from './places.ts';
import { usePlayhead } from './playhead.ts';
import { select, useSelection } from './selection.ts';
import { followViews, rememberView, viewOf } from './shot-views.ts';
import { useTiming } from './timing.ts';
import { useTool } from './tool.ts';

const first = { ...emptyShot('first', 'First'), play: { first: 11, last: 111 } };
const second = emptyShot('second', 'Second');

let end = () => {};
beforeEach(() => {
  useHabits.setState({ views: {} });
  usePlaces.setState({ tab: 'sheet', side: 'channels' });
  end = followViews();
});
afterEach(() => {
  end();
  useShot.setState({ shot: null });
});
const open = (shot: typeof first) => {
  useShot.setState({ shot });
  lookAtShot(shot);
};

test('a shot that is opened shows the frames it plays, with a margin, and begins at the first of them', () => {
  open(first);
  expect(useTiming.getState().span).toEqual({ first: 8, last: 114 });
  expect(usePlayhead.getState().frame).toBe(11);
});

test('what belongs to the shot before is forgotten; what is in the hand stays there', () => {
  open(first);
  select(['somebody']);
  useAutoKey.setState({ mode: 'every' });
  useCurveView.setState({ pinned: ['somebody.move.y'], normal: true });
  useTiming.setState({ find: 'foot', rows: 'here' });
  useTool.setState({ tool: 'turn' });
  open(second);
  expect(useSelection.getState().picked).toEqual([]);
  // Nothing is keyed by accident in a shot one has just come to.
  expect(useAutoKey.getState().mode).toBe('off');
  expect(useCurveView.getState()).toMatchObject({ pinned: [], normal: true });
  expect(useTiming.getState()).toMatchObject({ find: '', rows: 'keyed' });
  expect(useTool.getState().tool).toBe('turn');
});

test('each shot is looked at as it was looked at last, whatever was done to another in between', () => {
  open(first);
  useLooking.setState({ looking: 'side', flat: true });
  usePlaces.setState({ tab: 'curves', side: 'kits' });
  open(second);
  expect(useLooking.getState()).toMatchObject({ looking: 'free', flat: false });
  useLooking.setState({ four: true });
  usePlaces.setState({ side: 'poses' });
  open(first);
  expect(useLooking.getState()).toMatchObject({ looking: 'side', flat: true, four: false });
  expect(usePlaces.getState()).toMatchObject({ tab: 'curves', side: 'kits' });
  open(second);
  expect(useLooking.getState()).toMatchObject({ looking: 'free', four: true });
  expect(usePlaces.getState().side).toBe('poses');
});

test('going with the body is not remembered: it is of who is picked', () => {
  open(first);
  useLooking.setState({ follow: true });
  open(second);
  open(first);
  expect(useLooking.getState().follow).toBe(false);
});

test('of hundreds of shots those looked at last are remembered', () => {
  for (let i = 0; i < 200; i++) rememberView(`shot${i}`, { looking: 'top' });
  rememberView('shot150', { flat: true });
  for (let i = 200; i < 250; i++) rememberView(`shot${i}`, { looking: 'front' });
  expect(viewOf('shot150')).toEqual({ looking: 'top', flat: true });
  expect(viewOf('shot160')).toEqual({});
  expect(Object.keys(useHabits.getState().views)).toHaveLength(60);
});
