import { expect, test } from 'vitest';
import { emptyShot } from '../../document/shot.ts';
import { addMember, newMember, setSky, skiesOf } from '../../edit/index.ts';
import { quaternionTurn } from '../../pose/quaternion.ts';
import { skyLight, writeSky } from '../../surface/index.ts';
import { readGltf } from '../gltf/read.ts';
import { writeGlb } from '../gltf/write.ts';
import { bake } from './bake.ts';
import { usualChoices } from './choices.ts';

const choices = { ...usualChoices, frames: { first: 1, last: 2 }, clips: [], members: null, rate: 24 };

test('the sun of a sky goes out as a light that shines the way the sun does', async () => {
  const shot = setSky.apply(emptyShot('s', 'S'), { look: 'dusk', id: 'sky' });
  const { scene, left } = bake(shot, choices);
  const sun = scene.nodes.find((n) => n.light)!;
  expect(sun.light!.kind).toBe('sun');
  const sky = skyLight();
  const { hour, haze } = skiesOf(shot)[0].values;
  writeSky(hour, haze, sky);
  // Along its node's -Z, from the sun.
  quaternionTurn(sun.place.rotation, [0, 0, 1]).forEach((v, c) => {
    expect(v).toBeCloseTo(sky.towards[c], 9);
  });
  expect(sun.light!.intensity).toBeCloseTo(sky.strength, 9);
  expect(left.map((l) => l.text).join()).toContain('the colours of a sky');
  const again = (await readGltf(await writeGlb(scene))).scene.nodes.find((n) => n.light)!;
  expect(again.light!.kind).toBe('sun');
});

test('a lamp that shines in a cone goes out as that cone', () => {
  const empty = emptyShot('s', 'S');
  const lamp = newMember(empty, { kind: 'light', shape: { beam: 'cone', spread: 40, soft: 0.25 } });
  const { light } = bake(addMember.apply(empty, { member: lamp }), choices).scene.nodes.find((n) => n.light)!;
  expect(light!.kind).toBe('spot');
  expect(light!.cone!.outer).toBeCloseTo((40 * Math.PI) / 180, 12);
  expect(light!.cone!.inner).toBeCloseTo((30 * Math.PI) / 180, 12);
});

test('a sky of one look becomes another, and its keys go; a second sky is not made', () => {
  const dusk = setSky.apply(emptyShot('s', 'S'), { look: 'dusk', id: 'one' });
  const night = setSky.apply(dusk, { look: 'night', id: 'two' });
  expect(skiesOf(night).map((m) => [m.id, m.values.hour])).toEqual([['one', 22.5]]);
});
