import {
  type Build,
  boxOf,
  bringRig,
  changeChannels,
  emptyShot,
  frameOf,
  MESH_UNIT,
  newRigMembers,
  PICTURE_UNIT,
  type PoseValues,
  posed,
  type Rig,
  type RigMesh,
  Rigs,
  sideOfPlace,
  surfaceOf,
  type Vector,
  WHOLE_WEIGHT,
} from '@varrup/core';
import * as THREE from 'three';
import { textureOf } from '../media/textures.ts';
import { ShotPicture } from '../stage/picture/picture.ts';
import { FreeEye } from '../stage/views/free-eye.ts';
import { colour, themeNow } from '../ui/theme.ts';
import { paintingNow, type Tints } from './build-store.ts';

/** How large a joint is drawn against the body, and how near in pixels a press must come to mean it. */
const JOINT = 0.011;
const NEAR = 9;
/** How far a body that is pressed through is seen through. */
const GLASS = 0.55;

export interface Shown {
  readonly build: Build;
  readonly picked: string | null;
  readonly tints: Tints;
  readonly glass: boolean;
  /** The rig in a pose to try it, in place of what is built. */
  readonly trial: { readonly rig: Rig; readonly values: PoseValues } | null;
}

/** A rig that is being built, in the harbour's light: its body with tints, and its joints over it. */
export class BuildScene {
  readonly eye: FreeEye;
  readonly #renderer: THREE.WebGLRenderer;
  readonly #picture = new ShotPicture();
  readonly #body = new THREE.Group();
  readonly #joints = new THREE.Group();
  readonly #ring: THREE.Mesh;
  readonly #canvas: HTMLCanvasElement;
  #meshes: readonly RigMesh[] = [];
  #shown: Shown | null = null;
  #asked = 0;
  /** The middle of what was brought into view last. */
  #brought: readonly number[] = [0, 0, 0];
  #size = { width: 1, height: 1 };

  constructor(canvas: HTMLCanvasElement) {
    this.#canvas = canvas;
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true });
    this.#renderer.shadowMap.enabled = true;
    this.eye = new FreeEye(canvas);
    this.eye.orbit.addEventListener('change', this.ask);
    const { scene } = this.#picture;
    this.#picture.showSigns(false);
    const line = new THREE.MeshBasicMaterial({ color: colour('ochre'), transparent: true, opacity: 0.85 });
    line.depthTest = false;
    this.#ring = new THREE.Mesh(new THREE.RingGeometry(0.96, 1, 48), line);
    this.#ring.visible = false;
    this.#ring.renderOrder = 3;
    scene.add(this.#body, this.#joints, this.#ring);
    this.recolour();
  }

  recolour(): void {
    this.#picture.backdrop.theme(themeNow());
    if (this.#shown) this.#drawJoints(this.#shown);
    this.ask();
  }

  resize(width: number, height: number): void {
    this.#size = { width: Math.max(1, width), height: Math.max(1, height) };
    this.#renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
    this.#renderer.setSize(this.#size.width, this.#size.height, false);
    this.ask();
  }

  /** Draws at the next frame. */
  ask = (): void => {
    if (this.#asked) return;
    this.#asked = requestAnimationFrame(() => {
      this.#asked = 0;
      this.eye.aim(this.#size.width / this.#size.height);
      this.#renderer.render(this.#picture.scene, this.eye.camera);
    });
  };

  show(shown: Shown): void {
    const before = this.#shown;
    this.#shown = shown;
    const { build, trial } = shown;
    if (build.meshes !== this.#meshes) this.#makeBody(build);
    this.#body.visible = this.#joints.visible = trial === null;
    this.#try(trial);
    this.tint();
    for (const mesh of this.#body.children as THREE.Mesh[]) {
      const material = mesh.material as THREE.MeshStandardMaterial;
      const glass = shown.glass && shown.tints === 'none';
      const media = build.meshes[this.#body.children.indexOf(mesh)].material?.picture?.media;
      const map = media && shown.tints === 'none' ? textureOf(media) : null;
      if (material.map !== map) material.needsUpdate = true;
      material.map = map;
      if (material.transparent !== glass) material.needsUpdate = true;
      material.transparent = glass;
      material.opacity = glass ? GLASS : 1;
    }
    this.#drawJoints(shown);
    // What was put elsewhere altogether is looked for there.
    if (!before || this.#isElsewhere(build)) this.bring();
    this.ask();
  }

  #isElsewhere(build: Build): boolean {
    const { min, max } = boxOf(build);
    const far = Math.hypot(...[0, 1, 2].map((c) => (min[c] + max[c]) / 2 - this.#brought[c]));
    return far > 0.35 * Math.hypot(...[0, 1, 2].map((c) => max[c] - min[c]));
  }

  /** Brings all of it into view. */
  bring(): void {
    const build = this.#shown?.build;
    if (!build) return;
    const { min, max } = boxOf(build);
    const box = new THREE.Box3(new THREE.Vector3(...min), new THREE.Vector3(...max));
    this.#brought = box.getCenter(new THREE.Vector3()).toArray();
    this.eye.put([2.4, 1.5, 3.6], [0, 0, 0]);
    this.eye.bring(box);
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    this.#picture.backdrop.cover(sphere.center, Math.max(sphere.radius, 0.3));
    this.ask();
  }

  #makeBody({ meshes }: Build): void {
    const before = this.#meshes.map((mesh, m) => ({ mesh, drawn: this.#body.children[m] as THREE.Mesh }));
    const next = meshes.map(
      (mesh) =>
        before.find((b) => b.mesh.positions === mesh.positions && b.mesh.material === mesh.material)?.drawn ??
        drawn(mesh),
    );
    for (const old of [...this.#body.children] as THREE.Mesh[]) {
      this.#body.remove(old);
      if (!next.includes(old)) old.geometry.dispose();
    }
    if (next.length > 0) this.#body.add(...next);
    this.#meshes = meshes;
  }

  /** Colours the body by how it hangs on its joints. */
  tint(): void {
    const shown = this.#shown;
    if (!shown) return;
    const { build, tints, picked } = shown;
    const shares = tints === 'picked' && picked !== null ? paintingNow()?.sharesOf(picked) : undefined;
    const hues = tints === 'all' ? huesOf(build) : null;
    const mix = new THREE.Color();
    build.meshes.forEach((mesh, m) => {
      const { geometry } = this.#body.children[m] as THREE.Mesh;
      const colours = geometry.getAttribute('color');
      const own = new THREE.Color(mesh.colour);
      for (let v = 0; v < colours.count; v++) {
        if (hues) mixed(mesh, v, hues, mix);
        else if (tints === 'picked') ramp(shares ? shares[m][v] : 0, mix);
        else mix.copy(own);
        colours.setXYZ(v, mix.r, mix.g, mix.b);
      }
      colours.needsUpdate = true;
    });
    this.ask();
  }

  #drawJoints({ build, picked }: Shown): void {
    for (const old of this.#joints.children) {
      const { geometry, material } = old as THREE.Mesh;
      geometry.dispose();
      (material as THREE.Material).dispose();
    }
    this.#joints.clear();
    const { min, max } = boxOf(build);
    const size = Math.max(0.02, max[1] - min[1], max[2] - min[2]) * JOINT;
    const at = new Map(build.joints.map((j) => [j.id, j.place]));
    const lines: number[] = [];
    for (const { parent, place } of build.joints) {
      const from = parent === null ? undefined : at.get(parent);
      if (from) lines.push(...from, ...place);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.Float32BufferAttribute(lines, 3));
    const line = new THREE.LineSegments(
      geometry,
      new THREE.LineBasicMaterial({ color: colour('ink'), depthTest: false }),
    );
    line.renderOrder = 1;
    this.#joints.add(line);
    for (const joint of build.joints) {
      const side = sideOfPlace(joint.place);
      const isPicked = joint.id === picked;
      const tone = isPicked ? 'ochre' : side > 0 ? 'teal' : side < 0 ? 'plum' : 'umber';
      const ball = new THREE.Mesh(
        new THREE.SphereGeometry(isPicked ? size * 1.5 : size, 14, 10),
        new THREE.MeshBasicMaterial({ color: colour(tone), depthTest: false }),
      );
      ball.position.set(...joint.place);
      ball.renderOrder = isPicked ? 3 : 2;
      this.#joints.add(ball);
    }
  }

  #try(trial: Shown['trial']): void {
    if (!trial) {
      this.#picture.cast(emptyShot('built', 'Built', Rigs.none));
      return;
    }
    const { rig, values } = trial;
    const empty = emptyShot('built', 'Built', Rigs.of([rig]));
    const there = bringRig.apply(empty, newRigMembers(empty, { rig: rig.id, version: rig.version, id: 'rig' }));
    const pose = posed(there, { rig: 'rig', pose: values, frame: 1, share: 1 });
    const shot = changeChannels.apply(there, { frame: 1, values: pose, autoKey: 'off' });
    this.#picture.cast(emptyShot('built', 'Built', Rigs.none));
    this.#picture.cast(shot);
    this.#picture.pose(frameOf(shot, 1));
  }

  /** The line of sight through a place of the canvas. */
  ray(x: number, y: number): { readonly origin: Vector; readonly way: Vector } {
    const { width, height } = this.#canvas.getBoundingClientRect();
    this.eye.aim(width / height);
    const caster = new THREE.Raycaster();
    caster.setFromCamera(new THREE.Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), this.eye.camera);
    const { origin, direction } = caster.ray;
    return { origin: [origin.x, origin.y, origin.z], way: [direction.x, direction.y, direction.z] };
  }

  /** Where a place of the rig is on the canvas, in its pixels. */
  onCanvas(place: Vector): { readonly x: number; readonly y: number } {
    const { width, height } = this.#canvas.getBoundingClientRect();
    this.eye.aim(width / height);
    const at = new THREE.Vector3(...place).project(this.eye.camera);
    return { x: ((at.x + 1) / 2) * width, y: ((1 - at.y) / 2) * height };
  }

  /** The joint that a press means; null where none is near. */
  jointAt(x: number, y: number): string | null {
    let best: { id: string; far: number } | null = null;
    for (const { id, place } of this.#shown?.build.joints ?? []) {
      const at = this.onCanvas(place);
      const far = Math.hypot(at.x - x, at.y - y);
      if (far <= NEAR && (!best || far < best.far)) best = { id, far };
    }
    return best?.id ?? null;
  }

  /** Where a joint goes that is dragged from one place of the canvas to another: as far from the eye as it was. */
  dragged(place: Vector, x: number, y: number): Vector {
    const { origin, way } = this.ray(x, y);
    const look = this.eye.camera.getWorldDirection(new THREE.Vector3());
    const deep = look.x * (place[0] - origin[0]) + look.y * (place[1] - origin[1]) + look.z * (place[2] - origin[2]);
    const by = deep / (look.x * way[0] + look.y * way[1] + look.z * way[2]);
    return [origin[0] + way[0] * by, origin[1] + way[1] * by, origin[2] + way[2] * by];
  }

  /** Which way towards the eye is. */
  get look(): Vector {
    const way = this.eye.camera.getWorldDirection(new THREE.Vector3()).negate();
    return [way.x, way.y, way.z];
  }

  /** Shows how far a brush reaches, round a place on the body; nowhere with null. */
  brush(at: Vector | null, reach: number): void {
    this.#ring.visible = at !== null;
    if (at) {
      this.#ring.position.set(...at);
      this.#ring.scale.setScalar(reach);
      this.#ring.quaternion.copy(this.eye.camera.quaternion);
    }
    this.ask();
  }

  dispose(): void {
    cancelAnimationFrame(this.#asked);
    this.eye.dispose();
    this.#picture.dispose();
    this.#renderer.dispose();
  }
}

function drawn(mesh: RigMesh): THREE.Mesh {
  const geometry = new THREE.BufferGeometry();
  const positions = Float32Array.from(mesh.positions, (v) => v * MESH_UNIT);
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(new Float32Array(positions.length), 3));
  geometry.setIndex(mesh.triangles as number[]);
  geometry.computeVertexNormals();
  const places = mesh.material?.picture?.places;
  if (places) {
    const uv = Float32Array.from(places, (v) => v * PICTURE_UNIT);
    geometry.setAttribute('uv', new THREE.BufferAttribute(uv, 2));
  }
  const { roughness, metalness, bothSides } = surfaceOf(mesh);
  const material = new THREE.MeshStandardMaterial({ vertexColors: true, roughness, metalness });
  if (bothSides) material.side = THREE.DoubleSide;
  const out = new THREE.Mesh(geometry, material);
  out.castShadow = out.receiveShadow = true;
  return out;
}

/** A tint for each joint: neighbours far from each other in hue, partners a little apart in lightness. */
function huesOf({ joints }: Build): Map<string, THREE.Color> {
  return new Map(
    joints.map((joint, j) => {
      const hue = (j * 0.381966) % 1;
      return [joint.id, new THREE.Color().setHSL(hue, 0.42, joint.place[0] < 0 ? 0.5 : 0.62)];
    }),
  );
}

function mixed(mesh: RigMesh, vertex: number, hues: ReadonlyMap<string, THREE.Color>, out: THREE.Color): void {
  const { skin } = mesh;
  if (skin.kind === 'rigid') {
    out.copy(hues.get(skin.joint) ?? NONE);
    return;
  }
  out.setRGB(0, 0, 0);
  for (let k = vertex * 4; k < vertex * 4 + 4; k++) {
    if (skin.weights[k] === 0) continue;
    const hue = hues.get(skin.joints[skin.indices[k]])!;
    const share = skin.weights[k] / WHOLE_WEIGHT;
    out.r += hue.r * share;
    out.g += hue.g * share;
    out.b += hue.b * share;
  }
}

const NONE = new THREE.Color('#d8d2c6');
const HALF = new THREE.Color('#d99a32');
const WHOLE = new THREE.Color('#b23519');

/** From paper over ochre to vermilion. */
function ramp(share: number, out: THREE.Color): void {
  if (share < 0.5) out.lerpColors(NONE, HALF, share * 2);
  else out.lerpColors(HALF, WHOLE, share * 2 - 1);
}
