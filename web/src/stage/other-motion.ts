import { type Frame, movedApart, type Shot } from '@varrup/core';
import * as THREE from 'three';
import type { Compare } from '../review/compare.ts';
import { colour } from '../ui/theme.ts';
import { evaluator, ShotPicture } from './picture/picture.ts';

/** Another motion that is looked at with that of the shot: beside it, from a line on, over it, or only where it differs. */
export class OtherMotion {
  readonly #picture = new ShotPicture();
  readonly #ghost = new THREE.MeshLambertMaterial({ transparent: true, opacity: 0.55 });
  #of: Shot | null = null;
  #at: ((time: number) => Frame) | null = null;

  constructor() {
    this.#picture.showSigns(false);
  }

  /**
   * Takes over how the other motion is at a moment.
   * @returns members that are elsewhere than in the shot by more than the tolerance, in metres
   */
  show({ other, offset, tolerance, mode }: Compare, frame: Frame): Map<string, number> {
    if (!other) return new Map();
    if (other !== this.#of || !this.#at) {
      this.#of = other;
      this.#at = evaluator(other);
    }
    this.#picture.cast(other);
    const there = this.#at(frame.at + offset);
    const apart = movedApart(frame, there);
    const moved = new Map([...apart].filter(([, metres]) => metres > tolerance));
    // Over the shot only what moves otherwise is drawn, so that what is the same does not lie in itself.
    this.#picture.only = mode === 'over' || mode === 'difference' ? new Set(moved.keys()) : null;
    this.#picture.pose(there);
    this.#picture.coverAll(other, there);
    return moved;
  }

  /** Draws it as a picture of its own. */
  draw(renderer: THREE.WebGLRenderer, camera: THREE.Camera): void {
    this.#picture.backdrop.group.visible = true;
    this.#picture.scene.overrideMaterial = null;
    renderer.render(this.#picture.scene, camera);
  }

  /** Draws its bodies over what is drawn already. */
  drawOver(renderer: THREE.WebGLRenderer, camera: THREE.Camera): void {
    this.#ghost.color.set(colour('ochre'));
    this.#picture.backdrop.group.visible = false;
    const { background } = this.#picture.scene;
    this.#picture.scene.background = null;
    this.#picture.scene.overrideMaterial = this.#ghost;
    renderer.render(this.#picture.scene, camera);
    this.#picture.scene.background = background;
    this.#picture.scene.overrideMaterial = null;
    this.#picture.backdrop.group.visible = true;
  }

  theme(theme: 'light' | 'night'): void {
    this.#picture.backdrop.theme(theme);
  }

  dispose(): void {
    this.#picture.dispose();
    this.#ghost.dispose();
  }
}
