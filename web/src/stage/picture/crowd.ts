import * as THREE from 'three';
import type { Body } from './forms.ts';

/** Room for so many at first; it doubles when it is used up. */
const FIRST = 16;

/** A body's place among others that are drawn with it. */
export interface Place {
  readonly batch: Batch;
  index: number;
}

/** Bodies of the same form, drawn in one call. */
class Batch {
  readonly group: THREE.Group;
  readonly body: Body;
  readonly material: THREE.MeshStandardMaterial;
  readonly #places: Place[] = [];
  #mesh: THREE.InstancedMesh;
  #changed = false;

  constructor(group: THREE.Group, body: Body) {
    this.group = group;
    this.body = body;
    this.material = materialOf(body);
    this.#mesh = this.#made(FIRST);
  }

  add(): Place {
    const place: Place = { batch: this, index: this.#places.length };
    if (this.#places.length === this.#mesh.instanceMatrix.count) this.#grow();
    this.#places.push(place);
    this.#mesh.count = this.#places.length;
    this.hide(place);
    return place;
  }

  /** The last one takes the place of one that leaves. */
  remove(place: Place): void {
    const last = this.#places.pop()!;
    if (last !== place) {
      this.#mesh.getMatrixAt(last.index, moved);
      this.#mesh.getColorAt(last.index, colour);
      last.index = place.index;
      this.#places[place.index] = last;
      this.put(last, moved, colour);
    }
    this.#mesh.count = this.#places.length;
    this.#mesh.visible = this.#mesh.count > 0;
  }

  put({ index }: Place, matrix: THREE.Matrix4, own: THREE.Color): void {
    matrix.toArray(this.#mesh.instanceMatrix.array, index * 16);
    own.toArray(this.#mesh.instanceColor!.array, index * 3);
    this.#changed = true;
  }

  hide({ index }: Place): void {
    nowhere.toArray(this.#mesh.instanceMatrix.array, index * 16);
    this.#changed = true;
  }

  /** Has what was put drawn. */
  flush(): void {
    if (!this.#changed) return;
    this.#changed = false;
    this.#mesh.instanceMatrix.needsUpdate = true;
    this.#mesh.instanceColor!.needsUpdate = true;
  }

  dispose(): void {
    this.group.remove(this.#mesh);
    this.#mesh.dispose();
    this.material.dispose();
  }

  #made(room: number): THREE.InstancedMesh {
    const mesh = new THREE.InstancedMesh(this.body.geometry, this.material, room);
    mesh.instanceColor = new THREE.InstancedBufferAttribute(new Float32Array(room * 3).fill(1), 3);
    mesh.count = 0;
    // Where all of them are is not worked out for each frame.
    mesh.frustumCulled = false;
    mesh.castShadow = this.body.paint === 'own' && !this.body.bothSides;
    mesh.receiveShadow = true;
    this.group.add(mesh);
    return mesh;
  }

  #grow(): void {
    const before = this.#mesh;
    this.group.remove(before);
    this.#mesh = this.#made(before.instanceMatrix.count * 2);
    this.#mesh.instanceMatrix.array.set(before.instanceMatrix.array);
    this.#mesh.instanceColor!.array.set(before.instanceColor!.array);
    this.#mesh.count = this.#places.length;
    before.dispose();
    this.#changed = true;
  }
}

/** Everybody who is one of many: their bodies are drawn form by form, and not one by one. */
export class Crowd {
  readonly group = new THREE.Group();
  readonly #batches = new Map<Body, Batch>();

  /** A place for a body; forms that are shared have one batch. */
  add(body: Body): Place {
    const batch = this.#batches.get(body) ?? new Batch(this.group, body);
    this.#batches.set(body, batch);
    return batch.add();
  }

  flush(): void {
    for (const batch of this.#batches.values()) batch.flush();
  }

  dispose(): void {
    for (const batch of this.#batches.values()) batch.dispose();
    this.#batches.clear();
  }
}

/** What a body without a cover is drawn with; its own colour comes apart from it. */
export function materialOf({ paint, roughness, bothSides }: Body): THREE.MeshStandardMaterial {
  const side = bothSides ? THREE.DoubleSide : THREE.FrontSide;
  const material = new THREE.MeshStandardMaterial({ roughness, side, vertexColors: paint === 'corners' });
  if (paint !== 'own' && paint !== 'corners') material.color.set(paint.colour);
  return material;
}

const moved = new THREE.Matrix4();
const colour = new THREE.Color();
const nowhere = new THREE.Matrix4().makeScale(0, 0, 0);
