import * as THREE from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { Driven } from './driven.ts';

/** What a file holds, in numbers. */
export interface Statistics {
  readonly bytes: number;
  readonly nodes: number;
  readonly joints: number;
  readonly meshes: number;
  readonly vertices: number;
  readonly triangles: number;
  readonly keys: number;
}

/**
 * Plays a glTF file as a game or a page would: with the loader and the mixer that come with three, and nothing of Varrup's own.
 */
export class FilePlayer {
  readonly scene: THREE.Group;
  readonly clips: readonly THREE.AnimationClip[];
  readonly statistics: Statistics;
  readonly box: THREE.Box3;
  /** Who of it can be driven by arrows and keys: whose motions say how they go about. */
  readonly driven: readonly Driven[];
  readonly #mixer: THREE.AnimationMixer;
  #action: THREE.AnimationAction | null = null;

  private constructor(scene: THREE.Group, clips: readonly THREE.AnimationClip[], bytes: number) {
    this.scene = scene;
    this.clips = clips;
    this.#mixer = new THREE.AnimationMixer(scene);
    this.driven = Driven.allOf(scene, clips);
    this.statistics = { bytes, ...counted(scene), keys: clips.reduce((sum, clip) => sum + keysOf(clip), 0) };
    scene.traverse((object) => {
      if (!(object instanceof THREE.Mesh)) return;
      object.castShadow = object.receiveShadow = true;
      // Where joints take it the mesh itself does not say.
      object.frustumCulled = false;
    });
    scene.updateMatrixWorld(true);
    this.box = boxOf(scene, clips);
  }

  /** Opens a file. @throws an error that says why it cannot be read */
  static async open(bytes: ArrayBuffer): Promise<FilePlayer> {
    const { scene, animations } = await new GLTFLoader().parseAsync(bytes, '');
    return new FilePlayer(scene, animations, bytes.byteLength);
  }

  /** The clip that plays. */
  get playing(): THREE.AnimationClip | null {
    return this.#action?.getClip() ?? null;
  }

  get seconds(): number {
    return this.#action?.time ?? 0;
  }

  /** Goes over to a clip, in some seconds; at once where none plays. */
  play(name: string, loop: boolean, crossing: number): void {
    const clip = this.clips.find((c) => c.name === name);
    if (!clip) return;
    const next = this.#mixer.clipAction(clip);
    const last = this.#action;
    next.reset();
    next.setLoop(loop ? THREE.LoopRepeat : THREE.LoopOnce, Number.POSITIVE_INFINITY);
    next.clampWhenFinished = true;
    next.enabled = true;
    next.setEffectiveWeight(1);
    next.play();
    if (last && last !== next) {
      if (crossing > 0) last.crossFadeTo(next, crossing, false);
      else last.stop();
    }
    this.#action = next;
  }

  /** Repeats the clip that plays, or lets it end. */
  set loop(loop: boolean) {
    this.#action?.setLoop(loop ? THREE.LoopRepeat : THREE.LoopOnce, Number.POSITIVE_INFINITY);
    if (loop && this.#action) this.#action.paused = false;
  }

  /** Lets go of what plays, so that somebody else may move it. */
  leave(): void {
    this.#mixer.stopAllAction();
    this.#action = null;
  }

  advance(seconds: number): void {
    this.#mixer.update(seconds);
  }

  /** Shows a clip at a time, and nothing else. */
  show(name: string, seconds: number): void {
    if (this.playing?.name !== name || (this.#action?.getEffectiveWeight() ?? 0) < 1) {
      this.#mixer.stopAllAction();
      this.#action = null;
      this.play(name, false, 0);
    }
    const action = this.#action;
    if (!action) return;
    action.paused = false;
    action.time = Math.min(seconds, action.getClip().duration);
    this.#mixer.update(0);
    this.scene.updateMatrixWorld(true);
  }

  /** Where nodes are at some times of a clip: three numbers a node; not a number where there is none of the name. */
  places(name: string, times: readonly number[], nodes: readonly string[]): Float32Array {
    const byName = new Map<string, THREE.Object3D>();
    this.scene.traverse((object) => {
      if (!byName.has(object.name)) byName.set(object.name, object);
    });
    const found = nodes.map((node) => byName.get(THREE.PropertyBinding.sanitizeNodeName(node)));
    const out = new Float32Array(times.length * nodes.length * 3).fill(Number.NaN);
    const at = new THREE.Vector3();
    times.forEach((time, t) => {
      this.show(name, time);
      found.forEach((object, n) => {
        if (object) at.setFromMatrixPosition(object.matrixWorld).toArray(out, (t * nodes.length + n) * 3);
      });
    });
    return out;
  }

  dispose(): void {
    this.#mixer.stopAllAction();
    this.scene.traverse((object) => {
      if (!(object instanceof THREE.Mesh)) return;
      object.geometry.dispose();
      for (const material of [object.material].flat()) material.dispose();
    });
  }
}

/** What one wants to look at: whoever has joints, else what moves, else all there is. */
function boxOf(scene: THREE.Object3D, clips: readonly THREE.AnimationClip[]): THREE.Box3 {
  const box = new THREE.Box3();
  const moved = new Set(clips.flatMap((clip) => clip.tracks.map((track) => track.name.split('.')[0])));
  scene.traverse((object) => {
    if (object instanceof THREE.SkinnedMesh) box.expandByObject(object, true);
  });
  if (box.isEmpty())
    scene.traverse((object) => {
      if (moved.has(object.name)) box.expandByObject(object);
    });
  return box.isEmpty() ? box.setFromObject(scene) : box;
}

function counted(scene: THREE.Object3D): Omit<Statistics, 'bytes' | 'keys'> {
  const joints = new Set<THREE.Object3D>();
  let [nodes, meshes, vertices, triangles] = [0, 0, 0, 0];
  scene.traverse((object) => {
    nodes++;
    if (object instanceof THREE.SkinnedMesh) for (const bone of object.skeleton.bones) joints.add(bone);
    if (!(object instanceof THREE.Mesh)) return;
    meshes++;
    const { index, attributes } = object.geometry as THREE.BufferGeometry;
    vertices += attributes.position.count;
    triangles += (index?.count ?? attributes.position.count) / 3;
  });
  return { nodes, joints: joints.size, meshes, vertices, triangles };
}

const keysOf = (clip: THREE.AnimationClip): number => clip.tracks.reduce((sum, track) => sum + track.times.length, 0);
