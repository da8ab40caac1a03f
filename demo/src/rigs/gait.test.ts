import { applyRecipe, clipAtWork, findingsOf, frameOf, kitOf, type Recipe, type Shot } from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { gaitSettings } from '../walking.ts';
import { jointPlace, shotWith } from './testing.ts';

type Settings = Recipe['settings'];

/** What must hold whatever is dialled; the other checks speak of style. */
const mustHold = [
  'footSlides',
  'belowFloor',
  'limbReach',
  'seamKey',
  'seamHitch',
  'halvesDiffer',
  'travelAndStride',
  'limitExceeded',
];

/** A rig that walks as dialled, and before that as it was dialled before; one round of it on the stage. */
function walking(rig: string, ...dialled: Settings[]): Shot {
  const shot = dialled.reduce((s, settings) => {
    const recipe: Recipe = { id: 'gait', kit: 'gait', member: rig, settings, written: {} };
    return applyRecipe.apply(s, { recipe, replace: false });
  }, shotWith(rig));
  const span = { first: 1, last: (clipAtWork(shot, rig)?.length ?? 1) + 1 };
  return { ...shot, range: span, play: span };
}

/**
 * How far a foot may sink while it swings where every dial is at its end at once, in mm: a leg that is at its limit sideways, in a
 * swing of three frames, has no more room.
 */
const AT_ALL_ENDS = 5;

const faults = (shot: Shot): string[] =>
  findingsOf(shot)
    .filter((f) => mustHold.includes(f.check) && !(f.check === 'belowFloor' && f.value < AT_ALL_ENDS))
    .map((f) => f.text);

/** Any setting of every dial, within its range. */
const anyDials = fc.record(
  Object.fromEntries(
    kitOf('gait')!.fields.flatMap((field): [string, fc.Arbitrary<number>][] =>
      field.kind === 'number'
        ? [[field.name, fc.integer({ min: 0, max: 20 }).map((n) => field.min + ((field.max - field.min) * n) / 20)]]
        : [],
    ),
  ),
);

describe('a gait', () => {
  for (const rig of ['porter', 'goat']) {
    test(`of the ${rig} keeps feet planted, legs within reach and the seam closed over the whole range of its dials`, () => {
      fc.assert(
        fc.property(anyDials, anyDials, (before, dials) => {
          const shot = walking(rig, before, dials);
          expect(faults(shot)).toEqual([]);
          // Nothing of the walk before is left in it.
          expect(shot.curves).toEqual(walking(rig, dials).curves);
        }),
        { numRuns: 8 },
      );
    });
  }

  test('of four legs nods: the head is lowest when a forefoot has just taken the weight, twice in a round', () => {
    const settings = gaitSettings(shotWith('goat'), 'goat', { pattern: 'walk' });
    const shot = walking('goat', settings);
    const { length, first, stances } = clipAtWork(shot, 'goat')!;
    const heights = Array.from({ length }, (_, f) => jointPlace(frameOf(shot, first + f), 'goat', 'head')[1]);
    const lows = heights.flatMap((h, f) => {
      const [before, after] = [heights[(f + length - 1) % length], heights[(f + 1) % length]];
      return h < before && h <= after ? [f] : [];
    });
    expect(lows).toHaveLength(2);
    expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.03);
    const contacts = ['foreFootL', 'foreFootR'].map((foot) => stances[foot][0].from % length);
    for (const low of lows) {
      const after = Math.min(...contacts.map((c) => (low - c + length) % length));
      expect(after).toBeGreaterThan(1);
      expect(after).toBeLessThan(length / 4);
    }
  });

  test.each(['plain', 'heavy', 'weary', 'sneaking'])(
    'that leans, %s, lets its arms hang: they are plumb on the whole',
    (character) => {
      const settings = gaitSettings(shotWith('porter'), 'porter', { character });
      const shot = walking('porter', { ...settings, elbow: 0, swing: 20 });
      const { length, first } = clipAtWork(shot, 'porter')!;
      let ahead = 0;
      for (let f = 0; f < length; f++) {
        const frame = frameOf(shot, first + f);
        for (const side of ['L', 'R']) {
          const [arm, elbow] = [
            jointPlace(frame, 'porter', `arm${side}`),
            jointPlace(frame, 'porter', `forearm${side}`),
          ];
          ahead += (Math.atan2(elbow[2] - arm[2], arm[1] - elbow[1]) * 180) / Math.PI / (2 * length);
        }
      }
      expect(Math.abs(ahead)).toBeLessThan(12);
    },
  );
});
