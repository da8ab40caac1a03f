import { type Motion, readGltf, type Scene } from '@varrup/core';
import * as THREE from 'three';
import { GLTFExporter } from 'three/addons/exporters/GLTFExporter.js';
import { expect, test } from 'vitest';
import { worldsAt } from '../../../core/src/testing/scene-player.ts';

/** What three's exporter asks of a browser: a reader of files. */
class FileReaderOfNode {
  result: unknown = null;
  onloadend: (() => void) | null = null;
  readAsArrayBuffer(blob: Blob): void {
    void blob.arrayBuffer().then((bytes) => this.#done(bytes));
  }
  readAsDataURL(blob: Blob): void {
    void blob.arrayBuffer().then((bytes) => {
      const text = String.fromCharCode(...new Uint8Array(bytes));
      this.#done(`data:${blob.type};base64,${btoa(text)}`);
    });
  }
  #done(result: unknown): void {
    this.result = result;
    this.onloadend?.();
  }
}
declare function btoa(text: string): string;
interface Blob {
  readonly type: string;
  arrayBuffer(): Promise<ArrayBuffer>;
}
Object.assign(globalThis, { FileReader: FileReaderOfNode });

/** A tube on two joints that bend it, with a shape target, beside a box that is moved. */
function sceneOfThree(): { scene: THREE.Scene; clip: THREE.AnimationClip } {
  const tube = new THREE.CylinderGeometry(0.1, 0.1, 1, 8, 4).translate(0, 0.5, 0);
  const { count } = tube.getAttribute('position');
  const [joints, weights] = [new Uint16Array(count * 4), new Float32Array(count * 4)];
  for (let v = 0; v < count; v++) {
    const up = tube.getAttribute('position').getY(v);
    joints.set([0, 1, 0, 0], v * 4);
    weights.set([1 - up, up, 0, 0], v * 4);
  }
  tube.setAttribute('skinIndex', new THREE.BufferAttribute(joints, 4));
  tube.setAttribute('skinWeight', new THREE.BufferAttribute(weights, 4));
  tube.morphAttributes.position = [new THREE.BufferAttribute(new Float32Array(count * 3).fill(0.01), 3)];
  tube.morphTargetsRelative = true;
  const mesh = new THREE.SkinnedMesh(tube, new THREE.MeshStandardMaterial({ color: '#b08a57', roughness: 0.6 }));
  mesh.name = 'tube';
  const [low, high] = [new THREE.Bone(), new THREE.Bone()];
  low.name = 'low';
  high.name = 'high';
  high.position.y = 0.5;
  low.add(high);
  mesh.add(low);
  mesh.bind(new THREE.Skeleton([low, high]));
  const box = new THREE.Mesh(new THREE.BoxGeometry(), new THREE.MeshStandardMaterial());
  box.name = 'box';
  const scene = new THREE.Scene();
  scene.add(mesh, box);
  const turn = new THREE.Quaternion().setFromAxisAngle(new THREE.Vector3(0, 0, 1), 1);
  const clip = new THREE.AnimationClip('Sway', -1, [
    new THREE.QuaternionKeyframeTrack('high.quaternion', [0, 1, 2], [0, 0, 0, 1, ...turn.toArray(), 0, 0, 0, 1]),
    new THREE.VectorKeyframeTrack('box.position', [0, 2], [0, 0, 0, 4, 0, 2]),
    new THREE.VectorKeyframeTrack('box.scale', [0, 1], [1, 1, 1, 2, 2, 2], THREE.InterpolateDiscrete),
  ]);
  return { scene, clip };
}

test.each([true, false])(
  "a scene written by three's exporter comes in whole and moves as there, binary %s",
  async (binary) => {
    const { scene, clip } = sceneOfThree();
    const written = await new GLTFExporter().parseAsync(scene, { binary, animations: [clip], onlyVisible: false });
    const bytes = written instanceof ArrayBuffer ? new Uint8Array(written) : toBytes(JSON.stringify(written));
    const { scene: read, left } = await readGltf(bytes);
    expect(left).toEqual([]);
    const names = read.nodes.map((n) => n.name);
    expect(['tube', 'low', 'high', 'box'].every((name) => names.includes(name))).toBe(true);
    const tube = read.nodes.find((n) => n.name === 'tube')!;
    expect(read.skins[tube.skin!].joints.map((j) => names[j])).toEqual(['low', 'high']);
    expect(read.meshes[tube.mesh!].targets).toHaveLength(1);
    expect(read.materials.find((m) => m.roughness === 0.6)?.colour[0]).toBeCloseTo(0xb0 / 255, 3);
    const mixer = new THREE.AnimationMixer(scene);
    mixer.clipAction(clip).play();
    for (const seconds of [0, 0.25, 0.5, 1, 1.7]) {
      mixer.setTime(seconds);
      scene.updateMatrixWorld(true);
      same(read, read.motions[0], seconds, scene);
    }
  },
);

const toBytes = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));

function same(read: Scene, motion: Motion, seconds: number, scene: THREE.Scene): void {
  const worlds = worldsAt(read, motion, seconds);
  for (const name of ['low', 'high', 'box']) {
    const at = read.nodes.findIndex((n) => n.name === name) * 16;
    const { elements } = scene.getObjectByName(name)!.matrixWorld;
    elements.forEach((v, i) => {
      expect(Math.abs(worlds[at + i] - v)).toBeLessThan(1e-5);
    });
  }
}
