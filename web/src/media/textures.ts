import { mediaOfMembers, mediaOfRig, type Rig, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { fetchMedia } from './media.ts';

/**
 * The pictures on bodies, ready to be drawn with, on the page or in a worker. They are had before a body is built, so that nobody who
 * draws need wait; a picture that cannot be had leaves a body its plain colour.
 */
const textures = new Map<string, Promise<THREE.Texture | null>>();
const ready = new Map<string, THREE.Texture>();

async function load(hash: string): Promise<THREE.Texture | null> {
  try {
    const blob = new Blob([await fetchMedia(hash)]);
    // As glTF lays pictures: from their upper left corner, and nothing of their colours changed.
    const image = await createImageBitmap(blob, { premultiplyAlpha: 'none', colorSpaceConversion: 'none' });
    const texture = new THREE.Texture(image, THREE.UVMapping, THREE.RepeatWrapping, THREE.RepeatWrapping);
    texture.colorSpace = THREE.SRGBColorSpace;
    texture.flipY = false;
    texture.anisotropy = 4;
    texture.needsUpdate = true;
    ready.set(hash, texture);
    return texture;
  } catch {
    // It is asked for again by whoever builds the next body.
    textures.delete(hash);
    return null;
  }
}

/** Has pictures ready, by their hashes. */
export async function picturesOfHashes(hashes: readonly string[]): Promise<void> {
  await Promise.all(
    hashes.map((hash) => {
      const loading = textures.get(hash) ?? load(hash);
      textures.set(hash, loading);
      return loading;
    }),
  );
}

/** Has the pictures of a rig's bodies ready. */
export const picturesOfRig = (rig: Rig): Promise<void> => picturesOfHashes(mediaOfRig(rig));

/** Has the pictures on a document's forms ready. */
export const picturesOfMembers = (document: Pick<Shot, 'members'>): Promise<void> =>
  picturesOfHashes(mediaOfMembers(document));

/** Has the pictures on all bodies and forms of a shot ready. */
export const picturesOfShot = (shot: Shot): Promise<void> =>
  picturesOfHashes([...shot.rigs.list.flatMap(mediaOfRig), ...mediaOfMembers(shot)]);

/** A picture to draw with; null where it could not be had. */
export const textureOf = (hash: string): THREE.Texture | null => ready.get(hash) ?? null;
