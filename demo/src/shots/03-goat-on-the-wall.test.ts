import { applyRecipe, clipAtWork, clipsOf, findingsOf, kitOf, type Shot, takeUpClip } from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { goatOnTheWall } from './03-goat-on-the-wall.ts';

const shot = goatOnTheWall();
const taken = (id: string) => (shot.clips.at(id).kept ? takeUpClip.apply(shot, { id }) : shot);

/** Feet on the ground in each frame of a round. */
function standing(s: Shot): string[][] {
  const { stances, length } = clipAtWork(s, 'goat')!;
  return Array.from({ length }, (_, i) =>
    Object.keys(stances).filter((foot) =>
      stances[foot].some(({ from, to }) => [i, i + length].some((f) => f > from && f < to)),
    ),
  );
}

describe('the goat on the wall', () => {
  test('walks, trots and bounds, each a clip', () => {
    expect(clipsOf(shot, 'goat').map((c) => c.name)).toEqual(['Bound', 'Trot', 'Walk']);
  });

  test.each(['goat-walk', 'goat-trot', 'goat-bound'])('%s has nothing the checks would find', (id) => {
    expect(findingsOf(taken(id))).toEqual([]);
  });

  test('in the walk there are always two feet on the wall or more; the trot goes on diagonals', () => {
    expect(Math.min(...standing(taken('goat-walk')).map((f) => f.length))).toBeGreaterThanOrEqual(2);
    for (const feet of standing(taken('goat-trot'))) {
      if (feet.length === 2)
        expect([
          ['foreFootR', 'hindFootL'],
          ['foreFootL', 'hindFootR'],
        ]).toContainEqual(feet.sort());
    }
  });

  test('the bound has two flights, one gathered and one stretched', () => {
    const flights = standing(taken('goat-bound')).map((f) => f.length === 0);
    const begins = flights.filter((off, i) => off && !flights[(i + flights.length - 1) % flights.length]).length;
    expect(begins).toBe(2);
  });

  test('goes from trot to walk by its footfall only, and every foot stays planted', () => {
    const trot = taken('goat-trot');
    const recipe = trot.recipes.values().find((r) => r.member === 'goat')!;
    const footfall = kitOf('gait')!.chosen!(trot, trot.members.at('goat'), 'pattern', 'walk');
    expect(Object.keys(footfall).sort()).toEqual(['down', 'fall1', 'fall2', 'fall3', 'fall4']);
    const walk = applyRecipe.apply(trot, {
      recipe: { ...recipe, settings: { ...recipe.settings, ...footfall } },
      replace: false,
    });
    expect(findingsOf(walk)).toEqual([]);
    const gait = (s: Shot) => clipAtWork(s, 'goat')!;
    expect(gait(walk).travel).toBe(gait(trot).travel);
    expect(gait(walk).length).toBe(gait(trot).length);
    expect(gait(walk).stances).not.toEqual(gait(trot).stances);
  });
});
