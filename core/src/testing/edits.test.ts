import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import * as check from '../check/index.ts';
import * as edit from '../edit/index.ts';
import * as kit from '../kit/index.ts';
import { castWithRigs } from './arbitraries.ts';
import { upToChanges } from './edits.ts';

/** All commands there are, by the names they have in the log. */
const commands = Object.values({ ...edit, ...kit, ...check }).flatMap((part) =>
  typeof part === 'object' && 'name' in part && 'apply' in part ? [part.name] : [],
);

test('random edits do what every command does', () => {
  const done = new Set<string>();
  const left = () => commands.filter((name) => !done.has(name));
  // Some are rarely what one can do at all, or only after others: long lists, and as many rounds as it takes, within reason.
  for (let seed = 1; seed <= 40 && left().length > 0; seed++)
    fc.assert(
      fc.property(castWithRigs, upToChanges(40, 'large'), (start, changes) => {
        let shot = start;
        for (const change of changes) {
          const next = change(shot);
          if (!next) continue;
          done.add(next.edit.command);
          shot = next.shot;
        }
      }),
      { numRuns: 100, seed },
    );
  expect(commands.length).toBeGreaterThan(90);
  expect(left()).toEqual([]);
});
