export { ARCHIVE_VERSION, type Archive } from './archive/archive.ts';
export { readArchive } from './archive/read.ts';
export { writeArchive } from './archive/write.ts';
export { type Baked, bake, type StandIn } from './bake/bake.ts';
export { byMaterial } from './bake/bodies.ts';
export { type Choices, ChoicesSchema, layings, travels, usualChoices } from './bake/choices.ts';
export { patternPicture } from './bake/pattern-picture.ts';
export type { LeftOut } from './bake/plan.ts';
export * from './bvh/capture.ts';
export { type CapturedMotion, capturesOf } from './bvh/of-rig.ts';
export { readBvh } from './bvh/read.ts';
export { writeBvh } from './bvh/write.ts';
export { curveTablesOf } from './csv/of-shot.ts';
export { curvesFor, type FoundCurves, takeInCurves } from './csv/onto-shot.ts';
export { readCurveTable } from './csv/read.ts';
export { type CurveColumn, type CurveTable, type TableForm, tableForms } from './csv/table.ts';
export { writeCurveTable } from './csv/write.ts';
export { type ReadScene, readGltf } from './gltf/read.ts';
export { writeGlb, writeGltf } from './gltf/write.ts';
export { type Format, type FormatName, formatNames, formats } from './hand-on/formats.ts';
export { type Handed, type HandedFile, type HandedMotion, type HandOnWith, handOn } from './hand-on/hand-on.ts';
export { type Remark, remarksOf } from './hand-on/remarks.ts';
export { type CaptureOnto, type Put, putOntoRig, rigRoles, sceneRoles } from './onto-rig/onto-rig.ts';
export { neededRoles, type Pairing, type Role, roles } from './onto-rig/roles.ts';
export { pointCachesOf } from './points/of-shot.ts';
export type { PointCache } from './points/points.ts';
export { readPointCache } from './points/read.ts';
export { writePointCache } from './points/write.ts';
export { fileStem, isPlain, Names, plainName } from './scene/names.ts';
export type {
  MeshPart,
  Motion,
  MotionCompany,
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
export { clipsOfMotions, takeInClip, takeInRig } from './take-in/clips.ts';
export { layFigure } from './take-in/lay-figure.ts';
export { offFrames, onFrames } from './take-in/on-frames.ts';
export { rigOfMembers } from './take-in/rig-of-members.ts';
export { rigOfScene, type TakenMotion, type TakenRig } from './take-in/rig-of-scene.ts';
export { sceneOfCapture } from './take-in/scene-of-capture.ts';
export { sceneOfPicture } from './take-in/scene-of-picture.ts';
