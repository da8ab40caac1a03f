import { cameraAt, type Frame, openingOf, type Shot, shiftOf } from '@varrup/core';
import * as THREE from 'three';

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
 * The view a picture of a shot has: through the camera that is told, or the one that its cuts say for the frame; on everything where there is
 * none, or with null.
 * @param everything the box around all that moves in the shot, which is the same at every frame: the view must not follow
 * @returns the camera that is looked through
 */
export function usualView(
  camera: THREE.PerspectiveCamera,
  shot: Shot,
  frame: Frame,
  aspect: number,
  everything: () => THREE.Box3,
  id?: string | null,
): string | null {
  const chosen = id === undefined ? cameraAt(shot, frame.at) : id;
  if (chosen !== null && throughCamera(camera, chosen, frame, aspect)) return chosen;
  onEverything(camera, everything(), aspect);
  return null;
}

/** How far what is sharp is from a camera of the cast, metres: whom it follows, or what its focus says. */
export function focusOf(camera: THREE.PerspectiveCamera, shot: Shot, id: string, frame: Frame): number {
  const member = shot.members.get(id);
  const followed = member?.kind === 'camera' ? member.shape.follow : null;
  const slot = followed ? frame.layout.slotOf.get(followed) : undefined;
  if (slot === undefined) return frame.value(id, 'focus') ?? 0;
  const at = new THREE.Vector3().fromArray(frame.world, (frame.layout.rigAt.get(slot)?.root ?? slot) * 16 + 12);
  return Math.max(0.01, at.sub(camera.position).dot(camera.getWorldDirection(scratch)));
}

/** A lens that is open: what is sharp, and how far from its middle light comes in, metres. */
export interface Lens {
  readonly focus: number;
  readonly radius: number;
}

/** The lens of a camera of the cast at a frame; null where all is sharp. */
export function lensAt(camera: THREE.PerspectiveCamera, shot: Shot, id: string | null, frame: Frame): Lens | null {
  const aperture = id === null ? 0 : (frame.value(id, 'aperture') ?? 0);
  if (id === null || aperture <= 0) return null;
  const focus = focusOf(camera, shot, id, frame);
  return { focus, radius: openingOf(THREE.MathUtils.degToRad(camera.fov), aperture, focus) / 2 };
}

const right = new THREE.Vector3();
const up = new THREE.Vector3();

/**
 * Looks from another point of the lens, so that what is sharp stays where it is in the picture.
 * @param x from -1 to 1 to the right of its middle @param y upwards
 * @returns what puts the camera back
 */
export function throughLens(
  camera: THREE.PerspectiveCamera,
  { focus, radius }: Lens,
  x: number,
  y: number,
  size: { readonly width: number; readonly height: number },
): () => void {
  const [dx, dy] = [x * radius, y * radius];
  const [sx, sy] = shiftOf(dx, dy, focus, THREE.MathUtils.degToRad(camera.fov), camera.aspect);
  const home = camera.position.clone();
  camera.matrixWorld.extractBasis(right, up, scratch);
  camera.position.addScaledVector(right, dx).addScaledVector(up, dy);
  const { width, height } = size;
  camera.setViewOffset(width, height, (sx * width) / 2, (-sy * height) / 2, width, height);
  camera.updateMatrixWorld();
  return () => {
    camera.position.copy(home);
    camera.clearViewOffset();
    camera.updateMatrixWorld();
  };
}
