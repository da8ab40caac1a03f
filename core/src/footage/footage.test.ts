import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type Footage, FootageSchema, type Trace } from '../document/footage.ts';
import { aFilm } from '../testing/plan-edits.ts';
import {
  filmRows,
  footageSeconds,
  footageSpan,
  frameOfPicture,
  pictureAt,
  tracedBounces,
  tracedPoints,
  withDot,
} from './index.ts';

const film = (more: Partial<Footage> = {}): Footage => ({ ...aFilm, seconds: 300, until: 300, ...more });

describe('footage pinned to a shot', () => {
  test('shows its pictures one after another where both have one rate, and none twice', () => {
    const f = film({ rate: 24 });
    expect([1, 2, 3, 25].map((frame) => pictureAt(f, frame, 24))).toEqual([0, 1, 2, 24]);
    const odd = film({ rate: 30_000 / 1_001, seconds: 301, until: 301 });
    for (let frame = 1; frame < 9_000; frame++) expect(pictureAt(odd, frame, 30_000 / 1_001)).toBe(frame - 1);
  });

  test('starts where it is pinned, shows only the part that is used, at its speed', () => {
    const f = film({ frame: 10, from: 2, until: 4, speed: 0.5 });
    expect(pictureAt(f, 9, 24)).toBeNull();
    expect(pictureAt(f, 10, 24)).toBe(50);
    expect(footageSeconds(f, 34, 24)).toBe(2.5);
    expect(footageSpan(f, 24)).toEqual({ first: 10, last: 105 });
    expect(pictureAt(f, 105, 24)).not.toBeNull();
    expect(pictureAt(f, 106, 24)).toBeNull();
  });

  test('never lies more than half a frame from the shot, over five minutes, at every speed', () => {
    const speeds = fc.constantFrom(0.25, 0.5, 1, 2, 0.3333);
    const rates = fc.constantFrom(24, 25, 29.97, 30, 48, 60);
    fc.assert(
      fc.property(speeds, rates, rates, fc.integer({ min: 1, max: 7_200 }), (speed, rate, shotRate, frame) => {
        const f = film({ speed, rate, seconds: 620, until: 620 });
        const picture = pictureAt(f, frame, shotRate)!;
        const on = frameOfPicture(f, picture, shotRate);
        const off = frameOfPicture(f, picture + 1, shotRate);
        expect(on).toBeLessThanOrEqual(frame + 1e-2);
        expect(off).toBeGreaterThan(frame - 1e-2);
      }),
    );
  });

  test.each([
    ['ends before it begins', { from: 3, until: 2 }],
    ['has no speed', { speed: 0 }],
    ['is no file of the store', { media: 'x' }],
  ])('is refused where it %s', (_, wrong) => {
    expect(FootageSchema.safeParse(film(wrong)).success).toBe(false);
  });
});

describe('a point that is followed', () => {
  const trace: Trace = { id: 't', footage: 'f', name: 'Heel', side: 'left', dots: [] };

  test('has one dot a picture, in order', () => {
    const dotted = [5, 2, 9, 5].reduce<Trace>((t, picture, i) => withDot(t, picture, [i / 10, 0.5]), trace);
    expect(dotted.dots.map((d) => [d.picture, d.at[0]])).toEqual([
      [2, 0.1],
      [5, 0.3],
      [9, 0.2],
    ]);
    expect(withDot(dotted, 5, null).dots.length).toBe(2);
  });

  test('is in metres once two points are marked, and in nothing before', () => {
    const dotted = withDot(withDot(trace, 0, [0.1, 0.5]), 25, [0.3, 0.4]);
    expect(tracedPoints(dotted, film())).toBeNull();
    const scaled = film({ scale: { a: [0.1, 0.5], b: [0.1, 0.1], metres: 2 } });
    expect(tracedPoints(dotted, scaled)!.map(({ seconds, x, y }) => [seconds, x, y])).toEqual([
      [0, 0, 0],
      [1, expect.closeTo(1), expect.closeTo(0.5)],
    ]);
  });
});

/** Where a ball is that is dropped from a height, at any time: it bounces by its liveliness. */
function dropped(height: number, lively: number, gravity: number) {
  const tops: number[] = [];
  return {
    tops,
    at(seconds: number): number {
      let [from, high] = [-Math.sqrt((2 * height) / gravity), height];
      tops.length = 0;
      for (;;) {
        const half = Math.sqrt((2 * high) / gravity);
        tops.push(high);
        if (seconds < from + 2 * half) return Math.max(0, high - 0.5 * gravity * (seconds - from - half) ** 2);
        from += 2 * half;
        high *= lively ** 2;
        if (high < 1e-3) return 0;
      }
    },
  };
}

describe('the bounces of a point that was followed', () => {
  test('have the heights they had, to two parts in a hundred, whatever picture the dots fall on', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.8, max: 3, noNaN: true }),
        fc.double({ min: 0.6, max: 0.9, noNaN: true }),
        fc.double({ min: 0, max: 0.04, noNaN: true }),
        fc.constantFrom(24, 25, 30),
        (height, lively, late, rate) => {
          const ball = dropped(height, lively, 9.81);
          const points = Array.from({ length: Math.round(rate * 2.6) }, (_, picture) => ({
            picture,
            seconds: picture / rate,
            x: 0,
            y: ball.at(picture / rate + late),
          }));
          const found = tracedBounces(points);
          expect(found.length).toBeGreaterThan(1);
          for (const [i, bounce] of found.slice(0, 3).entries()) {
            expect(Math.abs(bounce.height / ball.tops[i] - 1)).toBeLessThan(0.02);
            if (bounce.ratio !== null) expect(bounce.ratio).toBeCloseTo(lively ** 2, 1);
            if (i > 0 && bounce.gravity !== null) expect(bounce.gravity / 9.81).toBeCloseTo(1, 1);
          }
        },
      ),
    );
  });

  test('come out the same to two parts in a hundred where the hand was off by a pixel of 640', () => {
    const ball = dropped(2, 0.8, 9.81);
    let seed = 7;
    const shake = () => {
      seed = (seed * 16_807) % 2_147_483_647;
      return (seed / 2_147_483_647 - 0.5) * (2 * (4 / 640));
    };
    const points = Array.from({ length: 60 }, (_, picture) => ({
      picture,
      seconds: picture / 25,
      x: 0,
      y: ball.at(picture / 25) + shake(),
    }));
    const found = tracedBounces(points);
    for (const [i, bounce] of found.slice(0, 3).entries())
      expect(Math.abs(bounce.height / ball.tops[i] - 1)).toBeLessThan(0.02);
  });

  test('are none where nothing comes down and up again', () => {
    const rising = Array.from({ length: 20 }, (_, i) => ({ picture: i, seconds: i / 25, x: i, y: i * 0.1 }));
    expect(tracedBounces(rising)).toEqual([]);
    expect(tracedBounces([])).toEqual([]);
    expect(tracedBounces(rising.map((p) => ({ ...p, y: 1 })))).toEqual([]);
  });
});

describe('the bounces of footage as the bounce table has them', () => {
  const ball = dropped(1.5, 0.8, 9.81);
  /** A picture is two metres wide, the ground is at 0.5 of its width. */
  const dots = Array.from({ length: 70 }, (_, picture) => ({
    picture,
    at: [0.5, 0.5 - ball.at(picture / 25) / 2] as const,
  }));
  const trace: Trace = { id: 't', footage: 'f', name: 'Ball', side: 'centre', dots };
  const scale = { a: [0, 0.5], b: [1, 0.5], metres: 2 } as const;

  test('land on frames of the shot, at its rate and from where the footage is pinned', () => {
    const rows = filmRows(film({ scale, frame: 11, from: 0.2 }), trace, 24);
    const fall = Math.sqrt((2 * 1.5) / 9.81);
    expect(rows[0].contact).toBeCloseTo(11 + (fall - 0.2) * 24, 1);
    expect(rows[0].height).toBeCloseTo(1.5 * 0.64, 1);
    expect(rows[0].ratio).toBeCloseTo(0.64, 1);
    // Up as long as down, and as long as a fall from there takes.
    expect(rows[0].framesUp).toBeCloseTo(0.8 * fall * 24, 0);
    expect(rows[0].framesDown).toBeCloseTo(0.8 * fall * 24, 0);
    expect(rows[0].gravity! / 9.81).toBeCloseTo(1, 1);
    expect(rows.at(-1)).toMatchObject({ height: null, gravity: null });
  });

  test('take twice as long at half the speed, and fall a quarter as hard', () => {
    const [whole, half] = [1, 0.5].map((speed) => filmRows(film({ scale, speed }), trace, 24));
    expect(half[1].contact - half[0].contact).toBeCloseTo(2 * (whole[1].contact - whole[0].contact), 6);
    expect(half[0].height).toBeCloseTo(whole[0].height!, 9);
    expect(half[0].gravity).toBeCloseTo(whole[0].gravity! / 4, 6);
  });

  test('are none before anybody has said how large anything is', () => {
    expect(filmRows(film(), trace, 24)).toEqual([]);
  });
});
