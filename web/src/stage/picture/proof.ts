import { type Frame, type PlacedRig, skinPoints, writeSkinMatrices } from '@varrup/core';
import * as THREE from 'three';
import { Joints } from './joints.ts';
import { type Layer, layersOf } from './rig-geometry.ts';

/**
 * Holds what the graphics card makes of a rig against what the core computes: every vertex goes through the same joints and shape
 * targets as in the picture, by three's own shader code, and its place is read back.
 */

const shader = {
  vertexShader: /* glsl */ `
    #include <common>
    #include <morphtarget_pars_vertex>
    #include <skinning_pars_vertex>
    attribute float number;
    uniform float width;
    uniform float height;
    varying vec3 place;
    void main() {
      #include <skinbase_vertex>
      #include <begin_vertex>
      #include <morphinstance_vertex>
      #include <morphtarget_vertex>
      #include <skinning_vertex>
      place = (modelMatrix * vec4(transformed, 1.0)).xyz;
      vec2 cell = vec2(mod(number, width), floor(number / width));
      gl_Position = vec4((cell + 0.5) / vec2(width, height) * 2.0 - 1.0, 0.0, 1.0);
      gl_PointSize = 1.0;
    }`,
  fragmentShader: /* glsl */ `
    varying vec3 place;
    void main() {
      gl_FragColor = vec4(place, 1.0);
    }`,
};

const WIDTH = 128;

/** The furthest any vertex of a rig is drawn from where it is computed, in metres, and how many vertices there are. */
export function drawnApart(
  renderer: THREE.WebGLRenderer,
  frame: Frame,
  placed: PlacedRig,
): { metres: number; vertices: number } {
  const joints = new Joints(placed.compiled.rig.joints.length);
  const matrices = new Float64Array(placed.compiled.rig.joints.length * 16);
  writeSkinMatrices(frame, placed, matrices);
  joints.boneMatrices!.set(matrices);
  let metres = 0;
  let vertices = 0;
  for (const layer of layersOf(placed.compiled)) {
    const drawn = readBack(renderer, joints, layer, frame, placed);
    for (const { mesh, first } of layer.parts) {
      const computed = new Float64Array(placed.compiled.rig.meshes[mesh].positions.length);
      skinPoints(frame, placed, mesh, matrices, computed);
      for (let v = 0; v < computed.length / 3; v++) {
        const at = (first + v) * 4;
        const apart = Math.hypot(
          drawn[at] - computed[v * 3],
          drawn[at + 1] - computed[v * 3 + 1],
          drawn[at + 2] - computed[v * 3 + 2],
        );
        metres = Math.max(metres, apart);
      }
      vertices += computed.length / 3;
    }
  }
  joints.dispose();
  return { metres, vertices };
}

/** Draws every vertex of a layer as one pixel whose colour is its place. */
function readBack(
  renderer: THREE.WebGLRenderer,
  joints: Joints,
  layer: Layer,
  frame: Frame,
  placed: PlacedRig,
): Float32Array {
  const count = layer.geometry.getAttribute('position').count;
  const height = Math.ceil(count / WIDTH);
  const geometry = layer.geometry.clone();
  geometry.setIndex(null);
  geometry.setAttribute(
    'number',
    new THREE.BufferAttribute(
      Float32Array.from({ length: count }, (_, i) => i),
      1,
    ),
  );
  const material = new THREE.ShaderMaterial({
    ...shader,
    uniforms: { width: { value: WIDTH }, height: { value: height } },
    depthTest: false,
    blending: THREE.NoBlending,
  });
  // Points that go through the skin: three looks at the flag, not at the class.
  const points = Object.assign(new THREE.Points(geometry, material), {
    isSkinnedMesh: true,
    skeleton: joints,
    bindMode: THREE.DetachedBindMode,
    bindMatrix: new THREE.Matrix4(),
    bindMatrixInverse: new THREE.Matrix4(),
  });
  points.frustumCulled = false;
  layer.targets.forEach(({ mesh, target }, i) => {
    points.morphTargetInfluences![i] = frame.values[placed.targets[mesh][target]];
  });
  const scene = new THREE.Scene();
  scene.add(points);
  const pixels = new THREE.WebGLRenderTarget(WIDTH, height, { type: THREE.FloatType, depthBuffer: false });
  const before = renderer.getRenderTarget();
  renderer.setRenderTarget(pixels);
  renderer.setScissorTest(false);
  renderer.clear();
  renderer.render(scene, new THREE.Camera());
  const out = new Float32Array(WIDTH * height * 4);
  renderer.readRenderTargetPixels(pixels, 0, 0, WIDTH, height, out);
  renderer.setRenderTarget(before);
  pixels.dispose();
  geometry.dispose();
  material.dispose();
  return out;
}
