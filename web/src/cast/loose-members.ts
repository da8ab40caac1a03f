/** What holds something by channels' paths. */
interface ByPath {
  keys(): readonly string[];
}

const known = new WeakMap<ByPath, ReadonlySet<string>>();

/** The members with a change that is loose; found once for all rows of the cast. */
export function looseMembers(loose: ByPath): ReadonlySet<string> {
  let members = known.get(loose);
  if (!members) {
    members = new Set(loose.keys().map((path) => path.slice(0, path.indexOf('.'))));
    known.set(loose, members);
  }
  return members;
}
