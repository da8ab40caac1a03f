import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

/** Questions about who belongs to whom. Parents that do not exist count as the stage. */

/** Children of `parent` (`null` for the stage), first rank first. */
export function childrenOf(shot: Shot, parent: string | null): Member[] {
  return Object.values(shot.members)
    .filter((m) => (m.parent !== null && m.parent in shot.members ? m.parent : null) === parent)
    .sort(byRank);
}

const byRank = (a: Member, b: Member) => a.rank - b.rank || (a.id < b.id ? -1 : 1);

/** Every member with its depth, parents before children, in the order the cast shows them. */
export function castOrder(shot: Shot): { member: Member; depth: number }[] {
  const byParent = new Map<string | null, Member[]>();
  for (const member of Object.values(shot.members)) {
    const parent = member.parent !== null && member.parent in shot.members ? member.parent : null;
    const siblings = byParent.get(parent);
    if (siblings) siblings.push(member);
    else byParent.set(parent, [member]);
  }
  const out: { member: Member; depth: number }[] = [];
  // A stack rather than recursion: a chain of parents may be thousands long.
  const stack: { member: Member; depth: number }[] = [];
  const push = (parent: string | null, depth: number) => {
    const siblings = byParent.get(parent)?.sort(byRank) ?? [];
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
    for (let up = shot.members[id]?.parent; up; up = shot.members[up]?.parent ?? null) if (picked.has(up)) return false;
    return id in shot.members;
  });
}

/** The members of a ring of parents, or `null` where everyone reaches the stage. */
export function parentLoop(members: Readonly<Record<string, { parent: string | null }>>): string[] | null {
  const safe = new Set<string>();
  for (const start of Object.keys(members)) {
    const trail: string[] = [];
    const onTrail = new Set<string>();
    for (let at: string | null = start; at !== null && at in members && !safe.has(at); at = members[at].parent) {
      if (onTrail.has(at)) return trail.slice(trail.indexOf(at));
      trail.push(at);
      onTrail.add(at);
    }
    for (const id of trail) safe.add(id);
  }
  return null;
}

/** Whether a member and all its carriers are unlocked. */
export function isLocked(shot: Shot, id: string): boolean {
  for (let at: string | null = id; at !== null && at in shot.members; at = shot.members[at].parent) {
    if (shot.members[at].locked) return true;
  }
  return false;
}

/** A name nobody in the shot has yet: `Ball`, `Ball 2`, `Ball 3`… */
export function freeName(shot: Shot, wanted: string): string {
  const taken = new Set(Object.values(shot.members).map((m) => m.name));
  if (!taken.has(wanted)) return wanted;
  const stem = wanted.replace(/ \d+$/, '');
  let n = 2;
  while (taken.has(`${stem} ${n}`)) n++;
  return `${stem} ${n}`;
}
