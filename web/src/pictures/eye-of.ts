import type { NoteView } from '@varrup/core';
import * as THREE from 'three';

/** A camera that looks as somebody looked at the stage when they drew on it: in a picture of a shape, as high as their stage was. */
export function eyeOf({ eye, target, fov, flat }: NoteView, aspect: number): THREE.Camera {
  const place = new THREE.Vector3(...eye);
  const at = new THREE.Vector3(...target);
  const distance = Math.max(1e-3, place.distanceTo(at));
  const [near, far] = [Math.max(0.005, distance / 200), distance * 40 + 100];
  const half = (flat ?? 0) / 2;
  const camera =
    flat === null
      ? new THREE.PerspectiveCamera(THREE.MathUtils.radToDeg(fov), aspect, near, far)
      : new THREE.OrthographicCamera(-half * aspect, half * aspect, half, -half, near, far);
  camera.position.copy(place);
  camera.lookAt(at);
  camera.updateMatrixWorld();
  return camera;
}
