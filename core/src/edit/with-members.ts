import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';

/** A shot with some members as they have become. */
export const withMembers = (shot: Shot, changed: readonly Member[]): Shot => ({
  ...shot,
  members: shot.members.withAll(changed.map((m) => [m.id, m])),
});
