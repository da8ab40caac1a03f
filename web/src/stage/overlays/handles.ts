import * as THREE from 'three';
import { colour } from '../../ui/theme.ts';
import type { Axis, Tool } from '../../view/tool.ts';
import type { Moment } from '../moment.ts';
import { AXES, handlePlace, unit } from '../tools/handle-place.ts';
import type { Pane } from '../views/panes.ts';
import type { Overlay } from './overlay.ts';

/**
 * The handles a picked member is moved, turned and sized by. They are drawn over everything, always the same size on
 * the screen, one colour and one letter an axis.
 */
export type Grip = { readonly tool: 'move' | 'turn' | 'size'; readonly axis: Axis | 'all' };

/** How far the handles reach, as a share of the height of the picture. */
const REACH = 0.13;

export class Handles implements Overlay {
  readonly scene = new THREE.Scene();
  readonly #root = new THREE.Group();
  readonly #sets: Record<Grip['tool'], THREE.Group>;
  readonly #materials = new Map<string, THREE.MeshBasicMaterial>();
  #hovered: Grip | null = null;

  constructor() {
    this.#sets = { move: this.#moveSet(), turn: this.#turnSet(), size: this.#sizeSet() };
    this.#root.add(this.#sets.move, this.#sets.turn, this.#sets.size);
    this.scene.add(this.#root);
    this.recolour();
  }

  draw(moment: Moment, pane: Pane): void {
    this.place(handlePlace(moment), pane.camera);
  }

  /** Shows the handles of a tool at a place, along its axes, without the locked ones; null hides them. */
  place(
    at: { tool: Tool; position: THREE.Vector3; axes: THREE.Quaternion; locks: Readonly<Record<Axis, boolean>> } | null,
    camera: THREE.Camera,
  ): void {
    this.#root.visible = at !== null && at.tool !== 'pick';
    if (!at || at.tool === 'pick') return;
    this.#root.position.copy(at.position);
    this.#root.quaternion.copy(at.axes);
    this.#root.scale.setScalar(REACH * screenHeightAt(camera, at.position));
    for (const [tool, set] of Object.entries(this.#sets)) {
      set.visible = tool === at.tool;
      for (const part of set.children)
        part.visible = part.userData.axis === 'all' || !at.locks[part.userData.axis as Axis];
    }
    this.#root.updateMatrixWorld(true);
  }

  /** The handle under a pointer. */
  hit(ray: THREE.Raycaster): Grip | null {
    if (!this.#root.visible) return null;
    const set = Object.values(this.#sets).find((s) => s.visible);
    if (!set) return null;
    const targets = set.children.filter((c) => c.visible).flatMap((c) => c.children.filter((m) => m.userData.hit));
    const hits = ray.intersectObjects(targets, false);
    // The middle wins over the shafts that run into it.
    const best = hits.find((h) => h.object.parent?.userData.axis === 'all') ?? hits[0];
    return (best?.object.parent?.userData as Grip | undefined) ?? null;
  }

  hover(grip: Grip | null): boolean {
    if (grip?.axis === this.#hovered?.axis && grip?.tool === this.#hovered?.tool) return false;
    this.#hovered = grip;
    this.recolour();
    return true;
  }

  recolour(): void {
    for (const [key, material] of this.#materials) {
      const axis = key.slice(key.indexOf(' ') + 1) as Axis | 'all';
      material.color.set(colour(axis === 'all' ? 'ink' : `axis-${axis}`));
      const hot = this.#hovered !== null && key === `${this.#hovered.tool} ${this.#hovered.axis}`;
      material.opacity = hot || this.#hovered === null ? 1 : 0.45;
    }
  }

  dispose(): void {
    for (const material of this.#materials.values()) material.dispose();
    this.#root.traverse((part) => part instanceof THREE.Mesh && part.geometry.dispose());
  }

  #material(grip: Grip): THREE.MeshBasicMaterial {
    const key = `${grip.tool} ${grip.axis}`;
    let material = this.#materials.get(key);
    if (!material) {
      material = new THREE.MeshBasicMaterial({
        transparent: true,
        depthTest: false,
        depthWrite: false,
        side: THREE.DoubleSide,
      });
      this.#materials.set(key, material);
    }
    return material;
  }

  /** A part of a set: what is seen, and around it what a pointer may hit. */
  #part(set: THREE.Group, grip: Grip, seen: THREE.BufferGeometry[], reach: THREE.BufferGeometry): void {
    const part = new THREE.Group();
    part.userData = grip;
    for (const geometry of seen) part.add(new THREE.Mesh(geometry, this.#material(grip)));
    const hit = new THREE.Mesh(reach, new THREE.MeshBasicMaterial({ visible: false, side: THREE.DoubleSide }));
    hit.userData.hit = true;
    part.add(hit);
    if (grip.axis !== 'all') part.quaternion.setFromUnitVectors(unit.y, unit[grip.axis]);
    set.add(part);
  }

  #moveSet(): THREE.Group {
    const set = new THREE.Group();
    for (const axis of AXES) {
      const shaft = new THREE.CylinderGeometry(0.012, 0.012, 0.74, 8).translate(0, 0.49, 0);
      const tip = new THREE.CapsuleGeometry(0.042, 0.1, 4, 12).translate(0, 0.92, 0);
      this.#part(
        set,
        { tool: 'move', axis },
        [shaft, tip, letter(axis, 1.12)],
        new THREE.CylinderGeometry(0.09, 0.09, 1.05, 8).translate(0, 0.62, 0),
      );
    }
    this.#part(
      set,
      { tool: 'move', axis: 'all' },
      [new THREE.TorusGeometry(0.09, 0.014, 8, 32), new THREE.SphereGeometry(0.03, 12, 8)],
      new THREE.SphereGeometry(0.12, 12, 8),
    );
    return set;
  }

  #turnSet(): THREE.Group {
    const set = new THREE.Group();
    for (const axis of AXES) {
      const ring = new THREE.TorusGeometry(0.86, 0.013, 8, 72).rotateX(Math.PI / 2);
      const bead = new THREE.SphereGeometry(0.05, 12, 8).translate(0, 0, 0.86);
      this.#part(
        set,
        { tool: 'turn', axis },
        [ring, bead, letter(axis, 0, 1.02)],
        new THREE.TorusGeometry(0.86, 0.07, 8, 48).rotateX(Math.PI / 2),
      );
    }
    return set;
  }

  #sizeSet(): THREE.Group {
    const set = new THREE.Group();
    for (const axis of AXES) {
      const shaft = new THREE.CylinderGeometry(0.012, 0.012, 0.6, 8).translate(0, 0.42, 0);
      const plate = new THREE.CylinderGeometry(0.1, 0.1, 0.03, 24).translate(0, 0.74, 0);
      this.#part(
        set,
        { tool: 'size', axis },
        [shaft, plate, letter(axis, 0.94)],
        new THREE.CylinderGeometry(0.12, 0.12, 0.95, 8).translate(0, 0.52, 0),
      );
    }
    this.#part(
      set,
      { tool: 'size', axis: 'all' },
      [new THREE.IcosahedronGeometry(0.09, 1)],
      new THREE.SphereGeometry(0.13, 12, 8),
    );
    return set;
  }
}

/** How many metres the height of the picture is at a place. */
export function screenHeightAt(camera: THREE.Camera, place: THREE.Vector3): number {
  if (camera instanceof THREE.OrthographicCamera) return (camera.top - camera.bottom) / camera.zoom;
  if (!(camera instanceof THREE.PerspectiveCamera)) return 1;
  const depth = Math.max(0.01, -place.clone().applyMatrix4(camera.matrixWorldInverse).z);
  return 2 * depth * Math.tan(THREE.MathUtils.degToRad(camera.fov) / 2);
}

/** A letter of thin strokes, standing at a height above the middle. */
function letter(axis: Axis, up: number, out = 0): THREE.BufferGeometry {
  const strokes: Record<Axis, [number, number, number, number][]> = {
    x: [
      [-1, -1, 1, 1],
      [-1, 1, 1, -1],
    ],
    y: [
      [0, -1, 0, 0],
      [0, 0, -1, 1],
      [0, 0, 1, 1],
    ],
    z: [
      [-1, 1, 1, 1],
      [1, 1, -1, -1],
      [-1, -1, 1, -1],
    ],
  };
  const positions: number[] = [];
  const size = 0.045;
  const width = 0.009;
  for (const [x0, y0, x1, y1] of strokes[axis]) {
    const [dx, dy] = [x1 - x0, y1 - y0];
    const length = Math.hypot(dx, dy);
    const [nx, ny] = [(-dy / length) * width, (dx / length) * width];
    const p = (x: number, y: number, s: number): [number, number, number] => [x * size + nx * s, y * size + ny * s, 0];
    const quad = [p(x0, y0, 1), p(x0, y0, -1), p(x1, y1, -1), p(x0, y0, 1), p(x1, y1, -1), p(x1, y1, 1)];
    positions.push(...quad.flat());
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  return geometry.translate(0, up, out);
}
