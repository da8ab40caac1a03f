import { type Shot, setPaths, splitPath } from '@varrup/core';

/** The members whose channels a control set holds. */
export function setMembers(shot: Shot, id: string): string[] {
  const set = shot.sets.get(id);
  return set ? [...new Set(setPaths(shot, set).map((path) => splitPath(path).member))] : [];
}
