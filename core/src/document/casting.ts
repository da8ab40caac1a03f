import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

/** The controls of each rig in the cast, by the rig's member. */
export function controlsOf(shot: Shot, rig: string): Extract<Member, { kind: 'control' }>[] {
  return shot.members
    .values()
    .filter((m): m is Extract<Member, { kind: 'control' }> => m.kind === 'control' && m.parent === rig);
}
