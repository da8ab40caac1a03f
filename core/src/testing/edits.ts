import * as fc from 'fast-check';
import type { Shot } from '../document/shot.ts';
import { castingProblems } from '../parse/casting.ts';
import { type Change, dice, type Throw } from './dice.ts';
import { moreEdits } from './more-edits.ts';
import { plainEdits } from './plain-edits.ts';
import { rigEdits } from './rig-edits.ts';

/** Random edits by every command, each made to fit whatever shot it meets. */

export const everyEdit: readonly Throw[] = [...plainEdits, ...moreEdits, ...rigEdits].map((change) => (s, d) => {
  const done = change(s, d);
  return done && !goesInACircle(done.shot) ? done : null;
});

/** Whether some carry one another: the interface offers no holder that would, and a document that says so is refused. */
const goesInACircle = (shot: Shot): boolean =>
  castingProblems(shot).some(({ sentence }) => sentence.includes('round in a circle'));

/** Lists of edits that can also be taken back. */
export const randomChanges: fc.Arbitrary<Change[]> = fc.array(
  fc.tuple(fc.nat(everyEdit.length - 1), dice).map(
    ([which, d]) =>
      (s: Shot) =>
        everyEdit[which](s, d),
  ),
  { minLength: 1, maxLength: 12 },
);

/** The same for those who only want the next shot. */
export const randomEdits: fc.Arbitrary<((shot: Shot) => Shot)[]> = randomChanges.map((list) =>
  list.map((change) => (s: Shot) => change(s)?.shot ?? s),
);
