import { Document, WebIO } from '@gltf-transform/core';
import { KHRTextureTransform } from '@gltf-transform/extensions';
import { expect, test } from 'vitest';
import { emptyShot, type Shot } from '../../document/shot.ts';
import { bringRig, newRigMembers } from '../../edit/index.ts';
import { type Media, mediaHash, mediaOfShot } from '../../media/index.ts';
import { PICTURE_UNIT } from '../../rig/definition.ts';
import { Rigs } from '../../rig/rigs.ts';
import { Refused } from '../../schema/refused.ts';
import { readArchive } from '../archive/read.ts';
import { writeArchive } from '../archive/write.ts';
import { bake } from '../bake/bake.ts';
import { usualChoices } from '../bake/choices.ts';
import { readGltf } from '../gltf/read.ts';
import { writeGlb } from '../gltf/write.ts';
import type { Scene } from '../scene/scene.ts';
import { rigOfScene } from './rig-of-scene.ts';
import { sceneOfPicture } from './scene-of-picture.ts';

/** As much of a PNG as is looked at here. */
const PICTURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 1, 2, 3, 4);

function shotOf(scene: Scene): { shot: Shot; media: Media } {
  const { rig, media } = rigOfScene(scene, { id: 'poster', name: 'Poster', rate: 24 });
  const empty = emptyShot('s', 'S', Rigs.of([rig]));
  return { shot: bringRig.apply(empty, newRigMembers(empty, { rig: rig.id, version: 1 })), media };
}

const frames = { first: 1, last: 2 };
const handed = async (shot: Shot, media: Media) =>
  (
    await readGltf(
      await writeGlb(
        bake(shot, { ...usualChoices, frames, clips: [], members: null, rate: 24 }, undefined, media).scene,
      ),
    )
  ).scene;

test('a picture is a board on the floor, as wide as it is, and goes out with its picture the right way up', async () => {
  const { shot, media } = shotOf(sceneOfPicture(PICTURE, 'Poster', 300, 200));
  expect(mediaOfShot(shot)).toEqual([mediaHash(PICTURE)]);
  const scene = await handed(shot, media);
  const [part] = scene.meshes[0].parts;
  const corners = [...part.mesh.positions].map((v) => Math.round(v * 1e4) / 1e4);
  expect(Math.min(...corners.filter((_, i) => i % 3 === 0))).toBe(-0.75);
  expect([Math.min(...corners.filter((_, i) => i % 3 === 1)), Math.max(...corners)]).toEqual([0, 1]);
  for (let v = 0; v < corners.length / 3; v++) {
    // From its left to its right, and from its top down.
    expect(part.picturePlaces![v * 2]).toBeCloseTo(corners[v * 3] / 1.5 + 0.5, 4);
    expect(part.picturePlaces![v * 2 + 1]).toBeCloseTo(1 - corners[v * 3 + 1], 4);
  }
  const material = scene.materials[part.material];
  expect(material).toMatchObject({ roughness: 0.9, metalness: 0, bothSides: true, cutOut: true });
  expect(scene.pictures[material.picture!].bytes).toEqual(PICTURE);
  expect(() => sceneOfPicture(Uint8Array.of(1, 2, 3), 'P', 1, 1)).toThrow(Refused);
});

test('where its picture is not at hand a body goes out in its plain colour', async () => {
  const { shot } = shotOf(sceneOfPicture(PICTURE, 'Poster', 300, 200));
  const scene = await handed(shot, new Map());
  expect(scene.pictures).toEqual([]);
  expect(scene.materials[scene.meshes[0].parts[0].material].picture).toBeUndefined();
});

test('an archive carries the picture, and none is written without it', () => {
  const { shot, media } = shotOf(sceneOfPicture(PICTURE, 'Poster', 300, 200));
  const bytes = writeArchive({ shot, poses: new Map(), media });
  expect(readArchive(bytes).media).toEqual(media);
  expect(() => writeArchive({ shot, poses: new Map(), media: new Map() })).toThrow('not at hand');
});

test('a picture that a material lays in its own way, by another set of places, comes in as it lies', async () => {
  const file = new Document();
  const buffer = file.createBuffer();
  const accessor = (type: 'VEC2' | 'VEC3', array: number[]) =>
    file.createAccessor().setType(type).setArray(Float32Array.from(array)).setBuffer(buffer);
  const material = file
    .createMaterial('paper')
    .setRoughnessFactor(0.37)
    .setBaseColorTexture(file.createTexture().setMimeType('image/png').setImage(PICTURE));
  const how = file.createExtension(KHRTextureTransform).createTransform().setOffset([0.5, 0.25]).setScale([2, 3]);
  material.getBaseColorTextureInfo()!.setTexCoord(1).setExtension('KHR_texture_transform', how);
  const primitive = file
    .createPrimitive()
    .setMaterial(material)
    .setAttribute('POSITION', accessor('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 0, 0, 0, 0, 0]))
    .setAttribute('TEXCOORD_1', accessor('VEC2', [0, 1, 1, 1, 0.5, 0]));
  file.createScene().addChild(file.createNode('sheet').setMesh(file.createMesh('sheet').addPrimitive(primitive)));
  const bytes = await new WebIO().registerExtensions([KHRTextureTransform]).writeBinary(file);
  const { scene } = await readGltf(bytes);
  const { rig, left } = rigOfScene(scene, { id: 'r', name: 'R', rate: 24 });
  const { roughness, bothSides, picture } = rig.meshes[0].material!;
  expect([roughness, bothSides]).toEqual([0.37, false]);
  expect(picture!.cutOut).toBe(false);
  expect(picture!.places.map((p) => Math.round(p * PICTURE_UNIT * 1e4) / 1e4)).toEqual([
    0.5, 3.25, 2.5, 3.25, 1.5, 0.25,
  ]);
  expect(left).toEqual([]);
});
