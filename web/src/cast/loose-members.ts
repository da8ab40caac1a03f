import type { Shot } from '@varrup/core';

const known = new WeakMap<Shot['loose'], ReadonlySet<string>>();

/** The members with a change that is loose; found once for all rows of the cast. */
export function looseMembers(loose: Shot['loose']): ReadonlySet<string> {
  let members = known.get(loose);
  if (!members) {
    members = new Set(loose.keys().map((path) => path.slice(0, path.indexOf('.'))));
    known.set(loose, members);
  }
  return members;
}
