import type { Frame, Shot } from '@varrup/core';
import * as THREE from 'three';
import { motionBounds } from '../stage/picture/motion-bounds.ts';
import { evaluator, ShotPicture, shownMembers } from '../stage/picture/picture.ts';
import { usualView } from '../stage/picture/shot-camera.ts';

/** How a picture of a shot is taken. */
export interface View {
  readonly width: number;
  readonly height: number;
  /** A camera of the cast; without one, the shot's usual view. */
  readonly camera?: string;
  readonly theme: 'light' | 'night';
}

/**
 * Takes pictures of a shot on a canvas of its own, in a worker or, where a worker cannot draw, on the page. Stills, the
 * pose strip, cards, contact sheets and movies are all taken here, so they look alike.
 */
export class Studio {
  readonly canvas: OffscreenCanvas;
  readonly #renderer: THREE.WebGLRenderer;
  readonly #picture = new ShotPicture();
  readonly #camera = new THREE.PerspectiveCamera();
  #shot: Shot | null = null;
  #at: ((time: number) => Frame) | null = null;
  #bounds: THREE.Box3 | null = null;

  constructor() {
    this.canvas = new OffscreenCanvas(16, 16);
    this.#renderer = new THREE.WebGLRenderer({ canvas: this.canvas, antialias: true, preserveDrawingBuffer: true });
    this.#renderer.shadowMap.enabled = true;
    this.#renderer.shadowMap.type = THREE.PCFShadowMap;
    this.#picture.showSigns(false);
  }

  /** Draws a frame of a shot onto `canvas`. */
  take(shot: Shot, time: number, view: View): void {
    if (shot !== this.#shot || !this.#at) {
      this.#shot = shot;
      this.#at = evaluator(shot);
      this.#bounds = null;
      this.#picture.cast(shot);
    }
    const frame = this.#at(time);
    if (this.canvas.width !== view.width || this.canvas.height !== view.height) {
      this.#renderer.setSize(view.width, view.height, false);
    }
    this.#picture.backdrop.theme(view.theme);
    this.#picture.backdrop.shadowSize(view.width < 320 ? 512 : 2048);
    this.#picture.pose(frame);
    const aspect = view.width / view.height;
    usualView(this.#camera, shot, frame, aspect, () => this.#everything(shot), view.camera);
    this.#picture.coverAll(shot, frame);
    this.#renderer.render(this.#picture.scene, this.#camera);
  }

  /** Lets go of the graphics card. */
  close(): void {
    this.#picture.dispose();
    this.#renderer.dispose();
    this.#renderer.forceContextLoss();
  }

  /** All that moves in the shot. An evaluator of its own looks for it: the frame in hand stays as it is. */
  #everything(shot: Shot): THREE.Box3 {
    this.#bounds ??= motionBounds(shot, evaluator(shot), shownMembers(shot));
    return this.#bounds;
  }
}
