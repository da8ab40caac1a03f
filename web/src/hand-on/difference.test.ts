import {
  addMember,
  type Choices,
  changeChannels,
  emptyShot,
  newMember,
  type StandIn,
  usualChoices,
} from '@varrup/core';
import { expect, test } from 'vitest';
import { differenceOf, halfFrames } from './difference.ts';

const empty = emptyShot('s', 'S');
const placed = addMember.apply(empty, { member: newMember(empty, { kind: 'ball', id: 'ball', name: 'Float' }) });
const shot = changeChannels.apply(
  changeChannels.apply(placed, { frame: 1, values: { 'ball.move.x': 0 }, autoKey: 'every' }),
  { frame: 5, values: { 'ball.move.x': 4 }, autoKey: 'every' },
);
const stand: StandIn[] = [{ node: 'Float', member: 'ball', joint: null }];
const as = (how: Partial<Choices>): Choices => ({ ...usualChoices, frames: null, clips: [], rate: 24, ...how });
const span = { shot, first: 1, last: 5 };

/** Where another player has the ball: where it is, and off by some metres at one half frame. */
function places(scale: number, off: number, at: number): Float32Array {
  const times = halfFrames(1, 5);
  const exact = differenceOf('S', span, stand, new Float32Array(times.length * 3), as({ scale: 1 }));
  return Float32Array.from(
    times.flatMap((time, t) => [(exact.millimetres[t] / 1000) * scale + (time === at ? off * scale : 0), 0, 0]),
  );
}

test('half frames of a span are both its ends and all between', () => {
  expect(halfFrames(3, 5)).toEqual([3, 3.5, 4, 4.5, 5]);
});

test.each([1, 100])('a node that is off is told with how far, where and when, at %s units a metre', (scale) => {
  const found = differenceOf('S', span, stand, places(scale, 0.002, 3.5), as({ scale }));
  expect(found.most).toBeCloseTo(2, 3);
  expect([found.of, found.at]).toEqual(['Float', 3.5]);
  expect(found.millimetres.filter((mm) => mm > 0.01)).toHaveLength(1);
});

test('a node the file has not is passed over', () => {
  const none = new Float32Array(halfFrames(1, 5).length * 3).fill(Number.NaN);
  expect(differenceOf('S', span, stand, none, as({ scale: 1 })).most).toBe(0);
});
