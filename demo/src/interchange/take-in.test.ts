import {
  bake,
  bringRig,
  clipsOfMotions,
  emptyShot,
  newRigMembers,
  Program,
  Rigs,
  readGltf,
  rigOfScene,
  type Scene,
  type Shot,
  type TakenRig,
  takeUpClip,
  usualChoices,
  writeGlb,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { worldsAt } from '../../../core/src/testing/scene-player.ts';
import { porterCrosses } from '../shots/02-porter-crosses.ts';
import { goatOnTheWall } from '../shots/03-goat-on-the-wall.ts';
import { handSignals } from '../shots/10-hand-signals.ts';

/** A shot with a rig that was taken in, and one of its motions at work. */
function shotWith(taken: TakenRig, motion: number): Shot {
  const empty = {
    ...emptyShot('s', 'S', Rigs.of([taken.rig])),
    play: { first: 1, last: 400 },
    range: { first: 1, last: 400 },
  };
  const brought = bringRig.apply(empty, newRigMembers(empty, { rig: taken.rig.id, version: 1, id: 'r' }));
  const { clips, left } = clipsOfMotions(brought, 'r', taken.motions);
  expect(left).toEqual([]);
  const all = brought.clips.withAll(clips.map((clip) => [clip.id, clip] as const));
  return takeUpClip.apply({ ...brought, clips: all }, { id: clips[motion].id });
}

/** How far the joints of a rig that was taken in are from the nodes of the scene it was, at most, metres. */
function worstJoint(shot: Shot, scene: Scene, motion: number, frames: number): number {
  const program = new Program(shot);
  const frame = program.createFrame();
  const placed = program.layout.rigs[0];
  let worst = 0;
  for (let f = 0; f <= frames; f += 0.5) {
    program.evaluate(1 + f, frame);
    const worlds = worldsAt(scene, scene.motions[motion], f / shot.rate);
    placed.compiled.rig.controls.forEach((control) => {
      const joint = placed.compiled.jointAt.get(control.id);
      const node = scene.nodes.findIndex((n) => n.name === control.name);
      if (joint === undefined || node < 0) return;
      const at = (placed.joints + joint) * 16;
      const apart = [12, 13, 14].map((i) => frame.world[at + i] - worlds[node * 16 + i]);
      worst = Math.max(worst, Math.hypot(...apart));
    });
  }
  return worst;
}

describe.each([
  ['porter', porterCrosses(), 'Weary'],
  ['goat', goatOnTheWall(), 'Trot'],
] as const)('the %s handed on and taken in again', (_, shot, name) => {
  test.each(['bent', 'every'] as const)('is a rig whose clip does what it did, keys %s', async (keys) => {
    const clip = shot.clips.values().find((c) => c.name === name)!;
    const choices = { ...usualChoices, keys, frames: null, clips: [clip.id], members: [clip.rig], rate: shot.rate };
    const { scene } = await readGltf(await writeGlb(bake(shot, choices).scene));
    const taken = rigOfScene(scene, { id: 'taken', name: 'Taken', rate: shot.rate });
    expect(worstJoint(shotWith(taken, 0), scene, 0, clip.length)).toBeLessThan(1e-4);
  });
});

test('a rig that came in carries the body it brought: as many vertices, where they were', async () => {
  const shot = handSignals();
  const rig = shot.members.values().find((m) => m.kind === 'rig')!;
  const choices = { ...usualChoices, frames: shot.play, clips: [], members: [rig.id], rate: shot.rate };
  const { scene } = await readGltf(await writeGlb(bake(shot, choices).scene));
  const taken = rigOfScene(scene, { id: 'taken', name: 'Taken', rate: shot.rate });
  const count = scene.meshes.flatMap((m) => m.parts).reduce((sum, p) => sum + p.mesh.positions.length / 3, 0);
  expect(taken.rig.meshes.reduce((sum, m) => sum + m.positions.length / 3, 0)).toBe(count);
  // Handed on once more, it is the same rig.
  const again = shotWith(taken, 0);
  const out = bake(again, { ...choices, frames: { first: 1, last: 20 }, members: ['r'] });
  const bones = (s: Scene) => s.nodes.filter((_, n) => s.skins.some((skin) => skin.joints.includes(n))).length;
  expect(bones(out.scene)).toBeGreaterThanOrEqual(bones(scene));
});
