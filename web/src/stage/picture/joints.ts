import * as THREE from 'three';

/** Joint matrices straight from the core: three works none of them out. They are what a vertex goes through, rest undone. */
export class Joints extends THREE.Skeleton {
  constructor(count: number) {
    super(Array<THREE.Bone>(count).fill(new THREE.Bone()));
    this.computeBoneTexture();
  }

  override update(): void {
    if (this.boneTexture) this.boneTexture.needsUpdate = true;
  }
}
