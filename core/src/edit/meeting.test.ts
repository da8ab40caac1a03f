import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { documentOf, type Shot } from '../document/shot.ts';
import { castWithRigs } from '../testing/arbitraries.ts';
import { randomChanges } from '../testing/edits.ts';
import { applyEdit } from './edit.ts';
import { type AuthoredEdit, emptyHistory, historyFrom, recorded, redo, undo } from './history.ts';
import { apartFrom, fitting, meetings, placeOf, takingOver } from './meeting.ts';
import type { Patch } from './patch.ts';

const set = (path: string): Patch => ({ op: 'replace', path, value: 1 });
const text = (shot: Shot) => JSON.stringify(documentOf(shot));

describe('the place of a patch', () => {
  test.each([
    ['/curves/a.move.x/keys/3/value', '/curves/a.move.x'],
    ['/members/a/values/move.x', '/members/a/values/move.x'],
    ['/members/a/values', '/members/a/values'],
    ['/members/a/custom/0/name', '/members/a/custom'],
    ['/members/a', '/members/a'],
    ['/clips/c/stances/footL/0/from', '/clips/c'],
    ['/watch/tolerances/pops', '/watch/tolerances/pops'],
    ['/watch/ignored/4', '/watch/ignored'],
    ['/play/last', '/play/last'],
    ['/name', '/name'],
  ])('%s is %s', (path, place) => {
    expect(placeOf(set(path))).toBe(place);
  });
});

test.each<[string, string, boolean]>([
  ['/curves/a.move.x/keys/0', '/curves/a.move.x/keys/9/value', true],
  ['/curves/a.move.x/keys/0', '/curves/a.move.y/keys/0', false],
  ['/members/a', '/members/a/values/move.x', true],
  ['/members/a/values/move.x', '/members/a', true],
  ['/members/a/values', '/members/a/values/move.x', true],
  ['/members/a/values/move.x', '/members/a/values/move.y', false],
  ['/members/a/name', '/members/a/values/move.y', false],
  ['/members/a', '/members/ab', false],
  ['/curves/a', '/formulas/a', false],
  ['/rate', '/rate', true],
])('%s and %s meet: %s', (mine, theirs, due) => {
  expect(meetings([set(mine)], [set(theirs)])).toEqual(due ? [placeOf(set(mine))] : []);
});

/** The edits of two people on one shot, each made without the other's. */
const twoPeople = fc.tuple(castWithRigs, randomChanges, randomChanges).map(([start, one, other]) => {
  const run = (changes: typeof one) => {
    let shot = start;
    let history = emptyHistory;
    for (const change of changes) {
      const done = change(shot);
      if (!done) continue;
      shot = done.shot;
      history = recorded(history, done.edit);
    }
    return { history, patches: history.past.flatMap((edit) => edit.patches) };
  };
  return { start, mine: run(one), theirs: run(other) };
});

test('edits that do not meet lead to the same, whichever comes first', () => {
  let met = 0;
  let apart = 0;
  fc.assert(
    fc.property(twoPeople, ({ start, mine, theirs }) => {
      if (meetings(mine.patches, theirs.patches).length > 0) {
        met++;
        return;
      }
      apart++;
      const here = applyEdit(applyEdit(start, mine), theirs);
      const there = applyEdit(applyEdit(start, theirs), mine);
      // Records may have come in another order.
      expect(JSON.parse(text(here))).toEqual(JSON.parse(text(there)));
    }),
    { numRuns: 200 },
  );
  expect(met).toBeGreaterThan(10);
  expect(apart).toBeGreaterThan(10);
});

test('where they meet, what is left of mine fits theirs, and mine can be put over theirs at those places', () => {
  fc.assert(
    fc.property(twoPeople, ({ start, mine, theirs }) => {
      const places = meetings(mine.patches, theirs.patches);
      const withTheirs = applyEdit(start, theirs);
      const rest = apartFrom(mine.patches, places);
      expect(meetings(rest, theirs.patches)).toEqual([]);
      const all = applyEdit(start, mine);
      const over = takingOver(withTheirs, all, places);
      const chosen = applyEdit(withTheirs, { patches: over });
      expect(takingOver(chosen, all, places)).toEqual([]);
    }),
    { numRuns: 100 },
  );
});

test('what can still be taken back after edits of others takes back just that', () => {
  fc.assert(
    fc.property(twoPeople, ({ start, mine, theirs }) => {
      if (meetings(mine.patches, theirs.patches).length > 0) {
        const history = fitting(mine.history, theirs.patches);
        expect(
          meetings(
            history.past.flatMap((e) => e.patches),
            theirs.patches,
          ),
        ).toEqual([]);
        return;
      }
      // Nothing meets: all of it can be, and what is left are theirs.
      let shot = applyEdit(applyEdit(start, mine), theirs);
      let history = fitting(mine.history, theirs.patches);
      expect(history).toEqual(mine.history);
      for (let step = undo(shot, history); step; step = undo(shot, history)) ({ shot, history } = step);
      expect(JSON.parse(text(shot))).toEqual(JSON.parse(text(applyEdit(start, theirs))));
    }),
    { numRuns: 200 },
  );
});

test('what could be taken back before a reload can be after it, from the log', () => {
  const steps = fc.array(fc.constantFrom('do', 'do', 'undo', 'redo'), { minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(castWithRigs, randomChanges, steps, (start, changes, ways) => {
      let shot = start;
      let history = emptyHistory;
      const log: AuthoredEdit[] = [];
      let next = 0;
      for (const way of ways) {
        if (way === 'do') {
          const done = changes[next++ % changes.length](shot);
          if (!done) continue;
          ({ shot } = done);
          history = recorded(history, done.edit);
          log.push({ ...done.edit, author: 'me' });
        } else {
          const step = way === 'undo' ? undo(shot, history) : redo(shot, history);
          if (!step) continue;
          ({ shot, history } = step);
          log.push({ ...step.edit, author: 'me' });
        }
      }
      const ids = (list: readonly { id: string }[]) => list.map((edit) => edit.id);
      const again = historyFrom(log, 'me');
      expect(ids(again.past)).toEqual(ids(history.past));
      expect(ids(again.future)).toEqual(ids(history.future));
      expect(historyFrom(log, 'somebody else')).toEqual(emptyHistory);
    }),
    { numRuns: 100 },
  );
});

test('of a log of two people each can take back their own, where the other has not changed the same since', () => {
  const edit = (id: string, author: string, path: string): AuthoredEdit => ({
    id,
    author,
    command: 'x',
    label: id,
    patches: [set(path)],
    inverse: [set(path)],
  });
  const log = [
    edit('1', 'me', '/rate'),
    edit('2', 'you', '/name'),
    edit('3', 'me', '/play/last'),
    edit('4', 'you', '/rate'),
    edit('5', 'me', '/members/a/name'),
  ];
  expect(historyFrom(log, 'me').past.map((e) => e.id)).toEqual(['3', '5']);
  expect(historyFrom(log, 'you').past.map((e) => e.id)).toEqual(['2', '4']);
});
