/** Who sits here: a name made up once for this browser, so that one's own edits can be told from those of others. */
export function person(): string {
  const there = localStorage.getItem(KEY);
  if (there) return there;
  const made = crypto.randomUUID();
  localStorage.setItem(KEY, made);
  return made;
}

const KEY = 'varrup-person';
