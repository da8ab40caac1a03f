import type { Frame, Shot } from '@varrup/core';
import * as THREE from 'three';

/** The shot's cameras, first in the cast first. */
export const camerasOf = (shot: Shot) =>
  shot.members
    .values()
    .filter((m) => m.kind === 'camera')
    .sort((a, b) => a.rank - b.rank);

const scratch = new THREE.Vector3();

/** Puts a camera where a camera of the cast is at a frame, and gives it its view angle. */
export function throughCamera(camera: THREE.PerspectiveCamera, id: string, frame: Frame, aspect: number): boolean {
  const slot = frame.layout.slotOf.get(id);
  const view = frame.value(id, 'view');
  if (slot === undefined || view === undefined) return false;
  const matrix = new THREE.Matrix4().fromArray(frame.world, slot * 16);
  // A camera's own size does not matter to what it sees.
  matrix.decompose(camera.position, camera.quaternion, scratch);
  camera.fov = THREE.MathUtils.radToDeg(view);
  camera.aspect = aspect;
  camera.near = 0.1;
  camera.far = 500;
  camera.updateProjectionMatrix();
  camera.updateMatrixWorld();
  return true;
}

/** Puts a camera where it sees all of a box, a little from the side and above. */
function onEverything(camera: THREE.PerspectiveCamera, all: THREE.Box3, aspect: number): void {
  const box = all.clone();
  if (box.isEmpty()) box.set(new THREE.Vector3(-1, 0, -1), new THREE.Vector3(1, 1.5, 1));
  const sphere = box.getBoundingSphere(new THREE.Sphere());
  const radius = Math.max(sphere.radius, 0.3);
  camera.fov = 30;
  camera.aspect = aspect;
  const half = THREE.MathUtils.degToRad(15);
  const distance = radius / Math.sin(Math.min(half, Math.atan(Math.tan(half) * aspect)));
  camera.position.set(0.35, 0.28, 1).normalize().multiplyScalar(distance).add(sphere.center);
  camera.lookAt(sphere.center);
  camera.near = distance / 100;
  camera.far = distance * 20;
  camera.updateProjectionMatrix();
  camera.updateMatrixWorld();
}

/**
 * The view a picture of a shot has when nobody says: its first camera's, else one on everything.
 * @param everything the box around all that moves in the shot, which is the same at every frame: the view must not follow
 */
export function usualView(
  camera: THREE.PerspectiveCamera,
  shot: Shot,
  frame: Frame,
  aspect: number,
  everything: () => THREE.Box3,
  id?: string,
): void {
  const chosen = id ?? camerasOf(shot)[0]?.id;
  if (!chosen || !throughCamera(camera, chosen, frame, aspect)) onEverything(camera, everything(), aspect);
}
