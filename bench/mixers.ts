import type { Shot } from '@varrup/core';
import * as THREE from 'three';

/**
 * A cast of skeletons on three's AnimationMixer: linear tracks with the keys of a shot that `rigs` made, then
 * `updateMatrixWorld`. Each call goes on by a frame.
 */
export function mixersOf(shot: Shot, rigs: number, jointCount: number, keys: number, spacing: number): () => void {
  const scene = new THREE.Scene();
  const mixers: THREE.AnimationMixer[] = [];
  for (let rig = 0; rig < rigs; rig++) {
    const joints: THREE.Object3D[] = [];
    const tracks: THREE.KeyframeTrack[] = [];
    for (let joint = 0; joint < jointCount; joint++) {
      const node = new THREE.Object3D();
      node.name = `j${joint}`;
      joints.push(node);
      (joint === 0 ? scene : joints[joint % 10 === 0 ? 0 : joint - 1]).add(node);
      const times = Array.from({ length: keys }, (_, k) => (k * spacing) / 24);
      const curve = (channel: string) => {
        const c = shot.curves.get(`r${rig}j${joint}.${channel}`);
        return c?.type === 'number' ? c.keys.map((k) => k.value) : [];
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
  return () => {
    for (const mixer of mixers) mixer.update(1 / 24);
    scene.updateMatrixWorld(true);
  };
}
