import {
  type Capture,
  type Choices,
  capturesOf,
  captureWidth,
  columnsOf,
  Program,
  plainName,
  readBvh,
  type Shot,
  usualChoices,
  writeBvh,
} from '@varrup/core';
import * as THREE from 'three';
import { BVHLoader } from 'three/addons/loaders/BVHLoader.js';
import { expect, test } from 'vitest';
import { porterCrosses } from '../shots/02-porter-crosses.ts';
import { goatOnTheWall } from '../shots/03-goat-on-the-wall.ts';
import { handSignals } from '../shots/10-hand-signals.ts';
import { snappingToolbox } from '../shots/11-snapping-toolbox.ts';

const choices = (shot: Shot): Choices => ({ ...usualChoices, frames: shot.play, clips: [], rate: shot.rate });

/** All numbers of each joint, by its name. */
function byName({ joints, values, frames }: Capture): Map<string, number[]> {
  const width = captureWidth(joints);
  const columns = columnsOf(joints);
  return new Map(
    joints.map(({ name, channels }, j) => [
      name,
      Array.from({ length: frames }, (_, f) => channels.map((_, c) => values[f * width + columns[j] + c])).flat(),
    ]),
  );
}

/** The rig of a shot, in the order of its cast. */
const rigOf = (shot: Shot) => shot.members.values().find((m) => m.kind === 'rig')!;

test.each([
  ['porter', porterCrosses()],
  ['goat', goatOnTheWall()],
  ['glove', handSignals()],
])('the %s as a capture has all its joints where they are, read by a reader of somebody else', (_, shot) => {
  const { id } = rigOf(shot);
  const { motions } = capturesOf(shot, id, choices(shot));
  const { skeleton, clip } = new BVHLoader().parse(writeBvh(motions[0].capture));
  const root = skeleton.bones[0];
  const mixer = new THREE.AnimationMixer(root);
  mixer.clipAction(clip).play();
  const program = new Program(shot);
  const frame = program.createFrame();
  const placed = program.layout.rigAt.get(program.layout.slotOf.get(id)!)!;
  const at = new THREE.Vector3();
  let worst = 0;
  for (let f = shot.play.first; f < shot.play.last; f += 3) {
    program.evaluate(f, frame);
    mixer.setTime((f - shot.play.first) / shot.rate);
    root.updateMatrixWorld(true);
    placed.compiled.rig.joints.forEach((joint, j) => {
      const bone = skeleton.bones.find((b) => b.name === plainName(joint.id))!;
      const node = (placed.joints + j) * 16;
      at.setFromMatrixPosition(bone.matrixWorld);
      worst = Math.max(worst, Math.hypot(...[0, 1, 2].map((r) => at.getComponent(r) - frame.world[node + 12 + r])));
    });
  }
  expect(worst).toBeLessThan(1e-4);
});

test('a capture out and in again is the same, at any rate', () => {
  const shot = porterCrosses();
  for (const rate of [24, 30, 60]) {
    const { motions } = capturesOf(shot, rigOf(shot).id, { ...choices(shot), rate });
    const again = readBvh(writeBvh(motions[0].capture));
    const { capture } = motions[0];
    expect([again.rate, again.frames]).toEqual([rate, Math.floor(((shot.play.last - 1) * rate) / 24) + 1]);
    // The file has each joint right before those that hang on it: the numbers are the same by name.
    const [ours, theirs] = [capture, again].map(byName);
    expect([...theirs.keys()].sort()).toEqual([...ours.keys()].sort());
    for (const [name, values] of ours) {
      theirs.get(name)!.forEach((v, i) => {
        expect(Math.abs(v - values[i])).toBeLessThan(1e-6);
      });
    }
  }
});

test('a rig that is kept in place stays there, and travels where it is not', () => {
  const shot = porterCrosses();
  const rig = rigOf(shot);
  const clip = shot.clips.values().find((c) => c.rig === rig.id)!;
  const far = (travel: Choices['travel']) => {
    const { motions } = capturesOf(shot, rig.id, { ...choices(shot), frames: null, clips: [clip.id], travel });
    const { capture } = motions[0];
    const width = capture.values.length / capture.frames;
    return Math.hypot(...[0, 1, 2].map((c) => capture.values[(capture.frames - 1) * width + c] - capture.values[c]));
  };
  expect(far('none')).toBeLessThan(1e-6);
  expect(far('node')).toBeCloseTo(clip.travel, 3);
});

test('where z is up and a metre is a hundred, the file says so of everything', () => {
  const shot = handSignals();
  const { id } = rigOf(shot);
  const [plain, other] = [choices(shot), { ...choices(shot), up: 'z', scale: 100 } as const].map(
    (c) => capturesOf(shot, id, c).motions[0].capture,
  );
  plain.joints.forEach(({ offset: [x, y, z] }, j) => {
    expect(other.joints[j].offset.map((v) => v / 100)).toEqual([x, -z, y].map((v) => expect.closeTo(v, 9)));
  });
});

test('what a skeleton cannot say is told, and what is no skeleton is refused', () => {
  const toolbox = snappingToolbox();
  expect(capturesOf(toolbox, rigOf(toolbox).id, choices(toolbox)).left[0].text).toMatch(/change their size/);
  expect(() => capturesOf(toolbox, 'nobody', choices(toolbox))).toThrow('is no rig');
});
