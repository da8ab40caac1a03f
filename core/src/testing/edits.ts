import * as fc from 'fast-check';
import type { Shot } from '../document/shot.ts';
import { Refused } from '../schema/refused.ts';
import { type Change, dice, type Throw } from './dice.ts';
import { moreEdits } from './more-edits.ts';
import { plainEdits } from './plain-edits.ts';
import { planEdits } from './plan-edits.ts';
import { rigEdits } from './rig-edits.ts';

/** Random edits by every command, each made to fit whatever shot it meets. */

export const everyEdit: readonly Throw[] = [...plainEdits, ...moreEdits, ...rigEdits, ...planEdits].map(
  (change) => (s, d) => {
    try {
      return change(s, d);
    } catch (error) {
      if (error instanceof Refused) return null;
      throw error;
    }
  },
);

/** Lists of edits that can also be taken back, up to so many. @param size how long they are on the whole */
export const upToChanges = (most: number, size: fc.Size = 'small'): fc.Arbitrary<Change[]> =>
  fc.array(
    fc.tuple(fc.nat(everyEdit.length - 1), dice).map(
      ([which, d]) =>
        (s: Shot) =>
          everyEdit[which](s, d),
    ),
    { minLength: 1, maxLength: most, size },
  );
export const randomChanges = upToChanges(12);

/** The same for those who only want the next shot. */
export const randomEdits: fc.Arbitrary<((shot: Shot) => Shot)[]> = randomChanges.map((list) =>
  list.map((change) => (s: Shot) => change(s)?.shot ?? s),
);
