import type { Curve } from '../curve/key.ts';
import type { Rigs } from '../rig/rigs.ts';
import { type Channel, channelPath, channelsOf, ORIENTATION } from './channels.ts';
import type { Member } from './member.ts';
import type { Shot } from './shot.ts';

const known = new WeakMap<Member, { readonly channels: readonly Channel[]; readonly paths: readonly string[] }>();

/** The paths of all of a member's channels that can be keyed, its angles and its orientation both. */
export function pathsOf(member: Member, rigs: Rigs): readonly string[] {
  const channels = channelsOf(member, rigs);
  const there = known.get(member);
  if (there?.channels === channels) return there.paths;
  const open = channels.filter((c) => !c.closed);
  const paths = [...open.map((c) => channelPath(member.id, c.id)), channelPath(member.id, ORIENTATION)];
  known.set(member, { channels, paths });
  return paths;
}

/** The curves of some members, found by their channels: what others have is not looked at. */
export function curvesOf(shot: Shot, members: Iterable<Member>): [path: string, curve: Curve][] {
  const out: [string, Curve][] = [];
  for (const member of members) {
    for (const path of pathsOf(member, shot.rigs)) {
      const curve = shot.curves.get(path);
      if (curve) out.push([path, curve]);
    }
  }
  return out;
}
