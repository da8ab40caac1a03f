import { mediaKindOf, mediaKinds } from '../../media/index.ts';
import { Refused } from '../../schema/refused.ts';
import { AT_REST, type Scene } from '../scene/scene.ts';

/** How high a picture stands, metres. */
const HIGH = 1;

/**
 * A picture as a board that stands on the floor, a metre high and as wide as it is, with the picture on both sides.
 * @param width in pixels, above 0 @param height in pixels, above 0
 * @throws Refused where it is neither PNG nor JPEG
 */
export function sceneOfPicture(bytes: Uint8Array, name: string, width: number, height: number): Scene {
  const kind = mediaKindOf(bytes);
  if (kind !== 'png' && kind !== 'jpeg') throw new Refused('The picture is neither PNG nor JPEG.');
  const half = (HIGH * width) / height / 2;
  const mesh = {
    positions: Float32Array.of(-half, 0, 0, half, 0, 0, half, HIGH, 0, -half, HIGH, 0),
    normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
    triangles: Uint32Array.of(0, 1, 2, 0, 2, 3),
  };
  const picturePlaces = Float32Array.of(0, 1, 1, 1, 1, 0, 0, 0);
  return {
    name,
    nodes: [{ name: 'board', parent: -1, place: AT_REST, mesh: 0 }],
    meshes: [{ name: 'board', parts: [{ mesh, material: 0, picturePlaces, targets: [] }], targets: [] }],
    skins: [],
    materials: [
      {
        name: 'picture',
        colour: [1, 1, 1, 1],
        roughness: 0.9,
        metalness: 0,
        bothSides: true,
        picture: 0,
        cutOut: true,
      },
    ],
    pictures: [{ name, type: mediaKinds[kind].mime, bytes }],
    motions: [],
  };
}
