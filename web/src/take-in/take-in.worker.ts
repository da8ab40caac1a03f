import {
  type CaptureOnto,
  type CurveTable,
  layFigure,
  newId,
  type Put,
  putOntoRig,
  readBvh,
  readCurveTable,
  readGltf,
  rigOfScene,
  type Scene,
  sceneOfCapture,
  type TakenRig,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { Mirrored, type News } from '../mirror/mirror.ts';

/** A file that came in, as a rig, and what is to be known of it. */
export interface TakenFile extends TakenRig {
  /** What was read, to be put onto another rig. */
  readonly scene: Scene;
  readonly name: string;
  readonly joints: number;
  readonly vertices: number;
}

/** A name for people, of a file's. */
const nameOf = (file: string): string =>
  file
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
    .slice(0, 80) || 'File';

async function sceneOf(files: readonly File[]): Promise<{ scene: Scene; left: readonly string[]; name: string }> {
  const main = files.find((f) => /\.(glb|gltf|bvh)$/i.test(f.name));
  if (!main) throw new Error('None of these files is glTF (.glb, .gltf), BVH (.bvh) or a table of curves (.csv).');
  const name = nameOf(main.name);
  if (/\.bvh$/i.test(main.name)) {
    const { scene, unit } = sceneOfCapture(readBvh(await main.text()), name);
    return {
      scene: layFigure(scene),
      left: unit === 1 ? [] : ['its unit was taken for centimetres, by its size'],
      name,
    };
  }
  const beside = new Map<string, Uint8Array>();
  for (const file of files) if (file !== main) beside.set(file.name, new Uint8Array(await file.arrayBuffer()));
  const { scene, left } = await readGltf(new Uint8Array(await main.arrayBuffer()), beside);
  return { scene: layFigure(scene), left, name };
}

/** Reading files off the interface's thread. */
export const taker = {
  /** @throws an error with a sentence, where it is no table of curves */
  table: async (file: File): Promise<CurveTable> => readCurveTable(await file.text()),

  /** @throws an error with a sentence, where they cannot be read */
  async read(files: readonly File[], rate: number): Promise<TakenFile> {
    const { scene, left, name } = await sceneOf(files);
    const taken = rigOfScene(scene, { id: newId(), name, rate });
    const { joints, meshes } = taken.rig;
    const vertices = meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
    return { ...taken, scene, left: [...left, ...taken.left], name, joints: joints.length, vertices };
  },

  /** Puts a motion onto a rig of a shot. @throws an error with a sentence, where it does not go */
  put: (shot: News, putting: CaptureOnto): Put => putOntoRig(new Mirrored().hear(shot), putting),
};

Comlink.expose(taker);
