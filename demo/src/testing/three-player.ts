import * as THREE from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';

/** Plays a file with three's own loader and mixer, which know nothing of Varrup: what a receiver would see. */
export class ThreePlayer {
  readonly scene: THREE.Object3D;
  readonly #clips: readonly THREE.AnimationClip[];
  readonly #mixer: THREE.AnimationMixer;
  readonly #byName = new Map<string, THREE.Object3D>();

  private constructor(scene: THREE.Object3D, clips: readonly THREE.AnimationClip[]) {
    this.scene = scene;
    this.#clips = clips;
    this.#mixer = new THREE.AnimationMixer(scene);
    scene.traverse((object) => {
      if (object.name) this.#byName.set(object.name, object);
    });
  }

  static async open(glb: Uint8Array): Promise<ThreePlayer> {
    const bytes = glb.buffer.slice(glb.byteOffset, glb.byteOffset + glb.byteLength) as ArrayBuffer;
    // Pictures are decoded by browsers; what is played does not hang on them.
    const loader = new GLTFLoader().register(() => ({
      name: 'no pictures',
      loadTexture: () => Promise.resolve(new THREE.Texture()),
    }));
    const { scene, animations } = await loader.parseAsync(bytes, '');
    return new ThreePlayer(scene, animations);
  }

  /** Shows a motion at a time in seconds. */
  show(motion: string, seconds: number): void {
    const clip = this.#clips.find((c) => c.name === motion);
    if (!clip)
      throw new Error(`The file has no motion "${motion}", only ${this.#clips.map((c) => c.name).join(', ')}.`);
    this.#mixer.stopAllAction();
    const action = this.#mixer.clipAction(clip);
    action.setLoop(THREE.LoopOnce, 1);
    action.clampWhenFinished = true;
    action.play();
    this.#mixer.setTime(seconds);
    this.scene.updateMatrixWorld(true);
  }

  /** Where a node is: its matrix in the world. */
  world(name: string): THREE.Matrix4 {
    return this.#object(name).matrixWorld;
  }

  /** How many vertices a node shows, in the order of its meshes. */
  count(name: string): number {
    return this.#meshes(name).reduce((sum, mesh) => sum + mesh.geometry.getAttribute('position').count, 0);
  }

  /** Where every nth of the vertices that a node shows is. */
  points(name: string, every = 1): Map<number, THREE.Vector3> {
    const out = new Map<number, THREE.Vector3>();
    let first = 0;
    for (const mesh of this.#meshes(name)) {
      const { count } = mesh.geometry.getAttribute('position');
      for (let v = 0; v < count; v++) {
        if ((first + v) % every > 0) continue;
        out.set(first + v, mesh.getVertexPosition(v, new THREE.Vector3()).applyMatrix4(mesh.matrixWorld));
      }
      first += count;
    }
    return out;
  }

  #meshes(name: string): THREE.Mesh[] {
    const object = this.#object(name);
    return object instanceof THREE.Mesh ? [object] : object.children.filter((c) => c instanceof THREE.Mesh);
  }

  #object(name: string): THREE.Object3D {
    const object = this.#byName.get(name);
    if (!object) throw new Error(`The file has no node "${name}".`);
    return object;
  }
}
