import { findChannel, splitPath } from './channels.ts';
import type { Shot } from './shot.ts';

/** How edits call what they touch. */

export function memberWords(shot: Shot, ids: readonly string[]): string {
  if (ids.length === 1) return shot.members.get(ids[0])?.name ?? 'one member';
  return `${ids.length} members`;
}

export function channelWords(shot: Shot, paths: readonly string[]): string {
  if (paths.length !== 1) {
    const members = new Set(paths.map((p) => splitPath(p).member));
    const of = members.size === 1 ? ` of ${memberWords(shot, [...members])}` : '';
    return `${paths.length} channels${of}`;
  }
  const { member: id, channel } = splitPath(paths[0]);
  const member = shot.members.get(id);
  const found = member && findChannel(member, channel, shot.rigs);
  return `${found ? `${found.group} ${found.label}`.trim() : channel} of ${memberWords(shot, [id])}`;
}

export const countWords = (n: number, one: string): string => (n === 1 ? `a ${one}` : `${n} ${one}s`);
