import { findingsOf, frameOf, givenBy, layDown, Program, perform, type Shot, valueAt } from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { goat, laid, slides, span, track } from './three-gaits.ts';

/** A walk that turns: its clip goes straight on, its span takes it round. */

const rootOf = (shot: Shot, at: number) => {
  const frame = frameOf(shot, at);
  const placed = frame.layout.rigAt.get(frame.layout.slotOf.get('goat')!)!;
  const m = frame.world.slice(placed.root * 16, placed.root * 16 + 16);
  return { x: m[12], z: m[14], faces: Math.atan2(m[8], m[10]) };
};

describe('a span that turns', () => {
  const degrees = fc.integer({ min: -150, max: 150 });

  for (const gait of ['walk', 'trot'])
    test(`takes a ${gait} round, and no hoof slides`, () => {
      fc.assert(
        fc.property(degrees, fc.integer({ min: 60, max: 140 }), fc.integer({ min: 0, max: 27 }), (by, length, into) => {
          const turn = (by * Math.PI) / 180;
          const shot = laid(goat, track([span(goat, gait, { length, into, turn })]));
          const end = rootOf(shot, length);
          expect(Math.sin(end.faces - turn)).toBeCloseTo(0, 2);
          const found = slides(shot, 10, length - 4);
          expect(found.slide, `${by}° in ${length}: a hoof at frame ${found.at}, mm`).toBeLessThan(3);
          expect(found.deep).toBeLessThan(1);
        }),
        { numRuns: 12 },
      );
    });

  test('goes as far along its way as straight on, and faces where it goes', () => {
    const [length, turn] = [120, Math.PI / 2];
    const shot = laid(goat, track([span(goat, 'walk', { length, turn })]));
    const clip = goat.clips.at('walk');
    let far = 0;
    for (let f = 1; f < length; f++) {
      const [a, b] = [rootOf(shot, f), rootOf(shot, f + 1)];
      const step = Math.hypot(b.x - a.x, b.z - a.z);
      far += step;
      const way = Math.atan2(b.x - a.x, b.z - a.z);
      expect(Math.abs(way - (a.faces + b.faces) / 2)).toBeLessThan(2e-3);
    }
    expect(far).toBeCloseTo((clip.travel / clip.length) * (length - 1), 2);
    // A quarter round: as far aside as ahead.
    const end = rootOf(shot, length);
    expect(end.x).toBeCloseTo(end.z, 1);
  });

  test('goes over from straight on and into another gait, with place, heading and pace going on', () => {
    const spans = [
      span(goat, 'walk', { id: 'a', length: 60 }),
      span(goat, 'walk', { id: 'b', from: 49, length: 70, turn: 1.2 }),
      span(goat, 'trot', { id: 'c', from: 107, length: 60 }),
    ];
    const shot = laid(goat, track(spans));
    expect(slides(shot, 10, 155).slide).toBeLessThan(3);
    const roots = Array.from({ length: 150 }, (_, i) => rootOf(shot, i + 5));
    const steps = roots
      .slice(1)
      .map((b, i) => [Math.hypot(b.x - roots[i].x, b.z - roots[i].z), b.faces - roots[i].faces]);
    for (let i = 1; i < steps.length; i++) {
      expect(Math.abs(steps[i][0] - steps[i - 1][0]), `pace at ${i + 5}`).toBeLessThan(4e-3);
      expect(Math.abs(steps[i][1] - steps[i - 1][1]), `heading at ${i + 5}`).toBeLessThan(4e-3);
    }
  });

  test('is laid down as keys of place and turn, and plays the same', () => {
    const shot = laid(goat, track([span(goat, 'walk', { length: 100, turn: 1 })]));
    const down = perform(shot, layDown, { rig: 'goat', within: { metres: 5e-4, radians: Math.PI / 1800 } })!.shot;
    const { course } = givenBy(shot, 'goat')!;
    expect(valueAt(course!.turn!, 101)).toBeCloseTo(1, 9);
    for (const f of [3, 30, 61, 99]) {
      const [a, b] = [frameOf(shot, f), frameOf(down, f)];
      const at = (frame: typeof a) => {
        const placed = frame.layout.rigAt.get(frame.layout.slotOf.get('goat')!)!;
        return frame.world.slice(placed.joints * 16, (placed.joints + 3) * 16);
      };
      at(a).forEach((v, i) => {
        expect(Math.abs(v - at(b)[i])).toBeLessThan(6e-3);
      });
    }
  });

  test('draws no leg out where it turns as one walks', () => {
    const play = { first: 10, last: 110 };
    const shot = { ...laid(goat, track([span(goat, 'walk', { length: 120, turn: 0.9 })])), play, range: play };
    expect(
      findingsOf(shot)
        .filter((f) => f.check === 'limbReach')
        .map((f) => f.text),
    ).toEqual([]);
    new Program(shot);
  });
});
