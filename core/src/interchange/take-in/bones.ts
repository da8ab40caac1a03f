import { compose, invert, multiply, turnOf } from '../../pose/affine.ts';
import { rigLimits } from '../../rig/definition.ts';
import { idOfName } from '../../rigging/names.ts';
import type { Quaternion } from '../../schema/numbers.ts';
import { Refused } from '../../schema/refused.ts';
import type { Place, Scene, Vector3 } from '../scene/scene.ts';

/** A node of a scene that becomes a joint of a rig. */
export interface Bone {
  readonly node: number;
  /** Its parent among the bones, before it; -1 for none. */
  readonly parent: number;
  readonly id: string;
  readonly name: string;
  /** Where it is in the rig at rest. */
  readonly place: Vector3;
  readonly turn: Quaternion;
  /** From its own space at rest, as the scene sizes it, into the rig. */
  readonly rest: Float64Array;
}

export interface Bones {
  readonly list: readonly Bone[];
  /** The bone of each node; -1 for nodes that need none. */
  readonly of: Int32Array;
  /** For each skin what takes the vertices of its meshes into the rig at rest. */
  readonly skins: readonly Float64Array[];
}

/**
 * Chooses which nodes of a scene become joints, joints of skins, nodes with bodies and nodes that move, with all that carry them, and
 * where they are at rest: as their skin binds them, else as they stand.
 * @throws Refused where there are more than a rig can have
 */
export function bonesOf(scene: Scene): Bones {
  const worlds = worldsAtRest(scene);
  const needed = neededNodes(scene);
  const skins = scene.skins.map(() => new Float64Array(16));
  const rests = new Map<number, Float64Array>();
  scene.skins.forEach(({ joints, inverseBinds }, s) => {
    // The skin as its first joint stands: from there the others are where they are bound.
    multiply(skins[s], 0, worlds, joints[0] * 16, inverseBinds, 0);
    joints.forEach((node, j) => {
      if (rests.has(node)) return;
      const rest = new Float64Array(16);
      if (!invert(rest, 0, inverseBinds, j * 16)) return;
      multiply(rest, 0, skins[s], 0, rest, 0);
      rests.set(node, rest);
    });
  });
  const most = Math.min(rigLimits.joints, rigLimits.controls);
  const count = needed.filter(Boolean).length;
  if (count > most)
    throw new Refused(`It has ${count} nodes that move or carry a body; a rig has up to ${most} joints.`);
  const of = new Int32Array(scene.nodes.length).fill(-1);
  const ids = new Ids();
  const list: Bone[] = [];
  scene.nodes.forEach(({ name, parent }, node) => {
    if (!needed[node]) return;
    const rest = rests.get(node) ?? worlds.slice(node * 16, node * 16 + 16);
    of[node] = list.length;
    const turn = turnIn(rest);
    // To a micrometre, so that what mirrors in the file mirrors here.
    const place = [micrometre(rest[12]), micrometre(rest[13]), micrometre(rest[14])] as const;
    list.push({
      node,
      parent: parent < 0 ? -1 : of[parent],
      id: ids.give(name || 'joint'),
      name: name || 'joint',
      place,
      turn,
      rest,
    });
  });
  return { list, of, skins };
}

const micrometre = (metres: number): number => Math.round(metres * 1e6) / 1e6;

/** Where everything stands when nothing moves, 16 numbers a node. */
function worldsAtRest({ nodes }: Scene): Float64Array {
  const worlds = new Float64Array(nodes.length * 16);
  nodes.forEach(({ place, parent }, n) => {
    writeLocal(place, worlds, n * 16);
    if (parent >= 0) multiply(worlds, n * 16, worlds, parent * 16, worlds, n * 16);
  });
  return worlds;
}

/** Writes the matrix of a place. */
export function writeLocal({ translation: [x, y, z], rotation, scale }: Place, out: Float64Array, at: number): void {
  turn.set(rotation);
  compose(out, at, turn, 0, 1, x, y, z);
  for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) out[at + c * 4 + r] *= scale[c];
}

function neededNodes({ nodes, skins, motions }: Scene): boolean[] {
  const needed = nodes.map(({ mesh, skin }) => mesh !== undefined && skin === undefined);
  for (const { joints } of skins) for (const joint of joints) needed[joint] = true;
  for (const { tracks } of motions) for (const { node, of } of tracks) if (of !== 'weights') needed[node] = true;
  for (let n = nodes.length - 1; n >= 0; n--) if (needed[n] && nodes[n].parent >= 0) needed[nodes[n].parent] = true;
  return needed;
}

/** The turn of the matrix at a place in a list, whatever it sizes; none where it is flat. */
export function turnIn(m: Float64Array, at = 0): Quaternion {
  const a = Math.hypot(m[at], m[at + 1], m[at + 2]);
  const b = Math.hypot(m[at + 4], m[at + 5], m[at + 6]);
  const c = Math.hypot(m[at + 8], m[at + 9], m[at + 10]);
  if (a < 1e-9 || b < 1e-9 || c < 1e-9) return [0, 0, 0, 1];
  turnOf(turn, 0, m, at);
  const length = Math.hypot(turn[0], turn[1], turn[2], turn[3]) || 1;
  return [turn[0] / length, turn[1] / length, turn[2] / length, turn[3] / length];
}

const turn = new Float64Array(4);

/** Ids as parts of rigs have them: letters and figures, each once. */
export class Ids {
  readonly #taken = new Set<string>();

  give(name: string): string {
    const stem = idOfName(name);
    let free = stem;
    for (let n = 2; this.#taken.has(free); n++) free = `${stem}${n}`;
    this.#taken.add(free);
    return free;
  }
}
