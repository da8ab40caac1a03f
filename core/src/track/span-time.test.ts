import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Clip, plainManner } from '../document/clip.ts';
import { type ClipSpan, endOf, plainSpan } from '../document/track.ts';
import { BentTime, Stretches, timeAlone } from './span-time.ts';

const clip: Clip = {
  id: 'wave',
  rig: 'porter',
  name: 'Wave',
  first: 1,
  length: 24,
  cycles: false,
  travel: 0,
  travelling: false,
  halves: 'free',
  labels: [],
  stances: {},
  way: null,
  manner: plainManner,
  follows: {},
  kept: null,
};
const span = (more: Partial<ClipSpan>): ClipSpan => ({
  ...plainSpan,
  id: 's',
  clip: 'wave',
  from: 10,
  length: 40,
  ...more,
});
const timeOf = (more: Partial<ClipSpan>) => timeAlone(span(more), clip, more.into ?? 0);

describe('a part that repeats', () => {
  const loop = { from: 8, to: 16 };

  test('has its beginning once, its rounds, and its end once', () => {
    // 8 frames to come in, three rounds of 8, and 8 to go.
    const time = timeOf({ loop, length: 40 });
    expect([0, 7, 8, 12, 15.5, 16, 24, 30, 32, 36, 39.5].map((f) => time.at(10 + f))).toEqual([
      0, 7, 8, 12, 15.5, 8, 8, 14, 16, 20, 23.5,
    ]);
  });

  test('goes round as often as fits best, a little slower or faster, and is at its end when the span is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 24, max: 400 }), fc.double({ min: 0.3, max: 3, noNaN: true }), (length, speed) => {
        const time = timeOf({ loop, length, speed });
        const end = endOf(span({ length }));
        const room = length * speed;
        if (room >= 24) expect(time.at(end - 1e-7)).toBeCloseTo(24, 5);
        // Never outside of the clip, never backwards but for the way back to where the part begins.
        let [rounds, before] = [0, time.at(10)];
        for (let f = 10.25; f < end; f += 0.25) {
          const at = time.at(f);
          if (at < before - 1e-9) {
            rounds++;
            expect(before).toBeGreaterThan(16 - speed);
            expect(at).toBeLessThan(8 + speed);
          }
          if (room >= 24) expect(at).toBeLessThan(24 + 1e-6);
          before = at;
        }
        const wanted = Math.max(0, Math.round((room - 16 - 8) / 8));
        if (speed < 1.5) expect(rounds).toBe(wanted);
      }),
    );
  });

  test('is left out where there is no time for it', () => {
    const time = timeOf({ loop, length: 12 });
    expect([0, 6, 11].map((f) => time.at(10 + f))).toEqual([0, 6, 11]);
  });

  test('begins where the span begins in it', () => {
    const time = timeOf({ loop, into: 12, length: 20 });
    expect([0, 3, 4, 12].map((f) => time.at(10 + f))).toEqual([12, 15, 8, 16]);
  });
});

describe('bent time', () => {
  const points = fc
    .uniqueArray(
      fc.record({ at: fc.integer({ min: 0, max: 90 }), clip: fc.double({ min: -20, max: 40, noNaN: true }) }),
      {
        minLength: 2,
        maxLength: 9,
        selector: (p) => p.at,
      },
    )
    .map((list) => list.sort((a, b) => a.at - b.at));

  test('goes through its points, and between two of them never further than they are', () => {
    fc.assert(
      fc.property(points, fc.double({ min: 0, max: 1, noNaN: true }), (list, u) => {
        const time = new BentTime(list, 5);
        for (const p of list) expect(time.at(5 + p.at)).toBeCloseTo(p.clip, 9);
        list.slice(1).forEach((b, i) => {
          const a = list[i];
          const at = time.at(5 + a.at + (b.at - a.at) * u);
          expect(at).toBeGreaterThan(Math.min(a.clip, b.clip) - 1e-9);
          expect(at).toBeLessThan(Math.max(a.clip, b.clip) + 1e-9);
        });
      }),
    );
  });

  test('says how fast it goes, as a difference does', () => {
    fc.assert(
      fc.property(points, fc.double({ min: -10, max: 110, noNaN: true }), (list, frame) => {
        const time = new BentTime(list, 0);
        const e = 1e-5;
        if (list.some((p) => Math.abs(p.at - frame) < 2 * e)) return;
        expect(time.speed(frame)).toBeCloseTo((time.at(frame + e) - time.at(frame - e)) / (2 * e), 3);
      }),
    );
  });

  test('holds between two points of the same frame, and runs backwards', () => {
    const time = new BentTime(
      [
        { at: 0, clip: 0 },
        { at: 10, clip: 10 },
        { at: 20, clip: 10 },
        { at: 30, clip: 0 },
      ],
      0,
    );
    for (const f of [12, 15, 19]) expect(time.at(f)).toBeCloseTo(10, 12);
    expect(time.speed(25)).toBeLessThan(0);
  });
});

test('stretches go on where the last one ended, from one speed over to another', () => {
  const time = new Stretches(0, 3);
  time.go(10, 1, 2, 'even');
  time.go(20, 2);
  expect(time.at(10)).toBeCloseTo(18, 12);
  expect(time.at(20)).toBeCloseTo(38, 12);
  expect(time.speed(5)).toBeCloseTo(1.5, 12);
});
