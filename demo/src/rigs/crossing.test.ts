import { endOf, findingsOf, kindest, type TriedCrossing, triedCrossings } from '@varrup/core';
import { expect, test } from 'vitest';
import { goat, laid, span, track } from './three-gaits.ts';

/** Crossings are found by trying them. */

const tried = (a: string, b: string): TriedCrossing[] => {
  const own = track([span(goat, a, { length: 62 }), span(goat, b, { id: 'second', from: 53, length: 70 })]);
  return [...triedCrossings(laid(goat, own), own, 'second')].filter((found) => found !== null);
};

test('walk to trot: all of them leave feet where they are, and the kindest draws no leg out and hurries least', () => {
  const all = tried('walk', 'trot');
  expect(all.length).toBeGreaterThan(20);
  const best = kindest(all)!;
  expect(best.slide).toBeLessThan(1);
  for (const { slide } of all) expect(slide).toBeLessThan(3);
  expect(best.rush).toBeLessThan(Math.max(...all.map((c) => c.rush)));
  // It is what the track has then.
  const [first, second] = best.track.spans;
  expect([second.from, endOf(first) - second.from]).toEqual([best.from, best.over]);
  const play = { first: best.from, last: best.from + best.over + 12 };
  const found = findingsOf({ ...laid(goat, best.track), play, range: play });
  expect(found.filter((f) => f.check === 'limbReach')).toEqual([]);
});

test('a span that has none before it has nothing to go over from', () => {
  const own = track([span(goat, 'walk', { id: 'only' })]);
  expect([...triedCrossings(laid(goat, own), own, 'only')]).toEqual([]);
});
