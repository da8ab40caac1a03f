import {
  applyRecipe,
  type BarMove,
  barMoved,
  type Clip,
  clipAtWork,
  footRows,
  piecesOf,
  removeRecipe,
  type Shot,
  setStances,
  shiftInCycle,
} from '@varrup/core';
import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { nightFerry } from '../index.ts';

/** A shot of the demo whose walk the gait kit wrote, and the same with its keys set free of the recipe. */
const walking = nightFerry.shots().find((s) => s.name === '02 Porter crosses')!;
const clipOf = (shot: Shot): Clip => clipAtWork(shot, 'in-place')!;
const left = (shot: Shot) => footRows(shot, clipOf(shot)).find((row) => row.side === 'left')!;
const right = (shot: Shot) => footRows(shot, clipOf(shot)).find((row) => row.side === 'right')!;
const recipe = walking.recipes.values().find((r) => r.kit === 'gait' && r.member === 'in-place')!;
const free = removeRecipe.apply(walking, { id: recipe.id, keys: 'keep' });

const bar = (shot: Shot, change: Partial<BarMove>): BarMove => ({
  control: left(shot).control,
  stance: 0,
  grip: 'whole',
  by: 2,
  alone: false,
  ...change,
});
const movedTo = (shot: Shot, move: BarMove): Shot => {
  const clip = clipOf(shot);
  const moved = barMoved(shot, clip, move);
  if (moved.kind === 'recipe') return applyRecipe.apply(shot, { recipe: moved.recipe, replace: false });
  if (moved.kind === 'shift') return shiftInCycle.apply(shot, { id: clip.id, by: moved.by });
  return setStances.apply(shot, { id: clip.id, control: move.control, stances: moved.stances });
};
const { length } = clipOf(walking);
/** How much later a foot comes down, in frames round the cycle, and how much longer it stays. */
const later = (row: typeof left, shot: Shot, was: Shot) => {
  const [now, before] = [row(shot).stances[0], row(was).stances[0]];
  return {
    by: (((now.from - before.from) % length) + length) % length,
    longer: now.to - now.from - (before.to - before.from),
  };
};

describe('a bar of the gait chart', () => {
  test.each([
    ['the kit wrote', walking],
    ['of plain keys', free],
  ])('moved in a walk %s brings both feet down later, so that they stay half a round apart', (_, shot) => {
    const moved = movedTo(shot, bar(shot, { by: 3 }));
    expect(later(left, moved, shot)).toEqual({ by: 3, longer: 0 });
    expect(later(right, moved, shot)).toEqual({ by: 3, longer: 0 });
  });

  test.each([
    ['the kit wrote', walking],
    ['of plain keys', free],
  ])('moved alone in a walk %s leaves the other foot', (_, shot) => {
    const moved = movedTo(shot, bar(shot, { by: -2, alone: true }));
    expect(later(left, moved, shot)).toEqual({ by: length - 2, longer: 0 });
    expect(later(right, moved, shot)).toEqual({ by: 0, longer: 0 });
  });

  test('pulled at its end lets the feet of the kit’s walk stand longer, as far as its dial goes', () => {
    const move = bar(walking, { grip: 'to', by: 2 });
    expect(later(left, movedTo(walking, move), walking).longer).toBe(2);
    expect(later(right, movedTo(walking, move), walking).longer).toBe(2);
    const far = barMoved(walking, clipOf(walking), { ...move, by: 10_000 });
    expect(far).toMatchObject({ recipe: { settings: { down: 80 } } });
    expect(barMoved(walking, clipOf(walking), { ...move, grip: 'from', by: 10_000 })).toMatchObject({
      recipe: { settings: { down: 20 } },
    });
  });

  test('of plain keys pulled at an end changes that end of that stance, which lasts a frame at least and never the whole round', () => {
    const [before] = left(free).stances;
    fc.assert(
      fc.property(fc.constantFrom('from', 'to' as const), fc.integer({ min: -200, max: 200 }), (grip, by) => {
        const moved = barMoved(free, clipOf(free), bar(free, { grip, by }));
        if (moved.kind !== 'stances') throw new Error('An end changes stances.');
        const [{ from, to }] = moved.stances;
        expect(from).toBeGreaterThanOrEqual(0);
        expect(from).toBeLessThan(length);
        expect(to - from).toBeGreaterThanOrEqual(1);
        expect(to - from).toBeLessThan(length);
        if (grip === 'to') expect(from).toBe(before.from % length);
      }),
    );
    expect(later(left, movedTo(free, bar(free, { grip: 'to', by: 1 })), free)).toEqual({ by: 0, longer: 1 });
    expect(later(left, movedTo(free, bar(free, { grip: 'from', by: 1 })), free)).toEqual({ by: 1, longer: -1 });
    // The halves of this walk mirror each other.
    expect(later(right, movedTo(free, bar(free, { grip: 'to', by: 1 })), free)).toEqual({ by: 0, longer: 1 });
  });

  test('is in one piece, or in two that lie at both ends of the round', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 47 }), fc.integer({ min: 1, max: 47 }), (from, lasts) => {
        const pieces = piecesOf({ from, to: from + lasts }, 48);
        expect(pieces.reduce((sum, [a, b]) => sum + b - a, 0)).toBe(lasts);
        for (const [a, b] of pieces) expect(0 <= a && a < b && b <= 48).toBe(true);
        if (pieces.length === 2) expect([pieces[0][1], pieces[1][0]]).toEqual([48, 0]);
      }),
    );
  });
});
