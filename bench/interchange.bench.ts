import {
  bake,
  type Choices,
  capturesOf,
  layFigure,
  putOntoRig,
  readBvh,
  readGltf,
  rigOfScene,
  type Shot,
  sceneOfCapture,
  sceneRoles,
  usualChoices,
  writeBvh,
  writeGlb,
} from '@varrup/core';
import { nightFerry } from '@varrup/demo';
import { median, report, row } from './row.ts';

/** Handing on and taking in: the porter's walk, and captures of two lengths. */

const porters = nightFerry.shots().find((s) => s.name.startsWith('02'))!;
const walk = porters.clips.values().find((c) => c.name === 'Walk')!;
const choices: Choices = { ...usualChoices, frames: null, clips: [walk.id], members: [walk.rig], rate: 24 };

const glb = await writeGlb(bake(porters, choices).scene);

/** The text of a capture of the porter's skeleton, its own cycle over and over, so many frames long. */
function captured(frames: number): string {
  const shot: Shot = { ...porters, play: { first: 1, last: frames } };
  const { motions } = capturesOf(shot, walk.rig, { ...choices, frames: shot.play, clips: [], joints: 'deforming' });
  const { capture } = motions[0];
  // Thirty joints, as captures have: the first ones of the porter, which are its body.
  const joints = capture.joints.slice(0, 30).map((j) => ({ ...j, parent: Math.min(j.parent, 29) }));
  const width = joints.reduce((sum, j) => sum + j.channels.length, 0);
  const whole = capture.values.length / capture.frames;
  const values = new Float64Array(width * capture.frames);
  for (let f = 0; f < capture.frames; f++) values.set(capture.values.subarray(f * whole, f * whole + width), f * width);
  return writeBvh({ ...capture, joints, values });
}

const [short, long] = [captured(1_000), captured(4_000)];
const takeIn = (text: string) =>
  rigOfScene(layFigure(sceneOfCapture(readBvh(text), 'Capture').scene), { id: 'c', name: 'C', rate: 24 });
const onto = (text: string) => {
  const { scene } = sceneOfCapture(readBvh(text), 'Capture');
  const [motion] = scene.motions;
  const pairing = sceneRoles(scene, motion);
  return putOntoRig(porters, {
    rig: walk.rig,
    scene,
    motion,
    name: 'C',
    pairing,
    tolerance: { millimetres: 0.5, degrees: 0.1 },
  });
};
const [quick, slow] = [await median(() => takeIn(short), 10), await median(() => takeIn(long), 10)];

report([
  row('the porter’s walk to .glb', await median(() => bake(porters, choices)), 'ms', 300),
  row('the same written', await median(() => writeGlb(bake(porters, choices).scene)), 'ms', 300),
  row('the same read', await median(() => readGltf(glb)), 'ms', 300),
  row('a capture of 4,000 frames and 30 joints, read and taken in', slow, 'ms', 3_000),
  row('the same a frame, against 1,000 frames', slow / 4 / quick, 'ratio', 1.5),
  row('the same read and put onto the porter', await median(() => onto(long), 10), 'ms', 3_000),
]);
