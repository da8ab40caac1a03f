import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Program } from '../../evaluate/program.ts';
import { castWithRigs } from '../../testing/arbitraries.ts';
import { ball, shotWith } from '../../testing/sets.ts';
import { usualChoices } from '../bake/choices.ts';
import { curveTablesOf } from './of-shot.ts';
import { curvesFor, takeInCurves } from './onto-shot.ts';
import { readCurveTable } from './read.ts';
import { writeCurveTable } from './write.ts';

test('curves of any shot, out as a table and in again, have what they had at every frame', () => {
  const choices = { ...usualChoices, frames: { first: 1, last: 10 }, clips: [], rate: 24 };
  fc.assert(
    fc.property(castWithRigs, (shot) => {
      const [{ table }] = curveTablesOf(shot, choices);
      if (table.columns.length === 0) return;
      const { curves } = curvesFor(shot, readCurveTable(writeCurveTable(table, 'wide')));
      const again = takeInCurves.apply(shot, { curves: Object.fromEntries(curves) });
      const [ours, theirs] = [new Program(shot), new Program(again)];
      const [before, after] = [ours.createFrame(), theirs.createFrame()];
      for (let f = 1; f <= 10; f++) {
        ours.evaluate(f, before);
        theirs.evaluate(f, after);
        for (const [path, curve] of curves) {
          if (curve.type !== 'number') continue;
          const dot = path.indexOf('.');
          const of = [path.slice(0, dot), path.slice(dot + 1)] as const;
          expect(Math.abs(after.value(...of)! - before.value(...of)!)).toBeLessThan(1e-5);
        }
      }
    }),
    { numRuns: 40 },
  );
});

test('a table at another rate is spread over the frames of the shot, degrees become what the shot counts in', () => {
  const shot = shotWith(ball());
  const text = 'frame,seconds,Float: move y (m),Float: turn z (°)\n1,0,1,0\n13,1,2,180\n';
  const { curves, left } = curvesFor(shot, readCurveTable(text));
  expect(left).toEqual([]);
  expect(curves.get('ball.move.y')?.keys.map((k) => [k.frame, k.value])).toEqual([
    [1, 1],
    [25, 2],
  ]);
  expect(curves.get('ball.turn.z')?.keys[1].value).toBeCloseTo(Math.PI, 12);
});

test('columns that find nobody, or no such channel, or hold nothing, are told', () => {
  const shot = shotWith(ball());
  const text = 'frame,Nobody: move y (m),Float: fly (m),Float: move x (m)\n1,1,1,\n2,1,1,\n';
  const { curves, left } = curvesFor(shot, readCurveTable(text));
  expect(curves.size).toBe(0);
  expect(left).toEqual([
    'Nobody: move y: nobody in the shot is called so',
    'Float: fly: it has no such channel',
    'Float: move x: there are no numbers',
  ]);
});
