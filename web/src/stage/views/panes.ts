import * as THREE from 'three';

/** One view of the stage: where it is in the window, in pixels from its top left, and what it is seen through. */
export interface Pane {
  readonly name: 'free' | 'top' | 'front' | 'side';
  readonly camera: THREE.Camera;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Far enough that nothing of a shot stands behind a flat view. */
const FAR = 200;

/** Top, front and side beside the free view: all of the same place, at the same scale. */
export class FourViews {
  readonly #cameras = {
    top: new THREE.OrthographicCamera(-1, 1, 1, -1, -FAR, FAR * 2),
    front: new THREE.OrthographicCamera(-1, 1, 1, -1, -FAR, FAR * 2),
    side: new THREE.OrthographicCamera(-1, 1, 1, -1, -FAR, FAR * 2),
  };

  /** The four panes of a window; the free view is at the upper left. */
  panes(width: number, height: number, free: THREE.Camera): Pane[] {
    // Whole pixels, so that no line of another colour shows between two panes.
    const [w, h] = [Math.round(width / 2), Math.round(height / 2)];
    const pane = (name: Pane['name'], camera: THREE.Camera, column: number, row: number): Pane => ({
      name,
      camera,
      x: column * w,
      y: row * h,
      width: column === 0 ? w : width - w,
      height: row === 0 ? h : height - h,
    });
    return [
      pane('free', free, 0, 0),
      pane('top', this.#cameras.top, 1, 0),
      pane('front', this.#cameras.front, 0, 1),
      pane('side', this.#cameras.side, 1, 1),
    ];
  }

  /** Aims the three flat views at a place, `half` metres of which fit above and below it. */
  aim(target: THREE.Vector3, half: number, aspect: number): void {
    const directions = { top: [0, 1, 0], front: [0, 0, 1], side: [1, 0, 0] } as const;
    for (const name of ['top', 'front', 'side'] as const) {
      const camera = this.#cameras[name];
      Object.assign(camera, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
      camera.up.set(0, name === 'top' ? 0 : 1, name === 'top' ? -1 : 0);
      camera.position.copy(target).add(new THREE.Vector3(...directions[name]));
      camera.lookAt(target);
      camera.updateProjectionMatrix();
      camera.updateMatrixWorld();
    }
  }
}

/** The pane a place in the window belongs to. */
export const paneAt = (panes: readonly Pane[], x: number, y: number): Pane =>
  panes.find((p) => x >= p.x && x < p.x + p.width && y >= p.y && y < p.y + p.height) ?? panes[0];

/** A place in the window as the camera of a pane counts: from -1 to 1, right and up. */
export const inPane = (pane: Pane, x: number, y: number): THREE.Vector2 =>
  new THREE.Vector2(((x - pane.x) / pane.width) * 2 - 1, 1 - ((y - pane.y) / pane.height) * 2);

/** A place of the world in the window, in pixels. */
export function onPane(pane: Pane, place: THREE.Vector3): [x: number, y: number] {
  const p = place.clone().project(pane.camera);
  return [pane.x + ((p.x + 1) / 2) * pane.width, pane.y + ((1 - p.y) / 2) * pane.height];
}
