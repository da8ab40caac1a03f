import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parseShot } from '../parse/parse.ts';
import { castWithRigs } from '../testing/arbitraries.ts';
import { randomChanges } from '../testing/edits.ts';
import { walkerRigs } from '../testing/rig.ts';
import { applyEdit } from './edit.ts';
import { emptyHistory, recorded, redo, undo } from './history.ts';

/** What is left of a document on the wire: JSON knows no -0. */
const json = <T>(value: T): T => JSON.parse(JSON.stringify(value));

describe('undo and redo', () => {
  test('restore every version of the document exactly, whatever the edits', () => {
    fc.assert(
      fc.property(castWithRigs, randomChanges, (start, changes) => {
        const versions = [start];
        let history = emptyHistory;
        for (const change of changes) {
          const done = change(versions.at(-1)!);
          if (!done) continue;
          versions.push(done.shot);
          history = recorded(history, done.edit);
        }
        let current = versions.at(-1)!;
        for (const version of versions.slice(0, -1).reverse()) {
          const step = undo(current, history)!;
          expect(json(step.shot)).toEqual(json(version));
          ({ shot: current, history } = step);
        }
        expect(undo(current, history)).toBeNull();
        for (const version of versions.slice(1)) {
          const step = redo(current, history)!;
          expect(json(step.shot)).toEqual(json(version));
          ({ shot: current, history } = step);
        }
        expect(redo(current, history)).toBeNull();
      }),
      { numRuns: 120 },
    );
  });

  test('keep the document one that can be read again, whatever the edits', () => {
    fc.assert(
      fc.property(castWithRigs, randomChanges, (start, changes) => {
        let current = start;
        for (const change of changes) current = change(current)?.shot ?? current;
        const parsed = parseShot(json(current), walkerRigs);
        expect(parsed.ok ? [] : parsed.problems).toEqual([]);
        expect(parsed.ok && json(parsed.value)).toEqual(json(current));
      }),
      { numRuns: 120 },
    );
  });

  test('go through the log: the patches of an undo, applied elsewhere, lead to the same document', () => {
    fc.assert(
      fc.property(castWithRigs, randomChanges, (start, changes) => {
        for (const change of changes) {
          const done = change(start);
          if (!done) continue;
          const back = undo(done.shot, recorded(emptyHistory, done.edit))!;
          const wire = json([done.edit, back.edit]);
          expect(applyEdit(applyEdit(json(start), wire[0]), wire[1])).toEqual(json(start));
        }
      }),
    );
  });

  test('say what they take back', () => {
    fc.assert(
      fc.property(castWithRigs, randomChanges, (start, changes) => {
        for (const change of changes) {
          const done = change(start);
          if (!done) continue;
          expect(done.edit.label.length).toBeGreaterThan(3);
          expect(undo(done.shot, recorded(emptyHistory, done.edit))!.edit.label).toBe(`undo ${done.edit.label}`);
        }
      }),
    );
  });
});
