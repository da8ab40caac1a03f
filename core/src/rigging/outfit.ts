import { apart } from '../pose/vectors.ts';
import type { RigPart } from '../rig/plan.ts';
import { Refused } from '../schema/refused.ts';
import { type Build, type BuildJoint, carriedBy, heights, jointOf, twinsOf } from './build.ts';
import { evenOut, inOrder, renamed } from './joints.ts';
import { Names } from './names.ts';
import { squared } from './squared.ts';

export const outfits = ['biped', 'quadruped'] as const;
export type Outfit = (typeof outfits)[number];

/** Counterparts are looked for within this share of the body's height. */
const EVEN = 0.02;
/** A limb whose lowest joint is within this share of the height over the ground stands on it. */
const STANDS = 0.22;

/** A limb on a side: its joints from the trunk to where it parts into fingers or ends. */
interface Limb {
  /** The joint of the trunk that it hangs on. */
  readonly from: string;
  readonly joints: readonly BuildJoint[];
  /** The lowest joint of all that hangs on it. */
  readonly low: number;
}

/**
 * Finds what of a skeleton is a trunk, a head, legs, arms and a tail, by how it stands and hangs together, and dresses it so: with all that
 * walks and poses need. The right half becomes the mirror image of the left where it nearly is. Joints that were never named get the names of
 * their parts.
 * @throws Refused with what is missing
 */
export function outfitted(build: Build, outfit: Outfit): Build {
  const [ground, top] = heights(build);
  const height = top - ground;
  const even = evenOut(build, EVEN * height);
  const limbs = limbsOf(even);
  if (limbs.length === 0) {
    // It may stand askew: put square first, it has sides.
    const square = evenOut(squared(build), EVEN * height);
    const there = limbsOf(square);
    if (there.length > 0) return outfitted(square, outfit);
  }
  const standing = limbs.filter((limb) => limb.low - ground < STANDS * height);
  const wanted = outfit === 'biped' ? 1 : 2;
  if (standing.length < wanted) {
    const pairs = wanted === 1 ? 'a pair of legs' : 'two pairs of legs';
    throw new Refused(
      `${outfit === 'biped' ? 'A biped' : 'A quadruped'} needs ${pairs}: chains of three joints or more on both sides that reach down to the ground. ${found(standing.length)}`,
    );
  }
  standing.sort((a, b) => a.joints[0].place[2] - b.joints[0].place[2]);
  const [hind] = standing;
  const fore = outfit === 'quadruped' ? standing[standing.length - 1] : undefined;
  const arms = limbs.filter((limb) => !standing.includes(limb));
  const hung = hungOn(even, hind.from);
  const chestLimb = fore ?? [...arms].sort((a, b) => b.joints[0].place[1] - a.joints[0].place[1])[0];
  const trunk = pathDown(hung, hind.from, chestLimb?.from ?? highest(hung, hind.from));
  const chest = trunk[trunk.length - 1];
  const head = headFrom(hung, chest, trunk);
  const tail = tailFrom(hung, hind.from, trunk);
  const parts: RigPart[] = [{ kind: 'trunk', joints: trunk }];
  if (head.length > 0) parts.push({ kind: 'head', joints: head });
  const partners = twinsOf(hung.joints);
  const both = (limb: Limb, make: (joints: string[]) => RigPart) => {
    const own = limb.joints.map((j) => j.id);
    parts.push(make(own), make(own.map((id) => partners.get(id)!)));
  };
  both(hind, (joints) => ({ kind: 'leg', which: fore ? 'hind' : '', joints: legOf(hung, joints) }));
  if (fore) both(fore, (joints) => ({ kind: 'leg', which: 'fore', joints: legOf(hung, joints) }));
  for (const limb of standing)
    if (limb !== hind && limb !== fore)
      both(limb, (joints) => ({ kind: 'leg', which: 'middle', joints: legOf(hung, joints) }));
  for (const [a, arm] of arms.entries())
    both(arm, (joints) => ({ kind: 'arm', which: ORDER[a] ?? 'further', joints: armOf(joints) }));
  if (tail.length > 0) parts.push({ kind: 'tail', joints: tail });
  const eyes = hung.joints.filter((j) => /\b[Ee]ye(?![a-z])/.test(j.name)).map((j) => j.id);
  if (eyes.length > 0) parts.push({ kind: 'look', joints: eyes.slice(0, 8) });
  for (const joint of hung.joints)
    if (/^jaw$/i.test(joint.name))
      parts.push({ kind: 'dial', joints: [joint.id], label: 'jaw', axis: 'x', degrees: 22 });
  return wellNamed({ ...hung, parts });
}

const ORDER = ['', 'second', 'third', 'fourth'];
const found = (pairs: number) => (pairs === 0 ? 'None was found.' : pairs === 1 ? 'One pair was found.' : '');

/** The limbs of the left side that have a counterpart: chains of three joints or more that hang on a joint in the middle. */
function limbsOf(build: Build): Limb[] {
  const partners = twinsOf(build.joints);
  return build.joints.flatMap((joint): Limb[] => {
    if (joint.parent === null || joint.place[0] <= 0 || !partners.has(joint.id)) return [];
    const from = jointOf(build, joint.parent);
    if (from.place[0] !== 0) return [];
    const joints = mainChain(build, joint).filter((j) => partners.has(j.id));
    if (joints.length < 3) return [];
    return [{ from: from.id, joints, low: Math.min(...subtree(build, joint.id).map((j) => j.place[1])) }];
  });
}

/** A chain down to where it parts: of a joint with several the longest is the chain only while the others are single joints. */
function mainChain(build: Build, from: BuildJoint): BuildJoint[] {
  const out = [from];
  for (let at = from; ; ) {
    const children = carriedBy(build, at.id);
    const long = children.filter((child) => carriedBy(build, child.id).length > 0);
    const next = children.length === 1 ? children[0] : long.length === 1 ? long[0] : undefined;
    if (!next) return out;
    out.push(next);
    at = next;
  }
}

function subtree(build: Build, id: string): BuildJoint[] {
  return [jointOf(build, id), ...carriedBy(build, id).flatMap((child) => subtree(build, child.id))];
}

/** Hangs a skeleton on one of its joints: what it hung on hangs on it from then on, unless that stands on the ground alone. */
function hungOn(build: Build, root: string): Build {
  const path: string[] = [];
  for (let at: string | null = root; at !== null; at = jointOf(build, at).parent) path.push(at);
  // A root that carries nothing but the hips stays where it is.
  while (path.length > 1 && carriedBy(build, path[path.length - 1]).length === 1) path.pop();
  const parents = new Map(
    path.map((id, i) => [id, i === 0 ? jointOf(build, path[path.length - 1]).parent : path[i - 1]]),
  );
  const joints = build.joints.map((j) => (parents.has(j.id) ? { ...j, parent: parents.get(j.id) ?? null } : j));
  return { ...build, joints: inOrder(joints) };
}

/** The joints from one down to another that hangs on it. */
function pathDown(build: Build, from: string, to: string): string[] {
  const path: string[] = [];
  for (let at: string | null = to; at !== null; at = jointOf(build, at).parent) {
    path.unshift(at);
    if (at === from) return path;
  }
  throw new Refused(
    `${jointOf(build, to).name}, which carries the upper limbs, does not hang on ${jointOf(build, from).name}, which carries the legs.`,
  );
}

/** Where a chain in the middle leads that goes up or forward from a joint: its last joint before the head's own. */
function highest(build: Build, from: string): string {
  let at = jointOf(build, from);
  for (;;) {
    const up = inMiddle(build, at.id).filter((child) => child.place[1] > at.place[1]);
    const [next] = up;
    if (!next || carriedBy(build, next.id).length === 0) return at.id;
    at = next;
  }
}

const inMiddle = (build: Build, id: string): BuildJoint[] =>
  carriedBy(build, id).filter((child) => child.place[0] === 0);

/** Neck and head: the chain in the middle from the chest that leads highest, up to where ears and jaws hang. */
function headFrom(build: Build, chest: string, trunk: readonly string[]): string[] {
  const starts = inMiddle(build, chest).filter((child) => !trunk.includes(child.id));
  const reach = (joint: BuildJoint) => Math.max(...subtree(build, joint.id).map((j) => j.place[1] + 0.5 * j.place[2]));
  const [start] = [...starts].sort((a, b) => reach(b) - reach(a));
  if (!start) return [];
  const out: string[] = [];
  for (let at: BuildJoint | undefined = start; at; ) {
    out.push(at.id);
    const named = /head$/i.test(at.name);
    const next: BuildJoint[] = named ? [] : carriedBy(build, at.id);
    at =
      next.length === 1 && next[0].place[0] === 0 && !/end|top|tip|site|nub/i.test(next[0].name) ? next[0] : undefined;
  }
  return out;
}

/** A tail: the chain in the middle that leads furthest back from the hips. */
function tailFrom(build: Build, hips: string, trunk: readonly string[]): string[] {
  const back = inMiddle(build, hips).filter((c) => !trunk.includes(c.id) && c.place[2] < jointOf(build, hips).place[2]);
  const [start] = back.sort((a, b) => a.place[2] - b.place[2]);
  return start ? mainChain(build, start).map((j) => j.id) : [];
}

/** Thigh, shin, ankle and what the foot rolls over: of a longer chain the last four, for a blade or a hip may come before them. */
function legOf(build: Build, joints: string[]): string[] {
  if (joints.length <= 4) return joints;
  const own = joints.slice(0, 6);
  // A last joint that is only the tip of the toes is not rolled over.
  const tip =
    own.length > 4 &&
    apart(jointOf(build, own[own.length - 1]).place, jointOf(build, own[own.length - 2]).place) < 0.02;
  return own.slice(0, tip ? -1 : undefined).slice(-4);
}

/** Upper arm, forearm and hand: a shoulder comes before them. */
const armOf = (joints: string[]): string[] => (joints.length === 3 ? joints : joints.slice(1, 4));

/** Gives joints that nobody named the names of what they are. */
function wellNamed(build: Build): Build {
  const wanted = new Map<string, string>();
  const side = (id: string) => (jointOf(build, id).place[0] > 0 ? ' L' : jointOf(build, id).place[0] < 0 ? ' R' : '');
  const numbered = (joints: readonly string[], first: string, between: string, last: string) => {
    joints.forEach((id, i) => {
      const inside = joints.length > 3 ? `${between} ${i}` : between;
      wanted.set(id, joints.length === 1 ? last : i === 0 ? first : i === joints.length - 1 ? last : inside);
    });
  };
  for (const part of build.parts) {
    if (part.kind === 'trunk') {
      numbered(part.joints, 'hips', 'spine', 'chest');
      if (part.joints.length === 1) wanted.set(part.joints[0], 'hips');
    }
    if (part.kind === 'head') numbered(part.joints, 'neck', 'neck', 'head');
    if (part.kind === 'tail') for (const [i, id] of part.joints.entries()) wanted.set(id, `tail ${i + 1}`);
    const words =
      part.kind === 'leg' ? ['thigh', 'shin', 'ankle', 'toes'] : part.kind === 'arm' ? ['arm', 'forearm', 'hand'] : [];
    const which = part.kind === 'leg' || part.kind === 'arm' ? `${part.which} `.trimStart() : '';
    words.forEach((word, i) => {
      if (part.joints[i]) wanted.set(part.joints[i], `${which}${word}${side(part.joints[i])}`);
    });
  }
  const nameless = build.joints.filter((j) => wanted.has(j.id) && /^joint( \d+)?( [LR])?$/.test(j.name));
  const names = new Names({ joints: build.joints.filter((j) => !nameless.includes(j)) });
  return renamed(build, new Map(nameless.map((j) => [j.id, names.give(wanted.get(j.id)!)])));
}
