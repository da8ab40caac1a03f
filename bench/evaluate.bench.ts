import { Program } from '@varrup/core';
import * as THREE from 'three';
import { rigs } from './cast.ts';
import { median, report, row } from './row.ts';

/**
 * A hundred rigs of sixty joints with six Bézier curves a joint, to world matrices, against three's AnimationMixer on the
 * same skeletons with the same number of keys, in linear tracks, and `updateMatrixWorld`.
 */
const RIGS = 100;
const JOINTS = 60;
const KEYS = 9;
const SPACING = 12;
const shot = rigs(RIGS, JOINTS, KEYS, SPACING);
const LENGTH = (KEYS - 1) * SPACING;

const program = new Program(shot);
const frame = program.createFrame();
let time = 1;
const evaluateOurs = () => {
  time = time >= LENGTH ? 1 : time + 1;
  program.evaluate(time, frame);
};

const scene = new THREE.Scene();
const mixers: THREE.AnimationMixer[] = [];
for (let rig = 0; rig < RIGS; rig++) {
  const joints: THREE.Object3D[] = [];
  const tracks: THREE.KeyframeTrack[] = [];
  for (let joint = 0; joint < JOINTS; joint++) {
    const node = new THREE.Object3D();
    node.name = `j${joint}`;
    joints.push(node);
    (joint === 0 ? scene : joints[joint % 10 === 0 ? 0 : joint - 1]).add(node);
    const times = Array.from({ length: KEYS }, (_, k) => (k * SPACING) / 24);
    const curve = (channel: string) => {
      const c = shot.curves[`r${rig}j${joint}.${channel}`];
      return c.type === 'number' ? c.keys.map((k) => k.value) : [];
    };
    const [x, y, z] = ['move.x', 'move.y', 'move.z'].map(curve);
    const [rx, ry, rz] = ['turn.x', 'turn.y', 'turn.z'].map(curve);
    const turns = times.flatMap((_, k) =>
      new THREE.Quaternion().setFromEuler(new THREE.Euler(rx[k], ry[k], rz[k])).toArray(),
    );
    tracks.push(
      new THREE.VectorKeyframeTrack(
        `${node.name}.position`,
        times,
        times.flatMap((_, k) => [x[k], y[k], z[k]]),
      ),
      new THREE.QuaternionKeyframeTrack(`${node.name}.quaternion`, times, turns),
    );
  }
  const mixer = new THREE.AnimationMixer(joints[0]);
  mixer.clipAction(new THREE.AnimationClip('bench', -1, tracks)).play();
  mixers.push(mixer);
}
const evaluateTheirs = () => {
  for (const mixer of mixers) mixer.update(1 / 24);
  scene.updateMatrixWorld(true);
};

// In turns, so that neither is measured in a quieter moment of the machine than the other.
const rounds: { ours: number; theirs: number }[] = [];
for (let i = 0; i < 5; i++) rounds.push({ ours: await median(evaluateOurs), theirs: await median(evaluateTheirs) });
const middle = rounds.sort((a, b) => a.ours / a.theirs - b.ours / b.theirs)[2];

report([
  row('evaluate 100 rigs × 60 joints, against a mixer of linear tracks', middle.ours / middle.theirs, 'ratio', 0.35),
  row('  the same in milliseconds', middle.ours, 'ms', 16.7),
]);
