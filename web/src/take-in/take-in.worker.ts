import {
  type CaptureOnto,
  type CurveTable,
  layFigure,
  mediaLimits,
  newId,
  type Put,
  putOntoRig,
  readBvh,
  readCurveTable,
  readGltf,
  rigOfScene,
  type Scene,
  sceneOfCapture,
  sceneOfPicture,
  type TakenRig,
} from '@varrup/core';
import * as Comlink from 'comlink';
import { Mirrored, type News } from '../mirror/mirror.ts';
import { nameOf, PICTURE, READABLE, SCENE } from './readable.ts';

/** A file that came in, as a rig, and what is to be known of it. */
export interface TakenFile extends TakenRig {
  /** What was read, to be put onto another rig. */
  readonly scene: Scene;
  readonly name: string;
  /** Whether it is a picture that stands as a board. */
  readonly isPicture: boolean;
  readonly joints: number;
  readonly vertices: number;
}

/** A picture stands as a board. */
async function boardOf(file: File): Promise<{ scene: Scene; name: string }> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const image = await createImageBitmap(new Blob([bytes])).catch(() => {
    throw new Error('The picture cannot be read: it is broken, or no PNG and no JPEG.');
  });
  const { width, height } = image;
  image.close();
  if (width * height > mediaLimits.pixels)
    throw new Error(
      `The picture has ${width} × ${height} pixels; up to ${Math.sqrt(mediaLimits.pixels)} squared can be shown.`,
    );
  const name = nameOf(file.name);
  return { scene: sceneOfPicture(bytes, name, width, height), name };
}

interface Read {
  readonly scene: Scene;
  readonly left: readonly string[];
  readonly name: string;
  readonly isPicture?: true;
}

async function sceneOf(files: readonly File[]): Promise<Read> {
  const main = files.find((f) => SCENE.test(f.name));
  const picture = main ? undefined : files.find((f) => PICTURE.test(f.name));
  if (picture) return { ...(await boardOf(picture)), left: [], isPicture: true };
  if (!main) throw new Error(`None of these files can be read. What can: ${READABLE}.`);
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
    const { scene, left, name, isPicture = false } = await sceneOf(files);
    const taken = rigOfScene(scene, { id: newId(), name, rate });
    const { joints, meshes } = taken.rig;
    const vertices = meshes.reduce((sum, mesh) => sum + mesh.positions.length / 3, 0);
    return { ...taken, scene, left: [...left, ...taken.left], name, isPicture, joints: joints.length, vertices };
  },

  /** Puts a motion onto a rig of a shot. @throws an error with a sentence, where it does not go */
  put: (shot: News, putting: CaptureOnto): Put => putOntoRig(new Mirrored().hear(shot), putting),
};

Comlink.expose(taker);
