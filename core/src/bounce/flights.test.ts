import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Key, NumberCurve } from '../curve/key.ts';
import { emptyShot, type Shot } from '../document/shot.ts';
import { addMember, newMember } from '../edit/index.ts';
import { gravityOf } from './bounces.ts';
import { flightGravity, flightsOf, framesOf, heightUnder, withFlight, withLoss, withOneGravity } from './flights.ts';

const PATH = 'float.move.y';

/** A ball that is let go at 1 and bounces in flights of so many frames and such heights, as somebody keys it: tops on whole frames. */
function bounce(
  fall: readonly [frames: number, height: number],
  flights: readonly (readonly [number, number])[],
): Shot {
  const sharp = (frame: number, value: number): Key => ({
    frame,
    value,
    in: { kind: 'linear' },
    out: { kind: 'linear' },
    joined: false,
    role: 'key',
  });
  const top = (frame: number, value: number): Key => ({
    ...sharp(frame, value),
    in: { kind: 'flat' },
    out: { kind: 'flat' },
  });
  const keys = [top(1, fall[1])];
  let at = 1 + fall[0];
  keys.push(sharp(at, 0));
  for (const [frames, height] of flights) {
    keys.push(top(at + frames / 2, height), sharp(at + frames, 0));
    at += frames;
  }
  const empty = emptyShot('s', 'Bounce');
  const shot = addMember.apply(empty, { member: newMember(empty, { id: 'float', kind: 'ball' }) });
  return { ...shot, curves: shot.curves.with(PATH, { type: 'number', keys, before: 'hold', after: 'hold' }) };
}
const curveOf = (shot: Shot) => shot.curves.at(PATH) as NumberCurve;
const numbers = (shot: Shot) =>
  flightsOf(curveOf(shot)).map((f) => [framesOf(f), Number(f.contact.rise.height.toFixed(6))]);
const fallOf = (shot: Shot) => gravityOf(flightsOf(curveOf(shot))[0].run[0].fall);

/** Under one gravity of 2/144 a frame²: a fall of 12 frames is 1 high, a flight of t frames (t/24)². */
const fair = (frames: number): [number, number] => [frames, (frames / 24) ** 2];

describe('a flight under a gravity', () => {
  test('is as high as its time says, and its gravity is found again, on level ground and over steps', () => {
    const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(between(0.001, 0.1), between(4, 60), between(-0.2, 0.6), (gravity, frames, share) => {
        const height = (gravity * frames * frames) / 8;
        const drop = share * height;
        const up = heightUnder(gravity, frames, drop);
        // Thrown up and down again: √(2h/g) up, √(2(h + d)/g) down.
        expect(Math.sqrt((2 * up) / gravity) + Math.sqrt((2 * (up + drop)) / gravity)).toBeCloseTo(frames, 6);
      }),
    );
    expect(heightUnder(2 / 144, 24, 0)).toBeCloseTo(1, 12);
  });

  test('has the gravity it is given, whatever time that is', () => {
    const shot = bounce([12, 1], [fair(20), fair(16)]);
    for (const frames of [7, 12, 19, 31]) {
      const [flight] = flightsOf(curveOf(shot));
      const next = withFlight(shot, PATH, flight, 2 / 144, frames);
      const [made, after] = flightsOf(curveOf(next));
      expect(framesOf(made)).toBeCloseTo(frames, 9);
      expect(flightGravity(made)).toBeCloseTo(2 / 144, 9);
      expect(numbers(next)[1]).toEqual(numbers(shot)[1]);
      expect(after.contact.frame).toBeCloseTo(13 + frames, 9);
      for (const key of curveOf(next).keys) expect(key.frame % 1).toBe(0);
    }
  });
});

describe('a bounce that loses nothing', () => {
  test('is made shorter and lower under its gravity, and all others stay as they are', () => {
    const shot = bounce([12, 1], [fair(20), fair(20), fair(14), fair(10)]);
    const mended = withLoss(shot, PATH, [33]);
    const [first, second, ...rest] = numbers(mended);
    expect(first).toEqual(numbers(shot)[0]);
    expect(rest).toEqual(numbers(shot).slice(2));
    // Shorter than the twenty before it, and longer than the fourteen after.
    expect(second[0]).toBeLessThanOrEqual(18);
    expect(second[0]).toBeGreaterThan(14);
    expect(flightGravity(flightsOf(curveOf(mended))[1])).toBeCloseTo(2 / 144, 4);
    for (const key of curveOf(mended).keys) expect(key.frame % 1).toBe(0);
  });

  test('among equal ones: all that are named become each shorter than the last', () => {
    const shot = bounce([12, 1], [fair(24), fair(24), fair(24)]);
    const frames = flightsOf(curveOf(shot)).map((f) => f.contact.frame);
    const lengths = numbers(withLoss(shot, PATH, frames)).map(([length]) => length);
    let before = 24;
    for (const length of lengths) {
      expect(length / before).toBeLessThanOrEqual(0.9);
      before = length;
    }
  });

  test('that already loses time is only given the height of its time', () => {
    const shot = bounce([12, 1], [[18, 0.9], fair(12)]);
    const mended = withLoss(shot, PATH, [13]);
    expect(numbers(mended)[0][0]).toBe(18);
    expect(numbers(mended)[0][1]).toBeCloseTo(fair(18)[1], 4);
  });
});

test('one gravity: each keeps its time and gets the height that the first fall asks for', () => {
  const shot = bounce(
    [12, 1],
    [
      [20, 0.5],
      [14, 0.6],
      [10, 0.1],
    ],
  );
  const mended = withOneGravity(shot, PATH, 13);
  expect(numbers(mended).map(([frames]) => frames)).toEqual([20, 14, 10]);
  for (const flight of flightsOf(curveOf(mended))) expect(flightGravity(flight)).toBeCloseTo(fallOf(shot), 6);
  expect(curveOf(mended).keys[0]).toEqual(curveOf(shot).keys[0]);
  expect(withOneGravity(shot, PATH, 2)).toBe(shot);
});
