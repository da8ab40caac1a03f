import type { RigPart } from '../rig/plan.ts';
import { Refused } from '../schema/refused.ts';
import { type Build, carriedBy, jointOf, twinsOf } from './build.ts';

/** A chain from a joint on, for as long as each carries one that goes on: down to where it parts, or ends. */
export function chainFrom(build: Build, id: string): string[] {
  const out = [id];
  for (let at = id; ; ) {
    const children = carriedBy(build, at);
    const long = children.filter((child) => carriedBy(build, child.id).length > 0);
    const next = children.length === 1 ? children[0] : long.length === 1 ? long[0] : undefined;
    if (!next) return out;
    out.push(next.id);
    at = next.id;
  }
}

/** How many joints parts take: fewer are refused, and of more the first ones are taken. */
const takes: Record<RigPart['kind'], readonly [number, number]> = {
  trunk: [1, 40],
  head: [1, 20],
  leg: [3, 4],
  arm: [3, 3],
  tail: [1, 40],
  look: [1, 1],
  dial: [1, 1],
};
const words: Record<number, string> = { 3: 'three' };

/**
 * Says what the chain from a joint on is, and with `pairs` its counterpart too. What its joints were a part of before, they are no longer.
 * @throws Refused where the chain is too short, or the rig has one of the kind already and can have no other
 */
export function givenPart(build: Build, kind: RigPart['kind'], from: string, { pairs }: { pairs: boolean }): Build {
  const [least, most] = takes[kind];
  const chain = chainFrom(build, from).slice(0, most);
  if (chain.length < least)
    throw new Refused(
      `${kind === 'arm' ? 'An arm' : `A ${kind}`} needs ${words[least]} joints one after another, and from ${jointOf(build, from).name} on there are ${chain.length}.`,
    );
  const twins = twinsOf(build.joints);
  const image = pairs ? chain.flatMap((id) => twins.get(id) ?? []) : [];
  const chains = image.length === chain.length ? [chain, image] : [chain];
  if (chains.length > 1 && (kind === 'trunk' || kind === 'head'))
    throw new Refused(`A ${kind} is in the middle: ${jointOf(build, from).name} is on a side.`);
  const taken = new Set(chains.flat());
  const rest = build.parts.filter(
    (part) =>
      !part.joints.some((id) => taken.has(id)) && !((kind === 'trunk' || kind === 'head') && part.kind === kind),
  );
  // Eyes look at one thing together.
  if (kind === 'look') {
    const eyes = rest.flatMap((part) => (part.kind === 'look' ? part.joints : []));
    const others = rest.filter((part) => part.kind !== 'look');
    return { ...build, parts: [...others, { kind, joints: [...eyes, ...chains.flat()].slice(0, 8) }] };
  }
  return { ...build, parts: [...rest, ...chains.map((joints) => partOf(build, kind, joints))] };
}

function partOf(build: Build, kind: Exclude<RigPart['kind'], 'look'>, joints: string[]): RigPart {
  if (kind === 'dial') {
    const { name } = jointOf(build, joints[0]);
    return { kind, joints, label: name, axis: 'x', degrees: 25 };
  }
  if (kind !== 'leg' && kind !== 'arm') return { kind, joints };
  return { kind, joints, which: whichOf(build, kind, joints) };
}

/** What tells a limb from others of its side: nothing for the first, and for legs fore and hind by where they stand. */
function whichOf(build: Build, kind: 'leg' | 'arm', joints: readonly string[]): string {
  const { place } = jointOf(build, joints[0]);
  const own = build.parts.filter(
    (part) => part.kind === kind && Math.sign(jointOf(build, part.joints[0]).place[0]) === Math.sign(place[0]),
  );
  if (own.length === 0) return '';
  if (kind === 'arm') return ['', 'second', 'third', 'fourth'][own.length] ?? 'further';
  return place[2] > jointOf(build, own[0].joints[0]).place[2] ? 'fore' : 'hind';
}
