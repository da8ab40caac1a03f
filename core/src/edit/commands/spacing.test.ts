import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type NumberCurve, type OrientationKey, smoothKey, valueAt } from '../../curve/index.ts';
import { emptyShot, type Quaternion, type Shot } from '../../document/index.ts';
import { chartOf } from '../../spacing/chart.ts';
import { Table } from '../../table/table.ts';
import { placeBetween, shareAt } from './between.ts';
import { placeTick, slideBead, slideSpacing, spaceBetween, spacings, turnSpacing } from './chart.ts';
import { addMember, newMember } from './members.ts';

const PATHS = ['b.move.x', 'b.move.y'];
const ball = (() => {
  const s = emptyShot('s1', 'One ball');
  return addMember.apply(s, { member: newMember(s, { kind: 'ball', id: 'b' }) });
})();
const curve = (...points: [number, number][]): NumberCurve => ({
  type: 'number',
  keys: points.map(([f, v]) => smoothKey(f, v)),
  before: 'hold',
  after: 'hold',
});
const shot = (): Shot => ({
  ...ball,
  curves: Table.of({
    'b.move.x': curve([1, 0], [5, 2], [13, 6], [20, 0]),
    'b.move.y': curve([1, 1], [5, 1], [13, 3], [20, 3]),
  }),
});
const shares = (s: Shot, frame: number) => chartOf(s, PATHS, frame)!.ticks.map((t) => t.share);
const place = { paths: PATHS, frame: 7 };

describe('a timing chart', () => {
  test('is of the two keys around a frame, and on the last key of the way that ends there', () => {
    expect(chartOf(shot(), PATHS, 7)).toMatchObject({ from: 5, to: 13, paths: PATHS });
    expect(chartOf(shot(), PATHS, 13)).toMatchObject({ from: 13, to: 20 });
    expect(chartOf(shot(), PATHS, 20)).toMatchObject({ from: 13, to: 20 });
    expect(chartOf(shot(), PATHS, 30)).toMatchObject({ from: 13, to: 20 });
    expect(chartOf(shot(), PATHS, 0)).toBeNull();
    expect(chartOf(shot(), ['b.move.z'], 7)).toBeNull();
  });

  test('passes over breakdowns, which only steer the way', () => {
    const s = placeTick.apply(shot(), { ...place, tick: 9, share: 0.2 });
    const chart = chartOf(s, PATHS, 7)!;
    expect([chart.from, chart.to]).toEqual([5, 13]);
    expect(chart.ticks.filter((t) => t.breakdown).map((t) => t.frame)).toEqual([9]);
  });

  test('says what the curves do: the share of the straight way gone', () => {
    const s = spaceBetween.apply(shot(), { ...place, spacing: 'even' });
    shares(s, 7).forEach((share, i) => {
      expect(share).toBeCloseTo((i + 1) / 8, 9);
    });
  });
});

describe('spacing set on the chart is what the curves do', () => {
  const frames = [1, 2, 3, 4, 5, 6, 7];
  const closed: Record<string, (t: number, k: number) => number> = {
    even: (t) => t,
    // Level at the first key and straight into the second: 2t² - t³.
    slowOut: (t) => 2 * t * t - t * t * t,
    slowIn: (t) => t + t * t - t * t * t,
    slowBoth: (t) => 3 * t * t - 2 * t * t * t,
    halves: (_, k) => 1 - 0.5 ** k,
    thirds: (_, k) => 1 - (2 / 3) ** k,
  };

  test.each(spacings)('%s, on every channel', (spacing) => {
    const s = spaceBetween.apply(shot(), { ...place, spacing });
    const held = spacing === 'halves' ? frames.slice(0, 4) : spacing === 'thirds' ? frames.slice(0, 6) : frames;
    for (const path of PATHS) {
      const c = s.curves.get(path) as NumberCurve;
      const [a, b] = [valueAt(c, 5), valueAt(c, 13)];
      for (const k of held) expect((valueAt(c, 5 + k) - a) / (b - a)).toBeCloseTo(closed[spacing](k / 8, k), 9);
    }
  });

  test.each(spacings)('%s changes nothing before the first key or after the second', (spacing) => {
    const s = spaceBetween.apply(shot(), { ...place, spacing });
    for (const path of PATHS) {
      for (const f of [1, 3, 4.5, 5, 13, 13.5, 17, 20]) {
        expect(valueAt(s.curves.get(path) as NumberCurve, f)).toBeCloseTo(
          valueAt(shot().curves.get(path) as NumberCurve, f),
          6,
        );
      }
    }
  });

  test('turned about, what was slow at the first key is slow at the second; twice gives it back', () => {
    const s = spaceBetween.apply(shot(), { ...place, spacing: 'halves' });
    const turned = turnSpacing.apply(s, place);
    const before = shares(s, 7);
    shares(turned, 7).forEach((share, i) => {
      expect(share).toBeCloseTo(1 - before[before.length - 1 - i], 9);
    });
    shares(turnSpacing.apply(turned, place), 7).forEach((share, i) => {
      expect(share).toBeCloseTo(before[i], 9);
    });
  });

  test('a tick that is dragged is held there by one breakdown on every channel', () => {
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 12 }), fc.integer({ min: -20, max: 120 }), (tick, percent) => {
        const s = placeTick.apply(shot(), { ...place, tick, share: percent / 100 });
        expect(shares(s, 7)[tick - 6]).toBeCloseTo(percent / 100, 9);
        for (const path of PATHS) {
          expect(s.curves.at(path).keys).toHaveLength(5);
          expect(s.curves.at(path).keys.find((k) => k.frame === tick)?.role).toBe('breakdown');
        }
      }),
    );
  });
});

describe('sliding the ribbon', () => {
  const slide = (by: number) => slideSpacing.apply(shot(), { paths: PATHS, frame: 7, by });

  test('brings the middle of the way later or earlier by so many frames', () => {
    const even = spaceBetween.apply(shot(), { ...place, spacing: 'slowBoth' });
    for (const by of [-2, -1, 1, 2]) {
      const s = slideSpacing.apply(even, { paths: PATHS, frame: 7, by });
      expect(valueAt(s.curves.get('b.move.x') as NumberCurve, 9 + by)).toBeCloseTo(4, 6);
    }
  });

  test('leaves the keys and everything beyond them as they were', () => {
    for (const by of [-30, -1, 3, 30]) {
      for (const path of PATHS) {
        for (const f of [1, 3, 5, 13, 16, 20]) {
          expect(valueAt(slide(by).curves.at(path) as NumberCurve, f)).toBeCloseTo(
            valueAt(shot().curves.get(path) as NumberCurve, f),
            6,
          );
        }
      }
    }
  });
});

test('a bead slid along its arc holds the place it was slid to, on every channel', () => {
  const s = slideBead.apply(shot(), { paths: PATHS, frame: 8, to: 11 });
  for (const path of PATHS) {
    expect(valueAt(s.curves.get(path) as NumberCurve, 8)).toBeCloseTo(
      valueAt(shot().curves.get(path) as NumberCurve, 11),
      9,
    );
    expect(s.curves.at(path).keys.find((k) => k.frame === 8)?.role).toBe('breakdown');
  }
});

describe('the breakdown slider', () => {
  test('places all channels between and past their neighbours', () => {
    for (const share of [-0.25, 0, 0.5, 0.8, 1, 1.3]) {
      const s = placeBetween.apply(shot(), { paths: PATHS, frame: 8, share });
      expect(valueAt(s.curves.get('b.move.x') as NumberCurve, 8)).toBeCloseTo(2 + 4 * share, 9);
      expect(valueAt(s.curves.get('b.move.y') as NumberCurve, 8)).toBeCloseTo(1 + 2 * share, 9);
      expect(shareAt(s, 'b.move.x', 8)).toBeCloseTo(share, 9);
    }
  });

  test('changes a key that is there and keeps what it is', () => {
    const s = placeBetween.apply(shot(), { paths: PATHS, frame: 5, share: 0.5 });
    expect(s.curves.at('b.move.x').keys[1]).toMatchObject({ frame: 5, value: 3, role: 'key' });
  });

  test('leaves channels without two neighbours alone', () => {
    const s = shot();
    expect(placeBetween.apply(s, { paths: PATHS, frame: 25, share: 0.5 })).toBe(s);
    expect(placeBetween.apply(s, { paths: ['b.move.z'], frame: 8, share: 0.5 })).toBe(s);
  });

  test('turns an orientation the shortest way, and past its neighbours about the same axis', () => {
    const half = Math.SQRT1_2;
    const still = (frame: number, value: Quaternion): OrientationKey => ({
      frame,
      value,
      in: { kind: 'flat' },
      out: { kind: 'flat' },
      joined: true,
      role: 'key',
    });
    const turning: Shot = {
      ...ball,
      members: Table.of({ b: { ...ball.members.at('b'), rotation: 'orientation' } }),
      curves: Table.of({
        'b.orientation': {
          type: 'orientation',
          before: 'hold',
          after: 'hold',
          keys: [still(1, [0, 0, 0, 1]), still(9, [0, -half, 0, -half])],
        },
      }),
    };
    const s = placeBetween.apply(turning, { paths: ['b.orientation'], frame: 5, share: 1.5 });
    const q = s.curves.at('b.orientation').keys[1].value as readonly number[];
    expect(Math.abs(Math.atan2(q[1], q[3]) * 2)).toBeCloseTo((135 * Math.PI) / 180, 9);
    expect(shareAt(s, 'b.orientation', 5)).toBeCloseTo(1.5, 9);
  });
});
