import type { Vector3 } from '../scene/scene.ts';

/** The parts of a two-legged body that a capture is put onto another by; L and R are its left and right. */
export const roles = [
  'hips',
  'chest',
  'head',
  'shoulderL',
  'armL',
  'forearmL',
  'handL',
  'shoulderR',
  'armR',
  'forearmR',
  'handR',
  'thighL',
  'shinL',
  'footL',
  'thighR',
  'shinR',
  'footR',
] as const;
export type Role = (typeof roles)[number];

/** Without these nothing can be put on: where it goes and how it stands. */
export const neededRoles: readonly Role[] = ['hips', 'thighL', 'shinL', 'footL', 'thighR', 'shinR', 'footR'];

/** A joint as far as its part of the body is told by it. */
export interface Joint {
  readonly name: string;
  /** Its parent, before it; -1 for none. */
  readonly parent: number;
  /** Where it is at rest. */
  readonly place: Vector3;
}

/** Which joint is which part of the body; -1 where none is. */
export type Pairing = Readonly<Record<Role, number>>;

/** What parts are called, without side: the first that fits a joint's name. */
const words: readonly (readonly [part: string, pattern: RegExp])[] = [
  ['toes', /toe|ball/],
  ['foot', /foot|ankle/],
  ['shin', /shin|calf|knee|lowerleg|lowleg|^leg$|crus/],
  ['thigh', /thigh|upleg|upperleg|femur/],
  ['hand', /hand$|wrist/],
  ['forearm', /forearm|lowerarm|lowarm|elbow/],
  ['arm', /upperarm|uparm|^arm$|humerus/],
  ['shoulder', /shoulder|clavicle|collar/],
  ['head', /head$/],
  ['neck', /neck/],
  ['hips', /hips?$|pelvis/],
];

/** A name without its side, numbers and what stands before a colon, in small letters. */
function bare(name: string): { word: string; side: 'L' | 'R' | '' } {
  const own = name.slice(name.lastIndexOf(':') + 1);
  const spaced = own
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[_.-]+/g, ' ')
    .trim();
  const parts = spaced.split(/\s+/);
  const is = (word: string) => (/^(left|l)$/i.test(word) ? 'L' : /^(right|r)$/i.test(word) ? 'R' : '');
  const side = parts.map(is).find((s) => s !== '') ?? '';
  const rest = parts.filter((word) => is(word) === '');
  return { word: rest.join('').toLowerCase().replace(/\d+$/, ''), side };
}

/** Tells the parts of a body by the names of its joints, and where names say nothing by its shape. */
export function rolesOf(joints: readonly Joint[]): Pairing {
  const found = Object.fromEntries(roles.map((role) => [role, -1])) as Record<Role, number>;
  const take = (role: string, j: number) => {
    if (Object.hasOwn(found, role) && found[role as Role] < 0) found[role as Role] = j;
  };
  joints.forEach(({ name }, j) => {
    const { word, side } = bare(name);
    const part = words.find(([, pattern]) => pattern.test(word))?.[0];
    if (!part) return;
    // A hip with a side is where the thigh begins.
    if (part === 'hips' && side !== '') take(`thigh${side}`, j);
    else take(`${part}${side}`, j);
  });
  for (const side of ['L', 'R'] as const) sideByShape(joints, found, side);
  byShape(joints, found);
  return found;
}

const childrenOf = (joints: readonly Joint[], parent: number): number[] =>
  joints.flatMap((joint, j) => (joint.parent === parent ? [j] : []));

/** Whatever one part of a limb is, the one before it is its parent, and the one behind it its only child that goes on. */
function sideByShape(joints: readonly Joint[], found: Record<Role, number>, side: 'L' | 'R'): void {
  for (const chain of [
    ['armL', 'forearmL', 'handL'],
    ['thighL', 'shinL', 'footL'],
  ]) {
    const own = chain.map((role) => role.replace('L', side) as Role);
    const [upper, lower, end] = own;
    // Where the upper arm is called a shoulder: what it carries is the elbow.
    if (upper.startsWith('arm') && found[upper] < 0 && found[lower] >= 0 && joints[found[lower]].parent >= 0) {
      found[upper] = joints[found[lower]].parent;
      const shoulder = `shoulder${side}` as Role;
      if (found[shoulder] === found[upper]) found[shoulder] = -1;
    }
    if (found[upper] < 0 && found[lower] >= 0) found[upper] = joints[found[lower]].parent;
    if (found[lower] < 0 && found[end] >= 0) found[lower] = joints[found[end]].parent;
    if (found[lower] < 0 && found[upper] >= 0) found[lower] = onlyChild(joints, found[upper]);
    if (found[end] < 0 && found[lower] >= 0) found[end] = onlyChild(joints, found[lower]);
  }
}

function onlyChild(joints: readonly Joint[], joint: number): number {
  const children = childrenOf(joints, joint);
  return children.length === 1 ? children[0] : -1;
}

/** Hips carry both thighs and the chest both arms; the head is the last of what goes on up from there. */
function byShape(joints: readonly Joint[], found: Record<Role, number>): void {
  const above = (a: number, b: number): number => {
    const up = new Set<number>();
    for (let j = a; j >= 0; j = joints[j].parent) up.add(j);
    for (let j = b; j >= 0; j = joints[j].parent) if (up.has(j)) return j;
    return -1;
  };
  if (found.hips < 0 && found.thighL >= 0 && found.thighR >= 0) found.hips = above(found.thighL, found.thighR);
  if (found.armL >= 0 && found.armR >= 0) found.chest = above(found.armL, found.armR);
  if (found.chest === found.hips) found.chest = -1;
  if (found.head < 0 && found.chest >= 0) {
    const arms = new Set([found.shoulderL, found.shoulderR, found.armL, found.armR]);
    let up =
      childrenOf(joints, found.chest).find((j) => !arms.has(j) && joints[j].place[1] > joints[found.chest].place[1]) ??
      -1;
    while (up >= 0) {
      found.head = up;
      up = onlyChild(joints, up);
    }
  }
}
