import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Stroke, StrokeSchema } from '../document/stroke.ts';
import { Table } from '../table/table.ts';
import { outline, packPoints, smoothPoints, strokesOn, thinPoints, unpackPoints } from './index.ts';

const point = fc.tuple(
  fc.double({ min: -0.2, max: 1.2, noNaN: true }),
  fc.double({ min: -0.2, max: 1.2, noNaN: true }),
  fc.double({ min: 0, max: 1, noNaN: true }),
);
const line = fc.array(point, { minLength: 1, maxLength: 60 }).map((points) => points.flat());

describe('a drawn line', () => {
  test('comes back from its packing, nowhere off by more than a tenth of what a pixel is', () => {
    fc.assert(
      fc.property(line, (points) => {
        const text = packPoints(points);
        expect(StrokeSchema.shape.points.safeParse(text).success).toBe(true);
        const back = unpackPoints(text);
        expect(back.length).toBe(points.length);
        for (let i = 0; i < points.length; i++)
          expect(Math.abs(back[i] - points[i])).toBeLessThan(i % 3 === 2 ? 0.0021 : 0.000051);
      }),
    );
  });

  test.each(['', 'x', '1 2 ', '1,2,3', '99999999 1 1', '1  2 3'])('is not %j', (text) => {
    expect(StrokeSchema.shape.points.safeParse(text).success).toBe(false);
  });

  test('has the points it needs and no others', () => {
    const straight = Array.from({ length: 50 }, (_, i) => [i / 50, i / 100, 0.5]).flat();
    expect(thinPoints(straight, 0.001).length).toBe(6);
    const corner = [0, 0, 1, 0.2, 0, 1, 0.4, 0, 1, 0.4, 0.2, 1, 0.4, 0.4, 1];
    expect([...thinPoints(corner, 0.001)].map((v) => Math.round(v * 10))).toEqual([0, 0, 10, 4, 0, 10, 4, 4, 10]);
    const pressed = [0, 0, 0, 0.2, 0, 1, 0.4, 0, 0];
    expect(thinPoints(pressed, 0.5).length).toBe(9);
  });

  test('thinned stays as near to itself as was asked', () => {
    fc.assert(
      fc.property(line, (points) => {
        const thin = thinPoints(points, 0.01);
        for (let i = 0; i < points.length; i += 3) {
          let nearest = Math.hypot(points[i] - thin[0], points[i + 1] - thin[1]);
          for (let k = 3; k < thin.length; k += 3) {
            const [ax, ay, bx, by] = [thin[k - 3], thin[k - 2], thin[k], thin[k + 1]];
            const length = (bx - ax) ** 2 + (by - ay) ** 2;
            const along = ((points[i] - ax) * (bx - ax) + (points[i + 1] - ay) * (by - ay)) / (length || 1);
            const t = Math.min(1, Math.max(0, along));
            nearest = Math.min(nearest, Math.hypot(points[i] - ax - (bx - ax) * t, points[i + 1] - ay - (by - ay) * t));
          }
          expect(nearest).toBeLessThan(0.01001);
        }
      }),
    );
  });

  test('is as wide as it was pressed, on both sides of where the hand went', () => {
    const points = Float32Array.of(0, 0.5, 1, 0.5, 0.5, 1, 1, 0.5, 0);
    const edge = outline(points, 0.1);
    const at = (x: number) => {
      const ys: number[] = [];
      for (let i = 0; i < edge.length; i += 2) if (Math.abs(edge[i] - x) < 1e-6) ys.push(edge[i + 1]);
      return Math.max(...ys) - Math.min(...ys);
    };
    expect(at(0.5)).toBeCloseTo(0.1, 6);
    expect(at(1)).toBeCloseTo(0.022, 6);
    expect(Math.min(...edge.filter((_, i) => i % 2 === 0))).toBeCloseTo(-0.05, 3);
  });

  test('goes round through the points of the hand, with no gap wider than asked', () => {
    const points = Float32Array.of(0, 0, 1, 0.3, 0.3, 0.5, 0.6, 0, 1, 0.9, 0.3, 1);
    const round = smoothPoints(points, 0.02);
    const has = (x: number, y: number) => {
      for (let i = 0; i < round.length; i += 3) if (Math.hypot(round[i] - x, round[i + 1] - y) < 1e-6) return true;
      return false;
    };
    for (let i = 0; i < points.length; i += 3) expect(has(points[i], points[i + 1])).toBe(true);
    for (let i = 3; i < round.length; i += 3)
      expect(Math.hypot(round[i] - round[i - 3], round[i + 1] - round[i - 2])).toBeLessThan(0.035);
  });

  test('of one touch is a dot', () => {
    expect(outline(Float32Array.of(0.5, 0.5, 1), 0.1).length).toBeGreaterThan(20);
  });
});

describe('the lines on something', () => {
  const stroke = fc.record({
    id: fc.constantFrom(...'abcdefgh'),
    on: fc.constantFrom('one', 'two', 'three'),
    place: fc.integer({ min: 1, max: 5 }),
  });
  const whole = (given: { id: string; on: string; place: number }): Stroke => ({
    ...given,
    sheet: 0,
    tool: 'pencil',
    tint: 'graphite',
    wide: 0.005,
    points: '1 1 1',
  });
  const edit = fc.oneof(
    fc.record({ is: fc.constant('put' as const), stroke }),
    fc.record({ is: fc.constant('drop' as const), id: fc.constantFrom(...'abcdefgh') }),
  );

  test('are those that are there, in their order, after any run of edits; what nobody drew on keeps its list', () => {
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 30 }), (edits) => {
        let table = Table.empty<Stroke>();
        for (const e of edits) {
          const before = table;
          const lists = new Map(['one', 'two', 'three'].map((on) => [on, strokesOn(before, on)]));
          table = e.is === 'put' ? table.with(e.stroke.id, whole(e.stroke)) : table.without(e.id);
          for (const [on, list] of lists) {
            const meant = table.values().filter((s) => s.on === on);
            meant.sort((a, b) => a.place - b.place || (a.id < b.id ? -1 : 1));
            expect(strokesOn(table, on)).toEqual(meant);
            const same = meant.length === list.length && meant.every((s, i) => s === list[i]);
            if (same && list.length > 0) expect(strokesOn(table, on)).toBe(list);
          }
        }
      }),
    );
  });
});
