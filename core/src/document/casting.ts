import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

/** A member that is a control of a rig. */
export type ControlMember = Extract<Member, { kind: 'control' }>;

const known = new WeakMap<Shot['members'], ReadonlyMap<string, readonly ControlMember[]>>();

/** The controls of each rig in the cast, by the rig's member; looked for once for each version of the cast. */
export function controlsOf({ members }: Shot, rig: string): readonly ControlMember[] {
  let byRig = known.get(members);
  if (!byRig) {
    byRig = grouped(members);
    known.set(members, byRig);
  }
  return byRig.get(rig) ?? [];
}

function grouped(members: Shot['members']): ReadonlyMap<string, readonly ControlMember[]> {
  const out = new Map<string, ControlMember[]>();
  for (const member of members.values()) {
    if (member.kind !== 'control' || member.parent === null) continue;
    const own = out.get(member.parent);
    if (own) own.push(member);
    else out.set(member.parent, [member]);
  }
  return out;
}
