import {
  bendsByPoint,
  type CompiledRig,
  type Frame,
  type PlacedRig,
  type Surface,
  skinPoints,
  writeSkinMatrices,
} from '@varrup/core';
import * as THREE from 'three';
import { textureOf } from '../../media/textures.ts';
import { Joints } from './joints.ts';
import { type Layer, layersOf } from './rig-geometry.ts';

function materialOf({ roughness, metalness, bothSides, picture }: Surface): THREE.MeshStandardMaterial {
  const side = bothSides ? THREE.DoubleSide : THREE.FrontSide;
  const material = new THREE.MeshStandardMaterial({ roughness, metalness, side, vertexColors: true });
  if (picture !== null) material.map = textureOf(picture.media);
  if (picture?.cutOut) material.alphaTest = 0.5;
  return material;
}

/** The body of one linked rig, bent by the graphics card; by the core where a deformer bends it point by point. */
export class RigFigure {
  readonly root = new THREE.Group();
  readonly #meshes: { readonly layer: Layer; readonly skinned: THREE.SkinnedMesh; bent: THREE.Mesh | null }[] = [];
  readonly #joints: Joints;
  readonly #matrices: Float32Array;

  /** @param material what all of it is drawn with; without one, wood, felt and tin as the rig says */
  constructor(compiled: CompiledRig, material?: THREE.Material) {
    this.root.matrixAutoUpdate = false;
    this.#joints = new Joints(compiled.rig.joints.length);
    this.#matrices = this.#joints.boneMatrices as Float32Array;
    for (const layer of layersOf(compiled)) {
      const own = material ?? materialOf(layer.surface);
      const skinned = new THREE.SkinnedMesh(layer.geometry, own);
      skinned.bindMode = THREE.DetachedBindMode;
      skinned.bind(this.#joints, new THREE.Matrix4());
      skinned.matrixAutoUpdate = false;
      // The graphics card puts it elsewhere than three believes.
      skinned.frustumCulled = false;
      skinned.castShadow = material === undefined;
      skinned.receiveShadow = material === undefined;
      this.root.add(skinned);
      this.#meshes.push({ layer, skinned, bent: null });
    }
  }

  /** Puts it where a frame says. */
  pose(frame: Frame, placed: PlacedRig): void {
    this.root.visible = frame.isVisible(placed.slot);
    if (!this.root.visible) return;
    writeSkinMatrices(frame, placed, this.#matrices);
    const byPoint = bendsByPoint(frame, placed.slot);
    for (const part of this.#meshes) {
      part.skinned.visible = !byPoint;
      if (byPoint) this.#bend(part, frame, placed);
      else if (part.bent) part.bent.visible = false;
      part.layer.targets.forEach(({ mesh, target }, i) => {
        part.skinned.morphTargetInfluences![i] = frame.values[placed.targets[mesh][target]];
      });
    }
  }

  #bend(part: { layer: Layer; skinned: THREE.SkinnedMesh; bent: THREE.Mesh | null }, frame: Frame, placed: PlacedRig) {
    part.bent ??= this.#bentMesh(part.skinned);
    const { bent } = part;
    bent.visible = true;
    bent.matrix.fromArray(frame.world, placed.root * 16);
    bent.matrixWorldNeedsUpdate = true;
    const positions = bent.geometry.getAttribute('position');
    for (const { mesh, first } of part.layer.parts) {
      const count = placed.compiled.rig.meshes[mesh].positions.length;
      const out = (positions.array as Float32Array).subarray(first * 3, first * 3 + count);
      skinPoints(frame, placed, mesh, this.#matrices, out);
    }
    positions.needsUpdate = true;
    bent.geometry.computeVertexNormals();
  }

  #bentMesh(skinned: THREE.SkinnedMesh): THREE.Mesh {
    const geometry = skinned.geometry.clone();
    geometry.morphAttributes = {};
    const mesh = new THREE.Mesh(geometry, skinned.material);
    mesh.matrixAutoUpdate = false;
    mesh.frustumCulled = false;
    mesh.castShadow = true;
    mesh.receiveShadow = true;
    this.root.add(mesh);
    return mesh;
  }

  /** Shows it as through glass, so that joints and controls behind it are seen. */
  glass(on: boolean): void {
    for (const { skinned } of this.#meshes) {
      const material = skinned.material as THREE.MeshStandardMaterial;
      material.transparent = on;
      material.opacity = on ? 0.28 : 1;
      material.depthWrite = !on;
      material.needsUpdate = true;
      skinned.castShadow = !on;
    }
  }

  dispose(): void {
    for (const { skinned, bent } of this.#meshes) {
      (skinned.material as THREE.Material).dispose();
      bent?.geometry.dispose();
    }
    this.#joints.dispose();
  }
}
