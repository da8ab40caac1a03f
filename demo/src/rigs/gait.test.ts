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

/** A rig that walks as dialled, one round of it on the stage. */
function walking(rig: string, settings: Settings): Shot {
  const recipe: Recipe = { id: 'gait', kit: 'gait', member: rig, settings, written: {} };
  const shot = applyRecipe.apply(shotWith(rig), { recipe, replace: false });
  const span = { first: 1, last: (clipAtWork(shot, rig)?.length ?? 1) + 1 };
  return { ...shot, range: span, play: span };
}

const faults = (shot: Shot): string[] =>
  findingsOf(shot)
    .filter((f) => mustHold.includes(f.check))
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
        fc.property(anyDials, (dials) => {
          expect(faults(walking(rig, dials))).toEqual([]);
        }),
        { numRuns: 60 },
      );
    });
  }
});
