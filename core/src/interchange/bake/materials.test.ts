import { decode } from 'fast-png';
import { expect, test } from 'vitest';
import { emptyShot } from '../../document/shot.ts';
import { addMember, makeOf, newMember } from '../../edit/index.ts';
import { colourNumbers } from '../../schema/numbers.ts';
import { paintedTile, patternTile, stockMaterials, TILE } from '../../surface/index.ts';
import { readGltf } from '../gltf/read.ts';
import { writeGlb } from '../gltf/write.ts';
import { bake } from './bake.ts';
import { usualChoices } from './choices.ts';

const choices = { ...usualChoices, frames: { first: 1, last: 2 }, clips: [], members: null, rate: 24 };

function madeOf(name: string) {
  const stock = stockMaterials.find((m) => m.name === name)!;
  const shot = emptyShot('s', 'S');
  const member = newMember(shot, { kind: 'box', id: 'b', shape: { width: 2, height: 1, depth: 1 } });
  return { stock, shot: makeOf.apply(addMember.apply(shot, { member }), { ids: ['b'], stock }) };
}

test('a pattern goes out as a picture of its tile in both colours, laid as on the stage', async () => {
  const { stock, shot } = madeOf('quay brick');
  const { scene } = await readGltf(await writeGlb(bake(shot, choices).scene));
  const [part] = scene.meshes[0].parts;
  const material = scene.materials[part.material];
  expect(material.name).toContain('quay brick');
  // The picture has the colour: nothing else is painted over it.
  expect(material.colour.map((v) => Math.round(v * 1000) / 1000)).toEqual([1, 1, 1, 1]);
  expect(material.roughness).toBeCloseTo(stock.roughness, 6);
  const { data, width, height } = decode(scene.pictures[material.picture!].bytes);
  expect([width, height]).toEqual([TILE, TILE]);
  const cover = stock.cover!;
  if (cover.is !== 'pattern') throw new Error('is a pattern');
  const tile = patternTile(cover.pattern, cover.grain);
  expect(data).toEqual(paintedTile(tile, colourNumbers(stock.colour), colourNumbers(cover.second)));
  // Across its front, two metres are two metres' worth of repeats.
  const across: number[] = [];
  part.mesh.normals.forEach((n, i) => {
    if (i % 3 === 2 && n > 0.999) across.push(part.picturePlaces![((i - 2) / 3) * 2]);
  });
  expect(Math.max(...across) - Math.min(...across)).toBeCloseTo(2 / cover.scale, 1);
});

test('what is seen through, shines or is of metal goes out as that', async () => {
  const glass = bake(madeOf('lamp glass').shot, choices).scene.materials[0];
  expect(glass.colour[3]).toBeCloseTo(0.35, 9);
  const brass = bake(madeOf('brass').shot, choices).scene.materials[0];
  expect([brass.metalness, brass.roughness]).toEqual([0.85, 0.3]);
  const glow = bake(madeOf('lantern glow').shot, choices).scene;
  expect(glow.materials[0].glow).toBe(2.5);
  const json = String.fromCharCode(...(await writeGlb(glow)).slice(20, 4000));
  expect(json).toContain('"emissiveStrength":2.5');
});
