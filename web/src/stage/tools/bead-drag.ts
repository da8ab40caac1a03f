import { changeChannels, channelPath, keyIndexAt, type Shot, slideBead } from '@varrup/core';
import { max, min } from 'd3';
import * as THREE from 'three';
import type { Preview } from '../../shot/previews.ts';
import { live } from '../../view/live.ts';
import type { Bead } from '../overlays/arcs.ts';
import { onPane, type Pane } from '../views/panes.ts';

/**
 * A bead under a hand. One with a key goes where the hand goes, in the plane one sees; any other slides along the arc, so that
 * only the spacing changes.
 */
export class BeadDrag {
  readonly bead: Bead;
  readonly #shot: Shot;
  readonly #pane: Pane;
  readonly #preview: Preview;
  readonly #plane = new THREE.Plane();
  readonly #paths: readonly string[];
  /** From the world into the member's parent, for directions. */
  readonly #into: THREE.Matrix3;
  readonly #values: ReadonlyMap<string, number>;
  /** The stretch of the arc it may slide along. */
  readonly #way: readonly Bead[];

  constructor(shot: Shot, bead: Bead, beads: readonly Bead[], pane: Pane, preview: Preview) {
    this.#preview = preview;
    this.bead = bead;
    this.#shot = shot;
    this.#pane = pane;
    this.#paths = ['x', 'y', 'z'].map((c) => channelPath(bead.member, `move.${c}`)).filter((p) => shot.curves.has(p));
    const frame = live.sample(bead.frame)!;
    const slot = frame.layout.slotOf.get(bead.member)!;
    const parent = frame.layout.space[slot];
    const matrix = parent < 0 ? new THREE.Matrix4() : new THREE.Matrix4().fromArray(frame.world, parent * 16);
    this.#into = new THREE.Matrix3().setFromMatrix4(matrix).invert();
    this.#values = new Map(this.#paths.map((p) => [p, frame.value(bead.member, p.slice(bead.member.length + 1)) ?? 0]));
    this.#plane.setFromNormalAndCoplanarPoint(pane.camera.getWorldDirection(new THREE.Vector3()), bead.place);
    const keyed = this.#paths.flatMap((p) => shot.curves.at(p).keys.map((k) => k.frame));
    const before = max(keyed.filter((f) => f < bead.frame)) ?? Number.NEGATIVE_INFINITY;
    const after = min(keyed.filter((f) => f > bead.frame)) ?? Number.POSITIVE_INFINITY;
    this.#way = beads.filter((b) => b.member === bead.member && b.frame >= before && b.frame <= after);
  }

  /** Shows what the drag does with the hand at a place in the window. */
  to(ray: THREE.Ray, x: number, y: number): void {
    if (this.bead.role === 'between') this.#slide(x, y);
    else this.#place(ray);
  }

  #place(ray: THREE.Ray): void {
    const at = ray.intersectPlane(this.#plane, new THREE.Vector3());
    if (!at) return;
    const by = at.sub(this.bead.place).applyMatrix3(this.#into);
    const values: Record<string, number> = {};
    for (const path of this.#paths) {
      const axis = path.at(-1) as 'x' | 'y' | 'z';
      const here = keyIndexAt(this.#shot.curves.at(path).keys, this.bead.frame) >= 0;
      if (here || Math.abs(by[axis]) > 1e-6) values[path] = this.#values.get(path)! + by[axis];
    }
    this.#preview.show(changeChannels, { frame: this.bead.frame, values, autoKey: 'animated' });
  }

  /** Finds the place of the arc nearest to the hand, and the moment that goes with it. */
  #slide(x: number, y: number): void {
    let best = { distance: Number.POSITIVE_INFINITY, frame: this.bead.frame };
    const screen = this.#way.map((b) => ({ frame: b.frame, at: onPane(this.#pane, b.place) }));
    for (let i = 0; i + 1 < screen.length; i++) {
      const [a, b] = [screen[i], screen[i + 1]];
      const [dx, dy] = [b.at[0] - a.at[0], b.at[1] - a.at[1]];
      const length = dx * dx + dy * dy;
      const share = length > 0 ? Math.min(1, Math.max(0, ((x - a.at[0]) * dx + (y - a.at[1]) * dy) / length)) : 0;
      const distance = Math.hypot(a.at[0] + dx * share - x, a.at[1] + dy * share - y);
      if (distance < best.distance) best = { distance, frame: a.frame + (b.frame - a.frame) * share };
    }
    this.#preview.show(slideBead, { paths: this.#paths, frame: this.bead.frame, to: best.frame });
  }
}
