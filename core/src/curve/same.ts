import type { InHandle, Key, OutHandle } from './key.ts';

/** Whether two handles say the same. */
export const sameHandle = (a: InHandle | OutHandle, b: InHandle | OutHandle): boolean =>
  a === b ||
  (a.kind === b.kind &&
    (a.kind !== 'free' || b.kind !== 'free' || (a.frames === b.frames && a.rise === b.rise)) &&
    (a.kind !== 'tuned' ||
      b.kind !== 'tuned' ||
      (a.tension === b.tension && a.continuity === b.continuity && a.bias === b.bias)));

/** Whether two keys say the same. */
export const sameKey = (a: Key, b: Key): boolean =>
  a === b ||
  (a.frame === b.frame &&
    a.value === b.value &&
    a.joined === b.joined &&
    a.role === b.role &&
    sameHandle(a.in, b.in) &&
    sameHandle(a.out, b.out));
