import type { Vector } from '../pose/vectors.ts';
import { MESH_UNIT, type RigMesh, WHOLE_WEIGHT } from '../rig/definition.ts';
import { Refused } from '../schema/refused.ts';
import { type Build, twinsOf } from './build.ts';
import { type Shell, shellOf } from './shell.ts';
import { Surface, softly } from './surface.ts';
import { skinOf, type Weights } from './weights.ts';

const AT_MOST = 4;

/** One dab of a brush. */
export interface Dab {
  /** Where on the skin, metres. */
  readonly at: Vector;
  /** How far along the skin it reaches, metres; softer and softer towards its edge. */
  readonly reach: number;
  /** How much of the way it goes, from 0 to 1. */
  readonly strength: number;
  /** Gives a joint more, takes from it, or evens out what neighbours have. */
  readonly does: 'more' | 'less' | 'even';
  readonly joint: string;
  /** Whether the other side gets the mirror image of it. */
  readonly pairs: boolean;
}

/** Paints how the soft meshes of a body hang on its joints. It works on numbers of its own until they are asked for. */
export class Painting {
  readonly #build: Build;
  readonly #soft: readonly RigMesh[];
  readonly #shell: Shell;
  readonly #weights: Weights;
  readonly #surface: Surface;
  readonly #jointAt: ReadonlyMap<string, number>;
  readonly #twins: ReadonlyMap<string, string>;

  constructor(build: Build) {
    this.#build = build;
    this.#soft = build.meshes.filter((mesh) => mesh.skin.kind === 'smooth');
    this.#shell = shellOf(this.#soft);
    this.#jointAt = new Map(build.joints.map((j, i) => [j.id, i]));
    this.#twins = twinsOf(build.joints);
    this.#weights = weightsOf(this.#soft, this.#shell, this.#jointAt);
    this.#surface = new Surface(this.#shell);
  }

  /** @throws Refused where there is nothing soft to paint on */
  dab(dab: Dab): void {
    if (this.#soft.length === 0)
      throw new Refused('No part of the body is soft: compute its weights first, then there is something to paint.');
    this.#one(dab.at, dab.joint, dab);
    if (!dab.pairs) return;
    const [x, y, z] = dab.at;
    // On the middle one dab is both.
    if (Math.abs(x) > dab.reach * 0.1) this.#one([-x, y, z], this.#twins.get(dab.joint) ?? dab.joint, dab);
  }

  #one(at: Vector, id: string, { reach, strength, does }: Dab): void {
    const joint = this.#jointAt.get(id);
    if (joint === undefined) return;
    const far = this.#surface.within(at, reach);
    const wanted = new Map<number, Map<number, number>>();
    for (const [point, d] of far) {
      const by = Math.min(1, Math.max(0, strength)) * softly(d / reach);
      const own = this.#of(point);
      if (does === 'even') wanted.set(point, this.#evened(point, own, by));
      else wanted.set(point, this.#given(own, joint, does === 'more' ? by : -by));
    }
    for (const [point, shares] of wanted) this.#set(point, shares);
  }

  /** What a point hangs on. */
  #of(point: number): Map<number, number> {
    const out = new Map<number, number>();
    for (let k = point * AT_MOST; k < (point + 1) * AT_MOST; k++) {
      const share = this.#weights.shares[k];
      if (share > 0) out.set(this.#weights.joints[k], (out.get(this.#weights.joints[k]) ?? 0) + share);
    }
    return out;
  }

  /** With more of a joint, or less; the others share what is left as they did. */
  #given(own: Map<number, number>, joint: number, by: number): Map<number, number> {
    const was = own.get(joint) ?? 0;
    const now = by > 0 ? was + by * (1 - was) : was + by * was;
    const rest = 1 - was;
    const out = new Map(
      [...own].map(([j, share]) => [j, j === joint ? now : rest > 1e-9 ? (share * (1 - now)) / rest : 0]),
    );
    out.set(joint, now);
    if (rest <= 1e-9 && now < 1) {
      // Nobody else has a share of it: what carries the joint takes it over, or what it carries.
      const { id, parent } = this.#build.joints[joint];
      const heir = parent ?? this.#build.joints.find((j) => j.parent === id)?.id;
      if (heir === undefined) return own;
      out.set(this.#jointAt.get(heir)!, 1 - now);
    }
    return out;
  }

  #evened(point: number, own: Map<number, number>, by: number): Map<number, number> {
    const around = this.#surface.neighbours[point];
    if (around.length === 0) return own;
    const out = new Map([...own].map(([j, share]) => [j, share * (1 - by)]));
    for (const other of around)
      for (const [j, share] of this.#of(other)) out.set(j, (out.get(j) ?? 0) + (share * by) / around.length);
    return out;
  }

  #set(point: number, shares: Map<number, number>): void {
    const best = [...shares]
      .filter(([, s]) => s > 1e-6)
      .sort((a, b) => b[1] - a[1] || a[0] - b[0])
      .slice(0, AT_MOST);
    const sum = best.reduce((s, [, share]) => s + share, 0);
    if (sum <= 0) return;
    for (let k = 0; k < AT_MOST; k++) {
      this.#weights.joints[point * AT_MOST + k] = best[k]?.[0] ?? best[0][0];
      this.#weights.shares[point * AT_MOST + k] = (best[k]?.[1] ?? 0) / sum;
    }
  }

  /** Gives the right half what the left half has, in the mirror. @returns how many points have no counterpart and stay as they are */
  mirror(): number {
    const { positions } = this.#shell;
    const count = positions.length / 3;
    const at = new Map<string, number>();
    const key = (x: number, y: number, z: number) =>
      [x, y, z].map((v) => Math.round(v / (5 * MESH_UNIT)) || 0).join(' ');
    for (let p = 0; p < count; p++) at.set(key(positions[p * 3], positions[p * 3 + 1], positions[p * 3 + 2]), p);
    const { joints } = this.#build;
    const twin = joints.map((j) => this.#jointAt.get(this.#twins.get(j.id) ?? j.id)!);
    let alone = 0;
    for (let p = 0; p < count; p++) {
      if (positions[p * 3] >= 0) continue;
      const image = at.get(key(-positions[p * 3], positions[p * 3 + 1], positions[p * 3 + 2]));
      if (image === undefined) alone++;
      else this.#set(p, new Map([...this.#of(image)].map(([j, share]) => [twin[j], share])));
    }
    return alone;
  }

  /** How strongly each vertex of each mesh hangs on a joint: for tints. Meshes that are not soft hang wholly or not at all. */
  sharesOf(id: string): Float32Array[] {
    const joint = this.#jointAt.get(id);
    return this.#build.meshes.map((mesh) => {
      const out = new Float32Array(mesh.positions.length / 3);
      const { skin } = mesh;
      if (skin.kind === 'rigid') return out.fill(skin.joint === id ? 1 : 0);
      const points = this.#shell.of[this.#soft.indexOf(mesh)];
      for (let v = 0; v < out.length; v++)
        for (let k = points[v] * AT_MOST; k < (points[v] + 1) * AT_MOST; k++)
          if (this.#weights.joints[k] === joint) out[v] += this.#weights.shares[k];
      return out;
    });
  }

  /** The build with what was painted. */
  done(): Build {
    const ids = this.#build.joints.map((j) => j.id);
    return {
      ...this.#build,
      meshes: this.#build.meshes.map((mesh) => {
        const at = this.#soft.indexOf(mesh);
        return at < 0 ? mesh : { ...mesh, skin: skinOf(this.#weights, this.#shell.of[at], ids) };
      }),
    };
  }
}

function weightsOf(meshes: readonly RigMesh[], shell: Shell, jointAt: ReadonlyMap<string, number>): Weights {
  const count = shell.positions.length / 3;
  const joints = new Uint16Array(count * AT_MOST);
  const shares = new Float64Array(count * AT_MOST);
  meshes.forEach(({ skin }, m) => {
    if (skin.kind !== 'smooth') return;
    const places = skin.joints.map((id) => jointAt.get(id)!);
    shell.of[m].forEach((point, v) => {
      for (let k = 0; k < AT_MOST; k++) {
        joints[point * AT_MOST + k] = places[skin.indices[v * AT_MOST + k]];
        shares[point * AT_MOST + k] = skin.weights[v * AT_MOST + k] / WHOLE_WEIGHT;
      }
    });
  });
  return { joints, shares };
}
