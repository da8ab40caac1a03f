import { type Frame, type NoteView, overDisc, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { Backlog } from '../stage/backlog.ts';
import { motionBounds } from '../stage/picture/motion-bounds.ts';
import { evaluator, ShotPicture, shownMembers } from '../stage/picture/picture.ts';
import { type Lens, lensAt, throughLens, usualView } from '../stage/picture/shot-camera.ts';
import { Accumulator } from './accumulator.ts';
import { eyeOf } from './eye-of.ts';

/** How often it is asked whether a picture is there, and how long others have the graphics card after one, at most; in milliseconds. */
const ASK_EVERY = 4;
const MOST_PAUSE = 500;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** How a picture of a shot is taken. */
export interface View {
  readonly width: number;
  readonly height: number;
  /** A camera of the cast; null for everybody in view. Without it, as the shot's cuts say. */
  readonly camera?: string | null;
  /** As somebody looked at the stage, through no camera of the cast. */
  readonly look?: NoteView;
  /** How many times each picture is looked at, through a lens that is open and by a sun that is no point; 1 is a draft. */
  readonly samples?: number;
  readonly theme: 'light' | 'night';
}

/**
 * Takes pictures of a shot on a canvas of its own, in a worker or, where a worker cannot draw, on the page. Stills, the
 * pose strip, cards, contact sheets and movies are all taken here, so they look alike.
 */
export class Studio {
  readonly canvas: OffscreenCanvas;
  readonly #renderer: THREE.WebGLRenderer;
  readonly #backlog: Backlog;
  readonly #picture = new ShotPicture();
  readonly #camera = new THREE.PerspectiveCamera();
  #shot: Shot | null = null;
  #at: ((time: number) => Frame) | null = null;
  #bounds: THREE.Box3 | null = null;
  #accumulator: Accumulator | null = null;
  /** What the picture taken last was seen through, and how large it is. */
  #seenBy: { readonly eye: THREE.Camera; readonly width: number; readonly height: number } | null = null;

  constructor() {
    this.canvas = new OffscreenCanvas(16, 16);
    this.#renderer = new THREE.WebGLRenderer({ canvas: this.canvas, antialias: true, preserveDrawingBuffer: true });
    this.#backlog = new Backlog(this.#renderer.getContext() as WebGL2RenderingContext);
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
    const { width, height, look } = view;
    const aspect = width / height;
    const through = usualView(this.#camera, shot, frame, aspect, () => this.#everything(shot), view.camera);
    const eye = look && !look.camera ? eyeOf(look, aspect) : this.#camera;
    this.#seenBy = { eye, width, height };
    this.#picture.coverAll(shot, frame);
    const samples = view.samples ?? 1;
    if (eye !== this.#camera) this.#renderer.render(this.#picture.scene, eye);
    else if (samples > 1) this.#final(samples, lensAt(this.#camera, shot, through, frame), view);
    else this.#renderer.render(this.#picture.scene, this.#camera);
  }

  /**
   * Waits until the graphics card is through with the picture, and as long again: what the stage asks of it meanwhile should not wait behind
   * a row of small pictures.
   */
  async through(): Promise<void> {
    const begun = performance.now();
    this.#backlog.note(begun);
    while (this.#backlog.isAtWork(performance.now())) await pause(ASK_EVERY);
    await pause(Math.min(performance.now() - begun, MOST_PAUSE));
  }

  /** Where a place of the world is in the picture taken last, pixels; null behind the eye. */
  seen(place: readonly [number, number, number]): readonly [x: number, y: number] | null {
    if (!this.#seenBy) return null;
    const { eye, width, height } = this.#seenBy;
    const at = new THREE.Vector3(...place).project(eye);
    return at.z > 1 ? null : [((at.x + 1) / 2) * width, ((1 - at.y) / 2) * height];
  }

  /** The mean of many looks, through all of the lens and by all of the sun. */
  #final(samples: number, lens: Lens | null, view: View): void {
    this.#accumulator ??= new Accumulator(this.#renderer);
    const { backdrop, scene } = this.#picture;
    const disc = overDisc(samples);
    this.#accumulator.mean(samples, (sample) => {
      const [x, y] = [disc[sample * 2], disc[sample * 2 + 1]];
      // The sun's disc is gone over in another order than the lens: together they would be one shift.
      const other = (sample * 7) % samples;
      backdrop.fromBeside(disc[other * 2], disc[other * 2 + 1]);
      const back = lens ? throughLens(this.#camera, lens, x, y, view) : null;
      this.#renderer.render(scene, this.#camera);
      back?.();
    });
    backdrop.fromBeside(0, 0);
  }

  /** Lets go of the graphics card. */
  close(): void {
    this.#accumulator?.dispose();
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
