import { describe, expect, test } from 'vitest';
import { type NumberCurve, valueAt } from '../curve/index.ts';
import type { Shot } from '../document/index.ts';
import { reshapeBounce } from '../edit/index.ts';
import { ball, RADIUS, shotWith, withKit } from '../testing/sets.ts';
import { bouncesOf, bounceTable, bounceTables, bouncingPaths, contactsOf, gravityOf } from './index.ts';
import { withArc, withTimeMap } from './remake.ts';

const PATH = 'ball.move.y';
const dropped = withKit(shotWith(ball()), 'bounce', { height: 1, material: 'rubber' });
const forward = withKit(withKit(shotWith(ball()), 'bounce', { height: 1, material: 'rubber', speed: 1 }), 'roll');
const curveOf = (shot: Shot, path = PATH) => shot.curves.get(path) as NumberCurve;
const rowsOf = (shot: Shot) => bounceTable(shot, PATH).flat();

describe('a bounce is taken apart', () => {
  test('into contacts with their falls and rises, in one run', () => {
    const contacts = contactsOf(curveOf(dropped));
    expect(bouncesOf(contacts)).toHaveLength(1);
    expect(contacts[0].fall).toMatchObject({ height: expect.closeTo(1, 9), top: 1 });
    for (const [i, c] of contacts.slice(1).entries()) expect(c.fall.height).toBeCloseTo(contacts[i].rise!.height, 9);
    expect(contacts.at(-1)!.rise).toBeNull();
  });

  test('two bounces with a rest between are two', () => {
    const [contact] = contactsOf(curveOf(dropped));
    const keys = curveOf(dropped).keys;
    const last = keys[keys.length - 1].frame;
    const again = keys.map((k) => ({ ...k, frame: k.frame + last + 20 }));
    const both = [...keys, ...again];
    const runs = bouncesOf(contactsOf({ type: 'number', keys: both, before: 'hold', after: 'hold' }));
    expect(runs).toHaveLength(2);
    expect(runs[1][0].frame).toBe(contact.frame + last + 20);
  });

  test('what is wound up slowly after a blow is not thrown back by it', () => {
    const linear = { kind: 'linear' as const };
    const key = (frame: number, value: number) => ({
      frame,
      value,
      in: linear,
      out: linear,
      joined: false,
      role: 'key' as const,
    });
    const contacts = contactsOf({
      type: 'number',
      keys: [key(1, 2), key(5, 0), key(40, 2)],
      before: 'hold',
      after: 'hold',
    });
    expect(contacts[0].rise).toBeNull();
    expect(gravityOf(contacts[0].fall)).toBeCloseTo(0.25, 9);
  });

  test('channels that bounce are found among all, forms that pulse are not', () => {
    const squashed = withKit(forward, 'squash');
    expect(bouncingPaths(squashed, ['ball'])).toEqual([PATH]);
    expect(bouncingPaths(squashed, ['another'])).toEqual([]);
  });

  test('the tables of many channels are those of each', () => {
    const paths = [...forward.curves.keys()];
    const each = paths.flatMap((path) => bounceTable(forward, path).map((rows) => ({ path, rows })));
    expect(each).not.toHaveLength(0);
    expect(bounceTables(forward, paths)).toEqual(each);
  });
});

describe('heights and frames typed into the table', () => {
  test('another height changes that bounce alone, and leaves it a parabola from contact to contact', () => {
    const [first, second] = rowsOf(dropped);
    const higher = reshapeBounce.apply(dropped, { path: PATH, frame: first.contact.frame, height: 0.5 });
    const rows = rowsOf(higher);
    expect(rows[0].height).toBeCloseTo(0.5, 6);
    expect(rows.map((r) => r.contact.frame)).toEqual(rowsOf(dropped).map((r) => r.contact.frame));
    expect(rows[1].height).toBeCloseTo(second.height!, 9);
    const curve = curveOf(higher);
    const [a, b] = [first.contact.frame, second.contact.frame];
    const g = (8 * 0.5) / (b - a) ** 2;
    for (let f = a; f <= b; f += 0.5) expect(valueAt(curve, f)).toBeCloseTo(RADIUS + (g / 2) * (f - a) * (b - f), 9);
  });

  test('other frames carry everything after them along, on all channels of the member', () => {
    const [first] = rowsOf(forward);
    const frames = first.framesUp! + first.framesDown!;
    const longer = reshapeBounce.apply(forward, { path: PATH, frame: first.contact.frame, frames: frames + 6 });
    expect(rowsOf(longer)[1].contact.frame).toBe(rowsOf(forward)[1].contact.frame + 6);
    for (const path of ['ball.move.x', 'ball.turn.z']) {
      const [before, after] = [curveOf(forward, path), curveOf(longer, path)];
      expect(after.keys.at(-1)!.frame).toBe(before.keys.at(-1)!.frame + 6);
      expect(after.keys.at(-1)!.value).toBeCloseTo(before.keys.at(-1)!.value, 9);
    }
    expect(rowsOf(longer)[0].height).toBeCloseTo(first.height!, 6);
  });

  test('a contact without a bounce is left as it is', () => {
    const last = rowsOf(dropped).at(-1)!;
    expect(reshapeBounce.apply(dropped, { path: PATH, frame: last.contact.frame, height: 3 })).toBe(dropped);
    expect(reshapeBounce.apply(dropped, { path: 'ball.move.x', frame: 1, height: 3 })).toBe(dropped);
  });
});

describe('made anew', () => {
  test('an arc between contacts of different heights has its top where a throw would', () => {
    const linear = { kind: 'linear' as const };
    const key = (frame: number, value: number) => ({
      frame,
      value,
      in: linear,
      out: linear,
      joined: false,
      role: 'key' as const,
    });
    const curve: NumberCurve = {
      type: 'number',
      keys: [key(1, 0), key(7, 5), key(13, -1)],
      before: 'hold',
      after: 'hold',
    };
    const arc = withArc(curve, { from: 1, to: 13, start: 0, end: -1, height: 2 });
    // √2 of the way up against √3 of the way down.
    const top = 1 + (12 * Math.sqrt(2)) / (Math.sqrt(2) + Math.sqrt(3));
    expect(valueAt(arc, top)).toBeCloseTo(2, 9);
    expect(valueAt(arc, 13)).toBe(-1);
    expect(arc.keys.map((k) => k.frame)).toEqual([1, Math.round(top), 13]);
  });

  test('a change of time keeps keys whole, in order, and the motion between them', () => {
    const [first, second] = rowsOf(forward).map((r) => r.contact.frame);
    const map = [
      [first, first],
      [second, second + 10],
    ] as const;
    const slow = withTimeMap(forward, 'ball', map);
    const [before, after] = [curveOf(forward, 'ball.move.x'), curveOf(slow, 'ball.move.x')];
    expect(valueAt(after, first - 2)).toBeCloseTo(valueAt(before, first - 2), 9);
    expect(valueAt(after, second + 30)).toBeCloseTo(valueAt(before, second + 20), 9);
    for (const k of curveOf(slow).keys) expect(k.frame % 1).toBe(0);
  });
});
