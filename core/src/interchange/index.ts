export { type Baked, bake } from './bake/bake.ts';
export { byMaterial } from './bake/bodies.ts';
export { type Choices, ChoicesSchema, layings, travels, usualChoices } from './bake/choices.ts';
export type { LeftOut } from './bake/plan.ts';
export * from './bvh/capture.ts';
export { readBvh } from './bvh/read.ts';
export { writeBvh } from './bvh/write.ts';
export { writeGlb, writeGltf } from './gltf/write.ts';
export { isPlain, Names, plainName } from './scene/names.ts';
export type {
  MeshPart,
  Motion,
  Scene,
  SceneCamera,
  SceneLight,
  SceneMaterial,
  SceneMesh,
  SceneNode,
  ScenePicture,
  SceneSkin,
  Track,
} from './scene/scene.ts';
