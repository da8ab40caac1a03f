import { apart, type Vector } from '../pose/vectors.ts';
import { type RigJoint, type RigMesh, WHOLE_WEIGHT } from '../rig/definition.ts';
import { type Bone, bonesOf, nearestOn } from './bones.ts';
import { Heat } from './heat.ts';
import { outwards, type Shell, shellOf } from './shell.ts';
import { depthAt, seesInside } from './through.ts';
import { TriangleTree } from './triangle-tree.ts';

/** How points hang on joints: up to four each, with shares that sum to one. */
export interface Weights {
  /** Places in the list of joints, four a point. */
  readonly joints: Uint16Array;
  readonly shares: Float64Array;
}

/** So many bones are looked at, nearest first, for one that a point sees. */
const LOOKED_AT = 10;
/** Bones as near as this to each other share a point: where two meet. */
const AS_NEAR = 1e-4;
/** How far under the skin one looks from, as a share of the body's size: the skin itself must not be in the way. */
const UNDER = 2e-4;
const AT_MOST = 4;

/**
 * How a body hangs on joints that stand in it: by the nearest bone that is seen through its inside, so that nothing hangs on what is only near
 * across a gap; softly over from one to the next along its skin.
 * @param progress is told from 0 to 1 how far it is
 */
export function computedWeights(
  shell: Shell,
  joints: readonly Pick<RigJoint, 'id' | 'parent' | 'place'>[],
  progress: (share: number) => void = () => {},
): Weights {
  const tree = new TriangleTree(shell);
  const bones = bonesOf(joints, tree);
  const { strength, warm } = sources(shell, tree, bones, (share) => progress(share * 0.4));
  const heat = new Heat(shell, strength);
  const best = new Best(strength.length);
  const used = [...warm].sort(([a], [b]) => a - b);
  used.forEach(([joint, own], i) => {
    best.offer(joint, heat.settled(own));
    progress(0.4 + (0.6 * (i + 1)) / used.length);
  });
  return best.weights();
}

/** For each point how strongly it is held and, by joint, how warm. */
function sources(shell: Shell, tree: TriangleTree, bones: readonly Bone[], progress: (share: number) => void) {
  const { positions } = shell;
  const count = positions.length / 3;
  const out = outwards(shell);
  const under = UNDER * sizeOf(positions);
  const strength = new Float64Array(count);
  const warm = new Map<number, Float64Array>();
  const near = bones.map((_, b) => ({ bone: b, far: 0, at: [0, 0, 0] as Vector }));
  const unseen: number[] = [];
  const take = (point: number, from: number) => {
    const nearest = near[from].far;
    strength[point] = 1 / Math.max(nearest, under) ** 2;
    const equal = new Set<number>();
    for (let i = from; i < near.length && near[i].far <= nearest * (1 + AS_NEAR) + 1e-9; i++)
      equal.add(bones[near[i].bone].joint);
    for (const joint of equal) {
      const own = warm.get(joint) ?? new Float64Array(count);
      own[point] = 1 / equal.size;
      warm.set(joint, own);
    }
  };
  const look = (point: number) => {
    const [x, y, z] = [0, 1, 2].map((c) => positions[point * 3 + c] - out[point * 3 + c] * under);
    for (const entry of near) {
      const bone = bones[entry.bone];
      const t = nearestOn(bone, x, y, z);
      entry.at = [0, 1, 2].map((c) => bone.from[c] + (bone.to[c] - bone.from[c]) * t) as unknown as Vector;
      entry.far = apart(entry.at, [x, y, z]);
    }
    near.sort((a, b) => a.far - b.far || a.bone - b.bone);
    return [x, y, z] as const;
  };
  for (let point = 0; point < count; point++) {
    if (point % 500 === 0) progress(point / count);
    const from = look(point);
    const [nx, ny, nz] = out.subarray(point * 3, point * 3 + 3);
    // At the edge of a hole there is no inside to tell: it is taken for in.
    const depth = Math.max(1, depthAt(tree, from, nx || ny || nz ? [nx, ny, nz] : [0, 1, 0]));
    const seen = near.slice(0, LOOKED_AT).findIndex(({ at }) => seesInside(tree, from, at, depth));
    if (seen < 0) unseen.push(point);
    else take(point, seen);
  }
  // What no bone is seen from takes what its neighbours have; a part of the body of which no point sees one takes the nearest.
  const parts = partsOf(shell);
  const lit = new Set<number>();
  for (let point = 0; point < count; point++) if (strength[point] > 0) lit.add(parts[point]);
  for (const point of unseen) {
    if (lit.has(parts[point])) continue;
    look(point);
    take(point, 0);
  }
  return { strength, warm };
}

/** For each point a number that all it is joined to by triangles have too. */
function partsOf({ positions, triangles }: Shell): Uint32Array {
  const of = Uint32Array.from({ length: positions.length / 3 }, (_, p) => p);
  const root = (p: number): number => {
    while (of[p] !== p) {
      of[p] = of[of[p]];
      p = of[p];
    }
    return p;
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const a = root(triangles[t]);
    of[root(triangles[t + 1])] = a;
    of[root(triangles[t + 2])] = a;
  }
  return of.map((_, p) => root(p));
}

function sizeOf(positions: Float64Array): number {
  let size = 0;
  for (let c = 0; c < 3; c++) {
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let i = c; i < positions.length; i += 3) {
      low = Math.min(low, positions[i]);
      high = Math.max(high, positions[i]);
    }
    size = Math.max(size, high - low);
  }
  return size;
}

/** Keeps the five largest shares of each point. */
class Best {
  readonly #joints: Uint16Array;
  readonly #shares: Float64Array;
  readonly #each = AT_MOST + 1;

  constructor(count: number) {
    this.#joints = new Uint16Array(count * this.#each);
    this.#shares = new Float64Array(count * this.#each);
  }

  offer(joint: number, shares: Float64Array): void {
    const n = this.#each;
    for (let p = 0; p < shares.length; p++) {
      if (shares[p] <= this.#shares[p * n + n - 1]) continue;
      let i = p * n + n - 1;
      for (; i > p * n && this.#shares[i - 1] < shares[p]; i--) {
        this.#shares[i] = this.#shares[i - 1];
        this.#joints[i] = this.#joints[i - 1];
      }
      this.#shares[i] = shares[p];
      this.#joints[i] = joint;
    }
  }

  /** Four of them: each less what the fifth has, so that nothing jumps where the fourth and the fifth change places. */
  weights(): Weights {
    const n = this.#each;
    const count = this.#shares.length / n;
    const joints = new Uint16Array(count * AT_MOST);
    const shares = new Float64Array(count * AT_MOST);
    for (let p = 0; p < count; p++) {
      const least = Math.max(0, this.#shares[p * n + AT_MOST]);
      let sum = 0;
      for (let k = 0; k < AT_MOST; k++) {
        joints[p * AT_MOST + k] = this.#joints[p * n + k];
        shares[p * AT_MOST + k] = Math.max(0, this.#shares[p * n + k] - least);
        sum += shares[p * AT_MOST + k];
      }
      if (sum > 0) for (let k = 0; k < AT_MOST; k++) shares[p * AT_MOST + k] /= sum;
      else shares[p * AT_MOST] = 1;
    }
    return { joints, shares };
  }
}

type Skin = Extract<RigMesh['skin'], { kind: 'smooth' }>;

/** Weights of one mesh as rigs keep them: whole numbers that sum to what a whole is, the largest rests rounded up. */
export function skinOf(weights: Weights, points: Uint32Array, ids: readonly string[]): Skin {
  const used = new Map<number, number>();
  const indices: number[] = [];
  const whole: number[] = [];
  for (const point of points) {
    const own = Array.from(weights.shares.subarray(point * AT_MOST, (point + 1) * AT_MOST));
    const shares = wholeShares(own);
    for (let k = 0; k < AT_MOST; k++) {
      // What weighs nothing names no joint of its own.
      const joint = weights.joints[point * AT_MOST + (shares[k] > 0 ? k : 0)];
      if (!used.has(joint)) used.set(joint, used.size);
      indices.push(used.get(joint)!);
      whole.push(shares[k]);
    }
  }
  return { kind: 'smooth', joints: [...used.keys()].map((j) => ids[j]), indices, weights: whole };
}

/** Shares that sum to one as whole numbers that sum to what a whole is (largest remainders). */
export function wholeShares(shares: readonly number[]): number[] {
  const exact = shares.map((share) => share * WHOLE_WEIGHT);
  const out = exact.map(Math.floor);
  const rests = exact.map((e, i) => [e - out[i], i] as const).sort((a, b) => b[0] - a[0] || a[1] - b[1]);
  const missing = WHOLE_WEIGHT - out.reduce((sum, v) => sum + v, 0);
  for (let i = 0; i < missing; i++) out[rests[i % rests.length][1]]++;
  return out;
}

/** The weights of some meshes of a body, computed as one. @returns the meshes with them */
export function weighed(
  meshes: readonly RigMesh[],
  joints: readonly Pick<RigJoint, 'id' | 'parent' | 'place'>[],
  progress?: (share: number) => void,
): RigMesh[] {
  const shell = shellOf(meshes);
  const weights = computedWeights(shell, joints, progress);
  const ids = joints.map((joint) => joint.id);
  return meshes.map((mesh, m) => ({ ...mesh, skin: skinOf(weights, shell.of[m], ids) }));
}
