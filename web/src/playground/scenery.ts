import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { FilePlayer } from './player.ts';

const place = new THREE.Vector3();

/** What stands around a file that is played: a ground with a grid, light, and an eye that can be turned. */
export class Scenery {
  readonly #renderer: THREE.WebGLRenderer;
  readonly #scene = new THREE.Scene();
  readonly #camera = new THREE.PerspectiveCamera(35, 1, 0.05, 500);
  readonly #controls: OrbitControls;
  readonly #ground = new THREE.Group();
  readonly #sun = new THREE.DirectionalLight(0xfff1dc, 2.4);
  #player: FilePlayer | null = null;
  #skeleton: THREE.SkeletonHelper | null = null;

  constructor(canvas: HTMLCanvasElement) {
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: true });
    this.#renderer.shadowMap.enabled = true;
    this.#controls = new OrbitControls(this.#camera, canvas);
    this.#controls.addEventListener('change', () => this.draw());
    const floor = new THREE.Mesh(new THREE.CircleGeometry(60, 64), new THREE.ShadowMaterial({ opacity: 0.25 }));
    floor.rotateX(-Math.PI / 2);
    floor.receiveShadow = true;
    // Under the lines of the grid, or it would hide them.
    floor.position.y = -0.002;
    const grid = new THREE.GridHelper(60, 60, 0x9a9284, 0xcfc7b8);
    this.#ground.add(grid, floor);
    // A ground that the file brings itself lies on top.
    this.#ground.position.y = -0.004;
    this.#sun.castShadow = true;
    this.#sun.shadow.mapSize.set(2048, 2048);
    // Or surfaces that slant to the light would shade themselves in stripes.
    this.#sun.shadow.bias = -0.0004;
    this.#sun.shadow.normalBias = 0.03;
    this.#scene.add(this.#ground, this.#sun, this.#sun.target, new THREE.HemisphereLight(0xffffff, 0xb8a98c, 1.6));
  }

  paper(colour: string): void {
    this.#scene.background = new THREE.Color(colour);
    this.draw();
  }

  /** Puts a file on the ground, and the eye where it sees all of it. */
  take(player: FilePlayer | null): void {
    if (this.#player) this.#scene.remove(this.#player.scene);
    this.skeleton(false);
    this.#player = player;
    if (!player) return;
    this.#scene.add(player.scene);
    const sphere = player.box.getBoundingSphere(new THREE.Sphere());
    const radius = Math.min(Math.max(sphere.radius, 0.4), 8);
    this.#controls.target.copy(sphere.center);
    this.#camera.position
      .set(0.6, 0.4, 1)
      .normalize()
      .multiplyScalar(radius * 3.1)
      .add(sphere.center);
    this.#sun.position.set(2, 4, 2.5).multiplyScalar(radius).add(sphere.center);
    this.#sun.target.position.copy(sphere.center);
    const { camera } = this.#sun.shadow;
    [camera.left, camera.right, camera.top, camera.bottom, camera.far] = [-2, 2, 2, -2, 12].map((k) => k * radius);
    camera.updateProjectionMatrix();
    this.#controls.update();
    this.draw();
  }

  ground(shown: boolean): void {
    this.#ground.visible = shown;
    this.draw();
  }

  skeleton(shown: boolean): void {
    if (this.#skeleton) {
      this.#scene.remove(this.#skeleton);
      this.#skeleton.dispose();
      this.#skeleton = null;
    }
    if (shown && this.#player) {
      this.#skeleton = new THREE.SkeletonHelper(this.#player.scene);
      (this.#skeleton.material as THREE.Material).depthTest = false;
      this.#scene.add(this.#skeleton);
    }
    this.draw();
  }

  /** Keeps the eye on something that goes its way. */
  follow(object: THREE.Object3D): void {
    object.getWorldPosition(place);
    const { target } = this.#controls;
    const [dx, dz] = [place.x - target.x, place.z - target.z];
    target.x += dx;
    target.z += dz;
    this.#camera.position.x += dx;
    this.#camera.position.z += dz;
    this.#sun.position.x += dx;
    this.#sun.position.z += dz;
    this.#sun.target.position.copy(target);
    this.#sun.target.updateMatrixWorld();
    // The ground goes along by whole squares: there is always some, and it lies still.
    this.#ground.position.x = Math.round(place.x);
    this.#ground.position.z = Math.round(place.z);
  }

  /** Goes round it, by an angle in radians. */
  turn(angle: number): void {
    const from = this.#camera.position.sub(this.#controls.target);
    from.applyAxisAngle(new THREE.Vector3(0, 1, 0), angle);
    this.#camera.position.add(this.#controls.target);
    this.#camera.lookAt(this.#controls.target);
  }

  resize(width: number, height: number): void {
    this.#renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
    this.#renderer.setSize(width, height, false);
    this.#camera.aspect = width / Math.max(height, 1);
    this.#camera.updateProjectionMatrix();
    this.draw();
  }

  draw(): void {
    this.#renderer.render(this.#scene, this.#camera);
  }

  dispose(): void {
    this.take(null);
    this.#controls.dispose();
    this.#renderer.dispose();
  }
}
