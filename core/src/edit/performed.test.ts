import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { NumberCurve } from '../curve/key.ts';
import { valueAt } from '../curve/sample.ts';
import { emptyShot } from '../document/index.ts';
import { addMember, newMember, perform, putPerformed, setKeys } from './index.ts';
import { evened, type Performed, performedCurve } from './performed.ts';

const hand = fc
  .array(fc.tuple(fc.double({ min: 0.05, max: 1.4, noNaN: true }), fc.double({ min: -0.2, max: 0.2, noNaN: true })), {
    minLength: 4,
    maxLength: 90,
  })
  .map((steps): Performed => {
    let [frame, value] = [10, 0];
    return steps.map(([on, by]) => {
      frame += on;
      value += by;
      return { frame, value };
    });
  });

/** What the hand was at on a frame: it went straight between the places where it was seen. */
function seen(performed: Performed, frame: number): number {
  const i = performed.findIndex((p) => p.frame >= frame - 1e-9);
  const [a, b] = [performed[Math.max(0, i - 1)], performed[i]] as { frame: number; value: number }[];
  const t = b.frame > a.frame ? Math.min(1, Math.max(0, (frame - a.frame) / (b.frame - a.frame))) : 1;
  return a.value + (b.value - a.value) * t;
}

describe('what a hand has performed', () => {
  test('is within the tolerance of what it did at every frame, with no more keys than frames', () => {
    fc.assert(
      fc.property(hand, fc.constantFrom(0.002, 0.01, 0.05), (performed, tolerance) => {
        const curve = performedCurve(performed, { smooth: 0, tolerance }) as NumberCurve | null;
        if (!curve) return;
        const last = Math.floor(performed.at(-1)!.frame + 1e-6);
        const first = Math.ceil(performed[0].frame - 1e-6);
        expect(curve.keys.length).toBeLessThanOrEqual(last - first + 1);
        for (let frame = first; frame <= last; frame++)
          expect(Math.abs(valueAt(curve, frame) - seen(performed, frame))).toBeLessThan(tolerance + 1e-9);
      }),
    );
  });

  test('needs two keys for an even way, and a handful for a wave', () => {
    const even = Array.from({ length: 60 }, (_, i) => ({ frame: i, value: i * 0.05 }));
    expect(performedCurve(even, { smooth: 2, tolerance: 0.002 })!.keys.length).toBe(2);
    const wave = Array.from({ length: 97 }, (_, i) => ({ frame: i, value: Math.sin((i / 48) * 2 * Math.PI) }));
    expect(performedCurve(wave, { smooth: 0, tolerance: 0.01 })!.keys.length).toBeLessThan(12);
  });

  test('trembles less the more it is evened, begins and ends where it did, and goes where it went', () => {
    const tremble = Array.from({ length: 80 }, (_, i) => i * 0.1 + (i % 2 === 0 ? 0.05 : -0.05));
    const rough = (values: readonly number[]) =>
      values.slice(2).reduce((sum, v, i) => sum + Math.abs(v - 2 * values[i + 1] + values[i]), 0);
    const [a, b] = [evened(tremble, 2), evened(tremble, 6)];
    expect(rough(a)).toBeLessThan(rough(tremble) / 4);
    expect(rough(b)).toBeLessThan(rough(a));
    expect([a[0], a.at(-1)]).toEqual([expect.closeTo(tremble[0], 9), expect.closeTo(tremble.at(-1)!, 9)]);
    expect(b[40]).toBeCloseTo(4, 1);
  });

  test('is nothing where it lasts less than a frame', () => {
    expect(performedCurve([], { smooth: 0, tolerance: 0.1 })).toBeNull();
    expect(
      performedCurve(
        [
          { frame: 3.1, value: 0 },
          { frame: 3.9, value: 1 },
        ],
        { smooth: 0, tolerance: 0.1 },
      ),
    ).toBeNull();
  });

  test('stands in place of the keys on its frames, and of no others, as one step', () => {
    const empty = emptyShot('s', 'S');
    const ball = newMember(empty, { kind: 'ball', id: 'ball' });
    let shot = addMember.apply(empty, { member: ball });
    for (const frame of [1, 12, 20, 40]) shot = setKeys.apply(shot, { frame, paths: ['ball.move.y'] });
    const performed = { 'ball.move.y': Array.from({ length: 11 }, (_, i) => ({ frame: 10 + i, value: i * i * 0.01 })) };
    const done = perform(shot, putPerformed, { performed, how: { smooth: 0, metres: 0.001, radians: 0.01 } })!;
    const curve = done.shot.curves.at('ball.move.y') as NumberCurve;
    const frames = curve.keys.map((k) => k.frame);
    expect([frames[0], frames.at(-1)]).toEqual([1, 40]);
    expect([12, 20].map((frame) => valueAt(curve, frame))).toEqual([expect.closeTo(0.04, 2), expect.closeTo(1, 2)]);
    expect(done.edit.label).toContain('perform');
  });
});
