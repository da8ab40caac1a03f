import { outsideBy, rigAmong, type Shot, supportArea, writeCentre } from '@varrup/core';
import * as THREE from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { colour } from '../../ui/theme.ts';
import type { Moment } from '../moment.ts';
import type { Pane } from '../views/panes.ts';
import type { Overlay } from './overlay.ts';

/** A hair above the floor, so that it is seen on it. */
const LIFT = 0.004;

/** Where the weight of a rig is, and what it stands on: a plumb line, its foot, and the area between what touches the floor. */
export class Balance implements Overlay {
  readonly scene = new THREE.Scene();
  readonly #material = new LineMaterial({ linewidth: 2.2, depthTest: false, transparent: true });
  readonly #lines = new LineSegments2(new LineSegmentsGeometry(), this.#material);
  readonly #area = new THREE.Mesh(
    new THREE.BufferGeometry(),
    new THREE.MeshBasicMaterial({ transparent: true, opacity: 0.22, side: THREE.DoubleSide, depthWrite: false }),
  );
  readonly #centre = new Float64Array(3);

  constructor() {
    this.#lines.frustumCulled = false;
    this.#area.frustumCulled = false;
    this.scene.add(this.#area, this.#lines);
  }

  draw(_: Moment, pane: Pane): void {
    this.#material.resolution.set(pane.width, pane.height);
  }

  dispose(): void {
    this.#lines.geometry.dispose();
    this.#material.dispose();
    this.#area.geometry.dispose();
    (this.#area.material as THREE.Material).dispose();
  }

  /** Shows the balance of the rig that is picked, else of the first. */
  show({ shot, frame, picked, shown }: Moment): void {
    const rig = shown.balance ? (rigAmong(shot, picked) ?? firstRig(shot)) : null;
    const placed = rig === null ? undefined : frame.layout.rigAt.get(frame.layout.slotOf.get(rig) ?? -1);
    this.scene.visible = placed !== undefined && writeCentre(frame, placed, this.#centre);
    if (!placed || !this.scene.visible) return;
    const area = supportArea(shot, frame, placed);
    const [x, y, z] = this.#centre;
    const held = outsideBy(area, x, z) <= 0;
    const tint = colour(held ? 'moss' : 'vermilion');
    this.#material.color.set(tint);
    (this.#area.material as THREE.MeshBasicMaterial).color.set(tint);
    const lines = [x, y, z, x, LIFT, z, ...cross(x, y, z, 0.03), ...ring(x, z, held ? 0.03 : 0.045)];
    for (let i = 0; i < area.length; i++) {
      const [a, b] = [area[i], area[(i + 1) % area.length]];
      lines.push(a[0], LIFT, a[1], b[0], LIFT, b[1]);
    }
    this.#lines.geometry.dispose();
    this.#lines.geometry = new LineSegmentsGeometry().setPositions(lines);
    const points: number[] = [];
    for (let i = 1; i + 1 < area.length; i++) {
      for (const [px, pz] of [area[0], area[i], area[i + 1]]) points.push(px, LIFT / 2, pz);
    }
    this.#area.geometry.dispose();
    this.#area.geometry = new THREE.BufferGeometry().setAttribute(
      'position',
      new THREE.Float32BufferAttribute(points, 3),
    );
  }
}

/** The rig whose balance is shown while none is picked. */
const firstRig = (shot: Shot): string | null => shot.members.values().find((m) => m.kind === 'rig')?.id ?? null;

const cross = (x: number, y: number, z: number, r: number) => [x - r, y, z, x + r, y, z, x, y, z - r, x, y, z + r];

function ring(x: number, z: number, r: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < 20; i++) {
    for (const k of [i, i + 1])
      out.push(x + Math.cos((k * Math.PI) / 10) * r, LIFT, z + Math.sin((k * Math.PI) / 10) * r);
  }
  return out;
}
