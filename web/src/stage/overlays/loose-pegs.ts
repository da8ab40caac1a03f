import { looseStanding } from '@varrup/core';
import * as THREE from 'three';
import { looseMembers } from '../../cast/loose-members.ts';
import { colour } from '../../ui/theme.ts';
import type { Moment } from '../moment.ts';
import type { Overlay } from './overlay.ts';

/** How large a peg is, in pixels, and how far it leans, as in the sheet and beside the channels. */
const SIZE = 18;
const LEAN = (28 * Math.PI) / 180;

/** A leaning peg on everybody who has a change that is loose on this frame. */
export class LoosePegs implements Overlay {
  readonly scene = new THREE.Scene();
  readonly #material = new THREE.PointsMaterial({
    size: SIZE * devicePixelRatio,
    sizeAttenuation: false,
    transparent: true,
    depthTest: false,
  });
  readonly #points = new THREE.Points(new THREE.BufferGeometry(), this.#material);

  constructor() {
    this.#points.frustumCulled = false;
    this.scene.add(this.#points);
    this.recolour();
  }

  show({ shot, frame }: Moment): void {
    this.scene.visible = shot.loose.size > 0;
    if (!this.scene.visible) return;
    const places: number[] = [];
    for (const id of looseMembers(looseStanding(shot.loose, frame.at))) {
      const slot = frame.layout.slotOf.get(id);
      if (slot !== undefined) places.push(...frame.world.subarray(slot * 16 + 12, slot * 16 + 15));
    }
    this.#points.geometry.dispose();
    this.#points.geometry = new THREE.BufferGeometry();
    this.#points.geometry.setAttribute('position', new THREE.Float32BufferAttribute(places, 3));
  }

  recolour(): void {
    this.#material.map?.dispose();
    this.#material.map = pegTexture();
    this.#material.needsUpdate = true;
  }

  dispose(): void {
    this.#points.geometry.dispose();
    this.#material.map?.dispose();
    this.#material.dispose();
  }
}

function pegTexture(): THREE.Texture {
  const canvas = new OffscreenCanvas(64, 64);
  const context = canvas.getContext('2d')!;
  context.translate(32, 32);
  context.rotate(LEAN);
  context.beginPath();
  context.roundRect(-10, -24, 20, 48, 10);
  context.fillStyle = colour('card');
  context.fill();
  context.lineWidth = 6;
  context.strokeStyle = colour('ink');
  context.stroke();
  const texture = new THREE.CanvasTexture(canvas as unknown as HTMLCanvasElement);
  texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}
