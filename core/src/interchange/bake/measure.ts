import { compose, lengthOf, multiply, turnTimes } from '../../pose/affine.ts';
import type { Place, SceneMesh, SceneNode, SceneSkin, TrackOf } from '../scene/scene.ts';
import { blend } from './blend.ts';
import type { Fitted } from './fit.ts';
import type { Moment, Samples } from './samples.ts';
import { apart, type Part } from './series.ts';

/** How far what hangs on each node reaches, metres. */
export interface Reaches {
  /** The farthest vertex that hangs on the node itself. */
  readonly own: Float64Array;
  /** The farthest of all that it carries. */
  readonly all: Float64Array;
  /** How far its shape targets together move a vertex at most. */
  readonly shapes: Float64Array;
}

/** Works out how far everything reaches as it stands when nothing moves. */
export function reachesOf(
  nodes: readonly SceneNode[],
  meshes: readonly SceneMesh[],
  skins: readonly SceneSkin[],
): Reaches {
  const own = new Float64Array(nodes.length);
  const all = new Float64Array(nodes.length);
  const shapes = new Float64Array(nodes.length);
  nodes.forEach((node, n) => {
    if (node.mesh === undefined) return;
    const mesh = meshes[node.mesh];
    shapes[n] = shapeReach(mesh);
    if (node.skin === undefined) own[n] = Math.max(own[n], farthestVertex(mesh));
    else reachOfJoints(mesh, skins[node.skin], own);
  });
  for (let n = nodes.length - 1; n >= 0; n--) {
    all[n] = Math.max(all[n], own[n]);
    const { parent, place } = nodes[n];
    const largest = Math.max(...place.scale.map(Math.abs), 1e-9);
    if (parent >= 0) all[parent] = Math.max(all[parent], Math.hypot(...place.translation) + all[n] * largest);
  }
  return { own, all, shapes };
}

function farthestVertex({ parts }: SceneMesh): number {
  let most = 0;
  for (const { mesh } of parts) {
    const p = mesh.positions;
    for (let i = 0; i < p.length; i += 3) most = Math.max(most, Math.hypot(p[i], p[i + 1], p[i + 2]));
  }
  return most;
}

function shapeReach({ parts, targets }: SceneMesh): number {
  let square = 0;
  targets.forEach((_, t) => {
    let most = 0;
    for (const part of parts) {
      const p = part.targets[t].positions;
      for (let i = 0; i < p.length; i += 3) most = Math.max(most, Math.hypot(p[i], p[i + 1], p[i + 2]));
    }
    square += most * most;
  });
  return Math.sqrt(square);
}

function reachOfJoints({ parts }: SceneMesh, { joints, inverseBinds }: SceneSkin, own: Float64Array): void {
  for (const { mesh, bones } of parts) {
    if (!bones) continue;
    for (let v = 0; v < mesh.positions.length / 3; v++) {
      const [x, y, z] = mesh.positions.subarray(v * 3, v * 3 + 3);
      for (let k = v * 4; k < v * 4 + 4; k++) {
        if (bones.weights[k] === 0) continue;
        const m = bones.joints[k] * 16;
        let square = 0;
        for (let r = 0; r < 3; r++)
          square +=
            (inverseBinds[m + r] * x +
              inverseBinds[m + 4 + r] * y +
              inverseBinds[m + 8 + r] * z +
              inverseBinds[m + 12 + r]) **
            2;
        const node = joints[bones.joints[k]];
        own[node] = Math.max(own[node], Math.sqrt(square));
      }
    }
  }
}

/** A track that was laid. */
export interface LaidTrack {
  readonly node: number;
  readonly of: TrackOf;
  readonly part: Part;
  readonly fitted: Fitted;
}

export interface Off {
  readonly metres: number;
  readonly radians: number;
}

/**
 * How far anything is at most from where it was when tracks are played, at some moments and half way between them: what the tracks of
 * a node and of all that carry it add up to.
 */
export function farthest(
  nodes: readonly SceneNode[],
  tracks: readonly LaidTrack[],
  samples: Samples,
  moments: readonly Moment[],
  { own, shapes }: Reaches,
): Off {
  const [was, is] = [new Stands(nodes), new Stands(nodes)];
  const players = tracks.map((track) => new Player(track));
  const moved = movedBy(nodes, tracks);
  let [metres, radians] = [0, 0];
  const lookAt = (time: number, values: Float64Array) => {
    tracks.forEach(({ node, of, part }, i) => {
      const truth = values.subarray(part.at, part.at + part.width);
      const played = players[i].at(time);
      if (of === 'weights') metres = Math.max(metres, apart(false, truth, played) * shapes[node]);
      else {
        was.set(node, of, truth);
        is.set(node, of, played);
      }
    });
    was.settle(moved);
    is.settle(moved);
    for (const n of moved) {
      radians = Math.max(radians, was.angleTo(is, n));
      metres = Math.max(metres, was.distanceTo(is, n) + was.axesTo(is, n) * own[n]);
    }
  };
  moments.forEach(({ time, value }, i) => {
    lookAt(time, value);
    if (i + 1 === moments.length) return;
    const middle = (time + moments[i + 1].time) / 2;
    lookAt(middle, samples.check(middle));
  });
  return { metres, radians };
}

/** The nodes that tracks move, and those they carry. */
function movedBy(nodes: readonly SceneNode[], tracks: readonly LaidTrack[]): number[] {
  const moved = new Set(tracks.map((track) => track.node));
  nodes.forEach(({ parent }, n) => {
    if (moved.has(parent)) moved.add(n);
  });
  return [...moved].sort((a, b) => a - b);
}

/** Plays a fitted track forward. */
class Player {
  readonly #fitted: Fitted;
  readonly #turns: boolean;
  readonly #out: Float64Array;
  #key = 0;

  constructor({ fitted, part }: LaidTrack) {
    this.#fitted = fitted;
    this.#turns = part.turns;
    this.#out = new Float64Array(part.width);
  }

  /** @param time not before the one asked for last */
  at(time: number): Float64Array {
    const { keys, shape } = this.#fitted;
    while (this.#key + 1 < keys.length && keys[this.#key + 1].time <= time) this.#key++;
    const a = keys[this.#key];
    const b = keys[this.#key + 1];
    if (!b || shape === 'step' || a.time === time) return a.value;
    const length = b.time - a.time;
    const u = (time - a.time) / length;
    blend(this.#out, shape === 'cubic', this.#turns, u, length, a.value, a.rateOut, b.value, b.rateIn);
    return this.#out;
  }
}

const at: Record<Exclude<TrackOf, 'weights'>, number> = { translation: 0, rotation: 3, scale: 7 };

/** Where all nodes stand in the world. */
class Stands {
  readonly #nodes: readonly SceneNode[];
  /** How each stands to its parent: move, turn, size. */
  readonly #places: Float64Array;
  readonly #world: Float64Array;
  readonly #turns: Float64Array;

  constructor(nodes: readonly SceneNode[]) {
    this.#nodes = nodes;
    this.#places = Float64Array.from(nodes.flatMap(({ place }) => numbersOf(place)));
    this.#world = new Float64Array(nodes.length * 16);
    this.#turns = new Float64Array(nodes.length * 4);
    nodes.forEach((_, n) => {
      this.#place(n);
    });
  }

  set(node: number, of: Exclude<TrackOf, 'weights'>, value: Float64Array): void {
    this.#places.set(value, node * 10 + at[of]);
  }

  /** Works out where some nodes are, parents first; the others stand as they stood. */
  settle(moved: readonly number[]): void {
    for (const n of moved) this.#place(n);
  }

  #place(n: number): void {
    const [p, w, i] = [this.#places, this.#world, n * 10];
    compose(w, n * 16, p, i + 3, 1, p[i], p[i + 1], p[i + 2]);
    for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) w[n * 16 + c * 4 + r] *= p[i + 7 + c];
    for (let k = 0; k < 4; k++) this.#turns[n * 4 + k] = p[i + 3 + k];
    const { parent } = this.#nodes[n];
    if (parent < 0) return;
    multiply(w, n * 16, w, parent * 16, w, n * 16);
    turnTimes(this.#turns, n * 4, this.#turns, parent * 4, this.#turns, n * 4);
  }

  distanceTo(other: Stands, n: number): number {
    const [a, b, i] = [this.#world, other.#world, n * 16 + 12];
    return lengthOf(a[i] - b[i], a[i + 1] - b[i + 1], a[i + 2] - b[i + 2]);
  }

  /** How far the tips of a node's axes are apart at most, beside what its place is: that far is a vertex a metre out. */
  axesTo(other: Stands, n: number): number {
    const [a, b] = [this.#world, other.#world];
    let square = 0;
    for (let i = n * 16; i < n * 16 + 12; i++) square += (a[i] - b[i]) * (a[i] - b[i]);
    return Math.sqrt(square);
  }

  angleTo(other: Stands, n: number): number {
    const [a, b] = [this.#turns, other.#turns];
    let dot = 0;
    let square = 0;
    for (let k = n * 4; k < n * 4 + 4; k++) dot += a[k] * b[k];
    const sign = dot < 0 ? -1 : 1;
    for (let k = n * 4; k < n * 4 + 4; k++) square += (a[k] - sign * b[k]) ** 2;
    return 4 * Math.asin(Math.min(1, Math.sqrt(square) / 2));
  }
}

const numbersOf = ({ translation, rotation, scale }: Place): number[] => [...translation, ...rotation, ...scale];
