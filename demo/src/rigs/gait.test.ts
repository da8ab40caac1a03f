import { applyRecipe, clipAtWork, findingsOf, kitOf, type Recipe, type Shot } from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { shotWith } from './testing.ts';

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
});
