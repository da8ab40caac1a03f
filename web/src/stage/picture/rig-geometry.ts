import { type CompiledRig, PICTURE_UNIT, type Skin, type Surface, skinsOf, surfaceKey, surfaceOf } from '@varrup/core';
import * as THREE from 'three';

/** The meshes of a rig that share a surface, as one: each is one drawing. */
export interface Layer {
  readonly surface: Surface;
  readonly geometry: THREE.BufferGeometry;
  /** The rig's meshes in it, with where their vertices begin. */
  readonly parts: readonly { readonly mesh: number; readonly first: number }[];
  /** For each shape target of the geometry, the mesh and the target it is. */
  readonly targets: readonly { readonly mesh: number; readonly target: number }[];
}

const layers = new WeakMap<CompiledRig, readonly Layer[]>();

/** A rig's body, made once for all who link it; the geometries are never disposed of while the page is open. */
export function layersOf(compiled: CompiledRig): readonly Layer[] {
  const known = layers.get(compiled);
  if (known) return known;
  const skins = skinsOf(compiled);
  const surfaces = new Map(skins.map(({ mesh }) => [surfaceKey(surfaceOf(mesh)), surfaceOf(mesh)]));
  const made = [...surfaces.values()].map((surface) => layerOf(skins, surface));
  layers.set(compiled, made);
  return made;
}

function layerOf(skins: readonly Skin[], surface: Surface): Layer {
  const key = surfaceKey(surface);
  const own = skins
    .map((skin, mesh) => ({ skin, mesh }))
    .filter(({ skin }) => surfaceKey(surfaceOf(skin.mesh)) === key);
  const count = own.reduce((sum, { skin }) => sum + skin.positions.length / 3, 0);
  const positions = new Float32Array(count * 3);
  const colours = new Float32Array(count * 3);
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  const places = new Float32Array(surface.picture === null ? 0 : count * 2);
  const triangles: number[] = [];
  const parts: { mesh: number; first: number }[] = [];
  const targets: { mesh: number; target: number }[] = [];
  const morphs: Float32Array[] = [];
  let first = 0;
  for (const { skin, mesh } of own) {
    const colour = new THREE.Color(skin.mesh.colour);
    positions.set(skin.positions, first * 3);
    joints.set(skin.joints, first * 4);
    weights.set(skin.weights, first * 4);
    for (let v = 0; v < skin.positions.length / 3; v++) colour.toArray(colours, (first + v) * 3);
    for (const v of skin.triangles) triangles.push(v + first);
    skin.mesh.material?.picture?.places.forEach((p, i) => {
      places[first * 2 + i] = p * PICTURE_UNIT;
    });
    skin.targets.forEach((offsets, target) => {
      const all = new Float32Array(count * 3);
      all.set(offsets, first * 3);
      morphs.push(all);
      targets.push({ mesh, target });
    });
    parts.push({ mesh, first });
    first += skin.positions.length / 3;
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
  geometry.setAttribute('skinIndex', new THREE.BufferAttribute(joints, 4));
  geometry.setAttribute('skinWeight', new THREE.BufferAttribute(weights, 4));
  if (places.length > 0) geometry.setAttribute('uv', new THREE.BufferAttribute(places, 2));
  geometry.setIndex(triangles);
  geometry.computeVertexNormals();
  if (morphs.length > 0) {
    geometry.morphAttributes.position = morphs.map((m) => new THREE.BufferAttribute(m, 3));
    geometry.morphTargetsRelative = true;
  }
  return { surface, geometry, parts, targets };
}
