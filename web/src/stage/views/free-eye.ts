import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { Looking } from '../../view/looking.ts';

/** The least a thing is brought into view by, in metres, and how much room is left round it. */
const SMALLEST = 0.25;
const ROOM = 1.1;
/** What an empty stage is looked at by. */
const EMPTY = new THREE.Box3(new THREE.Vector3(-1, 0, -0.5), new THREE.Vector3(1, 1, 0.5));

/** Straight down has no sideways of its own; a hair off it the picture stands the right way up. */
const DIRECTIONS = { front: [0, 0, 1], side: [1, 0, 0], top: [0, 1, 1e-4] } as const;

/** The eye that goes where a hand takes it, round a target: with perspective, and without at the same size. */
export class FreeEye {
  readonly camera = new THREE.PerspectiveCamera(30, 1, 0.02, 500);
  readonly flat = new THREE.OrthographicCamera(-1, 1, 1, -1, -200, 500);
  readonly orbit: OrbitControls;
  #aspect = 1;

  constructor(canvas: HTMLCanvasElement) {
    this.orbit = new OrbitControls(this.camera, canvas);
    this.orbit.mouseButtons = { LEFT: null, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.ROTATE };
    this.orbit.zoomToCursor = true;
    this.put([2.2, 2, 7], [0, 0.7, 0]);
  }

  get target(): THREE.Vector3 {
    return this.orbit.target;
  }

  /** Half of what fits from below to above at the target, in metres. */
  get half(): number {
    const distance = this.camera.position.distanceTo(this.target);
    return distance * Math.tan(THREE.MathUtils.degToRad(this.camera.fov / 2));
  }

  put(place: readonly [number, number, number], target: readonly [number, number, number]): void {
    this.camera.position.set(...place);
    this.target.set(...target);
    this.orbit.update();
  }

  /** Takes the eye and what it looks at along. */
  carry(by: THREE.Vector3): void {
    this.camera.position.add(by);
    this.target.add(by);
    if (by.lengthSq() > 0) this.orbit.update();
  }

  /** Looks straight at the target from one of the sides. */
  from(side: Exclude<Looking, 'free' | 'camera'>): void {
    const distance = this.camera.position.distanceTo(this.target);
    const direction = new THREE.Vector3(...DIRECTIONS[side]).normalize();
    this.camera.position.copy(this.target).addScaledVector(direction, distance);
    this.orbit.update();
  }

  /** Looks the same way as a direction points. */
  along(direction: THREE.Vector3): void {
    this.camera.position.copy(this.target).add(direction);
  }

  /** Goes to where all of a box is seen, looking the same way as before. */
  bring(box: THREE.Box3): void {
    const sphere = (box.isEmpty() ? EMPTY : box).getBoundingSphere(new THREE.Sphere());
    const half = THREE.MathUtils.degToRad(this.camera.fov / 2);
    const narrow = Math.min(half, Math.atan(Math.tan(half) * this.#aspect));
    const distance = Math.max(sphere.radius * ROOM, SMALLEST) / Math.sin(narrow);
    const direction = this.camera.position.clone().sub(this.target).normalize();
    this.target.copy(sphere.center);
    this.camera.position.copy(sphere.center).addScaledVector(direction, distance);
    this.orbit.update();
  }

  /** Goes round the target, by angles in radians. */
  round(by: number, up: number): void {
    const offset = new THREE.Spherical().setFromVector3(this.camera.position.clone().sub(this.target));
    offset.theta -= by;
    offset.phi = Math.min(Math.PI - 0.01, Math.max(0.01, offset.phi - up));
    this.camera.position.setFromSpherical(offset).add(this.target);
    this.orbit.update();
  }

  /** Goes nearer (below 1) or further away. */
  nearer(factor: number): void {
    const offset = this.camera.position.clone().sub(this.target).multiplyScalar(factor);
    this.camera.position.copy(this.target).add(offset);
    this.orbit.update();
  }

  /** Brings both cameras to where they look from, for a window of a shape. */
  aim(aspect: number): void {
    this.#aspect = aspect;
    const { camera, flat, half } = this;
    const distance = camera.position.distanceTo(this.target);
    camera.aspect = aspect;
    camera.near = Math.max(0.005, distance / 200);
    camera.far = distance * 40 + 100;
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld();
    Object.assign(flat, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
    flat.position.copy(camera.position);
    flat.quaternion.copy(camera.quaternion);
    flat.updateProjectionMatrix();
    flat.updateMatrixWorld();
  }

  dispose(): void {
    this.orbit.dispose();
  }
}
