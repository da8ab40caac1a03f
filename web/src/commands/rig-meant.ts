import { rigAmong, type Shot } from '@varrup/core';

/** The rig that is meant: of what is picked, or the only one there is. */
export function rigMeant(shot: Shot, selection: readonly string[]): string | null {
  const picked = rigAmong(shot, selection);
  if (picked) return picked;
  const rigs = shot.members.values().filter((m) => m.kind === 'rig');
  return rigs.length === 1 ? rigs[0].id : null;
}
