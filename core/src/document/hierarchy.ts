import type { Table } from '../table/table.ts';
import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

/** Questions about who belongs to whom. Parents that do not exist count as the stage. */

/** Children of `parent` (`null` for the stage), first rank first. */
export const childrenOf = (shot: Shot, parent: string | null): readonly Member[] => families(shot).get(parent) ?? [];

const known = new WeakMap<Shot['members'], ReadonlyMap<string | null, readonly Member[]>>();

/** The children of everybody, first rank first; looked for once for each version of the cast. */
function families({ members }: Shot): ReadonlyMap<string | null, readonly Member[]> {
  const found = known.get(members);
  if (found) return found;
  const byParent = new Map<string | null, Member[]>();
  for (const member of members.values()) {
    const parent = member.parent !== null && members.has(member.parent) ? member.parent : null;
    const siblings = byParent.get(parent);
    if (siblings) siblings.push(member);
    else byParent.set(parent, [member]);
  }
  for (const siblings of byParent.values()) siblings.sort(byRank);
  known.set(members, byParent);
  return byParent;
}

const byRank = (a: Member, b: Member) => a.rank - b.rank || (a.id < b.id ? -1 : 1);

/** Every member with its depth, parents before children, in the order the cast shows them. */
export function castOrder(shot: Shot): { member: Member; depth: number }[] {
  const out: { member: Member; depth: number }[] = [];
  // A stack rather than recursion: a chain of parents may be thousands long.
  const stack: { member: Member; depth: number }[] = [];
  const push = (parent: string | null, depth: number) => {
    const siblings = childrenOf(shot, parent);
    for (let i = siblings.length - 1; i >= 0; i--) stack.push({ member: siblings[i], depth });
  };
  push(null, 0);
  for (let next = stack.pop(); next; next = stack.pop()) {
    out.push(next);
    push(next.member.id, next.depth + 1);
  }
  return out;
}

/** The member and all that hangs on it. */
export function withDescendants(shot: Shot, ids: readonly string[]): Set<string> {
  const picked = new Set(ids);
  for (const { member } of castOrder(shot)) {
    if (member.parent !== null && picked.has(member.parent)) picked.add(member.id);
  }
  return picked;
}

/** Of these, the ones no other of them carries. */
export function topmost(shot: Shot, ids: readonly string[]): string[] {
  const picked = new Set(ids);
  return ids.filter((id) => {
    for (let up = shot.members.get(id)?.parent; up; up = shot.members.get(up)?.parent ?? null)
      if (picked.has(up)) return false;
    return shot.members.has(id);
  });
}

/** The members of a ring of parents, or `null` where everyone reaches the stage. */
export function parentLoop<M extends { readonly parent: string | null }>(members: Table<M>): string[] | null {
  const safe = new Set<string>();
  for (const start of members.keys()) {
    const trail: string[] = [];
    const onTrail = new Set<string>();
    for (let at: string | null = start; at !== null && members.has(at) && !safe.has(at); at = members.at(at).parent) {
      if (onTrail.has(at)) return trail.slice(trail.indexOf(at));
      trail.push(at);
      onTrail.add(at);
    }
    for (const id of trail) safe.add(id);
  }
  return null;
}

/** Whether a member or one it hangs on is locked. */
export function isLocked(shot: Shot, id: string): boolean {
  for (let at: string | null = id; at !== null && shot.members.has(at); at = shot.members.at(at).parent) {
    if (shot.members.at(at).locked) return true;
  }
  return false;
}

/** A name nobody in the shot has yet: `Ball`, `Ball 2`, `Ball 3`… */
export const freeName = (shot: Shot, wanted: string): string =>
  freeNameAmong(new Set(shot.members.values().map((m) => m.name)), wanted);

/** A name that is not among those taken. */
export function freeNameAmong(taken: ReadonlySet<string>, wanted: string): string {
  if (!taken.has(wanted)) return wanted;
  const stem = wanted.replace(/ \d+$/, '');
  let n = 2;
  while (taken.has(`${stem} ${n}`)) n++;
  return `${stem} ${n}`;
}
