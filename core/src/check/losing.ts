import { withLoss } from '../bounce/flights.ts';
import type { Check, Finding } from './check.ts';

const framesOf = (findings: readonly Finding[]) => findings.flatMap(({ frame }) => frame ?? []);

/** The fix of a bounce from which nothing is lost: time and height go down together, so that it falls as before. */
export const losing = (words: string): NonNullable<Check['fix']> => ({
  words,
  apply: (shot, finding) => (finding.path === null ? shot : withLoss(shot, finding.path, framesOf([finding]))),
  together: (shot, path, findings) => withLoss(shot, path, framesOf(findings)),
});
