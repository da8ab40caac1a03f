import { changeChannels, type Frame, isLocked, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { keyFrames } from '../commands/channel-paths.ts';
import { useShot } from '../shot/shot-store.ts';
import { onEscape } from '../ui/on-escape.ts';
import { colour, themeNow } from '../ui/theme.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { type Looking, useView } from '../view/view-store.ts';
import { Drag, handlePlace } from './dragging.ts';
import { type Grip, Handles } from './handles.ts';
import { evaluator, ShotPicture, shownMembers, worldBounds } from './picture.ts';
import { Quality } from './quality.ts';
import { camerasOf, throughCamera } from './shot-camera.ts';

/** What the pointer is doing on the stage. */
type Press =
  | { readonly kind: 'handle'; readonly drag: Drag }
  | {
      readonly kind: 'box';
      readonly from: readonly [number, number];
      readonly how: 'only' | 'add' | 'toggle';
      moved: boolean;
    };

/**
 * The stage: the shot in a window one can reach into. It draws when something changed and not otherwise, and goes over
 * to a lighter picture by itself where the full one is too slow to work with.
 */
export class Stage {
  readonly #canvas: HTMLCanvasElement;
  readonly #box: HTMLElement;
  readonly #renderer: THREE.WebGLRenderer;
  readonly #picture = new ShotPicture();
  readonly #handles: Handles;
  readonly #free = new THREE.PerspectiveCamera(30, 1, 0.02, 500);
  readonly #flat = new THREE.OrthographicCamera(-1, 1, 1, -1, -200, 500);
  readonly #shotCamera = new THREE.PerspectiveCamera(30, 1, 0.05, 500);
  readonly #orbit: OrbitControls;
  readonly #ray = new THREE.Raycaster();
  readonly #quality = new Quality();
  readonly #endings: (() => void)[] = [];
  #width = 1;
  #height = 1;
  #press: Press | null = null;
  #framed = false;
  /** Whether a hand is going round the stage. */
  #orbiting = false;
  /** The drawing asked for; 0 when none is. */
  #request = 0;
  /** Called with the state of the picture after each drawing, for tests and for the note on draft quality. */
  onDrawn: (draft: boolean) => void = () => {};

  constructor(canvas: HTMLCanvasElement, box: HTMLElement) {
    this.#canvas = canvas;
    this.#box = box;
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    this.#renderer.shadowMap.enabled = true;
    this.#renderer.shadowMap.type = THREE.PCFShadowMap;
    this.#renderer.autoClear = false;
    this.#handles = new Handles(() => ({
      x: colour('axis-x'),
      y: colour('axis-y'),
      z: colour('axis-z'),
      all: colour('ink'),
    }));
    this.#ray.params.Line.threshold = 0.06;

    this.#orbit = new OrbitControls(this.#free, canvas);
    this.#orbit.mouseButtons = { LEFT: null, MIDDLE: THREE.MOUSE.PAN, RIGHT: THREE.MOUSE.ROTATE };
    this.#orbit.zoomToCursor = true;
    this.#orbit.addEventListener('change', () => {
      if (useView.getState().looking !== 'free' && useView.getState().looking !== 'camera') this.#leaveSide();
      this.draw();
    });
    this.#free.position.set(2.2, 2, 7);
    this.#orbit.target.set(0, 0.7, 0);
    this.#orbit.update();

    const size = new ResizeObserver(() => this.#resize());
    size.observe(canvas.parentElement!);
    this.#endings.push(
      () => size.disconnect(),
      live.listen(() => this.draw()),
      useView.subscribe((view, old) => {
        if (view.looking !== old.looking || view.flat !== old.flat) this.#look(view.looking);
        this.draw();
      }),
    );
    this.#listen();
    this.#resize();
  }

  close(): void {
    for (const end of this.#endings) end();
    this.#orbit.dispose();
    this.#picture.dispose();
    this.#renderer.dispose();
  }

  /** The theme has changed. */
  recolour = (): void => {
    this.#picture.look.theme(themeNow());
    this.#handles.recolour();
    this.draw();
  };

  /** Brings the picked members, or everything, into the window. */
  frame(what: 'selected' | 'all'): void {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot || !frame) return;
    const { selection } = useView.getState();
    const ids = what === 'selected' && selection.length > 0 ? selection : shownMembers(shot);
    this.#frameBox(worldBounds(shot, frame, ids));
    if (useView.getState().looking === 'camera') useView.getState().set({ looking: 'free' });
  }

  /** The first look at a shot: a little from the side and above, on wherever something moves in it. */
  #frameAction(shot: Shot): void {
    this.#free.position.copy(this.#orbit.target).add(new THREE.Vector3(0.32, 0.3, 1));
    const moving = Object.keys(shot.members).filter((id) =>
      Object.keys(shot.curves).some((p) => p.startsWith(`${id}.`)),
    );
    const at = evaluator(shot);
    const box = new THREE.Box3();
    for (const time of keyFrames(shot, moving)) box.union(worldBounds(shot, at(time), moving));
    this.#frameBox(moving.length > 0 ? box : worldBounds(shot, at(shot.play.first), shownMembers(shot)));
  }

  #frameBox(box: THREE.Box3): void {
    if (box.isEmpty()) box.setFromCenterAndSize(new THREE.Vector3(0, 0.5, 0), new THREE.Vector3(2, 1, 2));
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    const half = THREE.MathUtils.degToRad(this.#free.fov / 2);
    const narrow = Math.min(half, Math.atan(Math.tan(half) * (this.#width / this.#height)));
    const distance = Math.max(sphere.radius * 1.1, 0.25) / Math.sin(narrow);
    const direction = this.#free.position.clone().sub(this.#orbit.target).normalize();
    this.#orbit.target.copy(sphere.center);
    this.#free.position.copy(sphere.center).addScaledVector(direction, distance);
    this.#orbit.update();
    this.draw();
  }

  /** Goes round what is looked at, by angles in radians. */
  orbitBy(round: number, up: number): void {
    const offset = new THREE.Spherical().setFromVector3(this.#free.position.clone().sub(this.#orbit.target));
    offset.theta -= round;
    offset.phi = Math.min(Math.PI - 0.01, Math.max(0.01, offset.phi - up));
    this.#free.position.setFromSpherical(offset).add(this.#orbit.target);
    this.#orbit.update();
    this.draw();
  }

  /** Goes nearer (below 1) or further away. */
  zoomBy(factor: number): void {
    const offset = this.#free.position.clone().sub(this.#orbit.target).multiplyScalar(factor);
    this.#free.position.copy(this.#orbit.target).add(offset);
    this.#orbit.update();
    this.draw();
  }

  /** The camera one looks through. */
  get camera(): THREE.Camera {
    const { looking, flat } = useView.getState();
    if (looking === 'camera' && camerasOf(useShot.getState().shot!).length > 0) return this.#shotCamera;
    return flat ? this.#flat : this.#free;
  }

  /** Where a place of the world is in the window, in pixels from its top left. */
  onScreen(place: THREE.Vector3): [number, number] {
    const p = place.clone().project(this.camera);
    return [((p.x + 1) / 2) * this.#width, ((1 - p.y) / 2) * this.#height];
  }

  /** Asks for a drawing at the next refresh. */
  draw = (): void => {
    if (this.#request !== 0) return;
    this.#request = requestAnimationFrame(() => {
      this.#request = 0;
      this.#drawNow();
    });
  };

  #drawNow(): void {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot || !frame || this.#width < 2) return;
    this.#picture.cast(shot.members);
    this.#picture.pose(frame);
    if (!this.#framed) {
      this.#framed = true;
      this.#frameAction(shot);
    }
    this.#aim(shot, frame);
    this.#mark(shot);
    const view = useView.getState();
    const place = usePlayhead.getState().playing ? null : handlePlace(shot, frame, view);
    this.#handles.place(place && { ...place, tool: view.tool, locks: view.locks }, this.camera);

    const begun = performance.now();
    this.#renderer.clear();
    this.#renderer.render(this.#picture.scene, this.camera);
    this.#renderer.clearDepth();
    this.#renderer.render(this.#handles.scene, this.camera);
    this.#judge(begun);
    this.onDrawn(this.#quality.draft);
  }

  /** Measures how long a picture takes and changes its quality where needed. Asking for a pixel waits for the drawing. */
  #judge(begun: number): void {
    const gl = this.#renderer.getContext();
    if (this.#quality.wants()) gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    if (this.#quality.took(performance.now() - begun)) {
      this.#picture.look.shadowSize(this.#quality.draft ? 512 : 2048);
      this.#renderer.setPixelRatio(this.#quality.draft ? Math.min(1, devicePixelRatio) : devicePixelRatio);
      this.draw();
    }
  }

  #aim(shot: Shot, frame: Frame): void {
    const aspect = this.#width / this.#height;
    const offset = this.#free.position.clone().sub(this.#orbit.target);
    const distance = offset.length();
    this.#free.aspect = aspect;
    this.#free.near = Math.max(0.005, distance / 200);
    this.#free.far = distance * 40 + 100;
    this.#free.updateProjectionMatrix();
    this.#free.updateMatrixWorld();
    const half = distance * Math.tan(THREE.MathUtils.degToRad(this.#free.fov / 2));
    Object.assign(this.#flat, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
    this.#flat.position.copy(this.#free.position);
    this.#flat.quaternion.copy(this.#free.quaternion);
    this.#flat.updateProjectionMatrix();
    this.#flat.updateMatrixWorld();
    const camera = camerasOf(shot)[0];
    if (camera) this.#throughShot(camera.id, frame, aspect);
    const looking = this.camera === this.#shotCamera;
    this.#orbit.enabled = !looking;
    this.#picture.showSigns(!looking);
    this.#picture.coverAll(shot, frame);
  }

  /** Shows all that the shot's camera will see, whatever the window's shape; the guide marks its edges. */
  #throughShot(id: string, frame: Frame, aspect: number): void {
    if (!throughCamera(this.#shotCamera, id, frame, aspect)) return;
    const film = 16 / 9;
    if (aspect < film) {
      const half = Math.tan(THREE.MathUtils.degToRad(this.#shotCamera.fov / 2));
      this.#shotCamera.fov = THREE.MathUtils.radToDeg(2 * Math.atan((half * film) / aspect));
      this.#shotCamera.updateProjectionMatrix();
    }
  }

  #mark(shot: Shot): void {
    const marks = new Map<string, string>();
    const { selection } = useView.getState();
    for (const id of selection) marks.set(id, colour('blue'));
    for (const path of Object.keys(shot.loose)) marks.set(path.slice(0, path.indexOf('.')), colour('ochre'));
    this.#picture.mark(marks);
  }

  #look(looking: Looking): void {
    if (looking === 'free' || looking === 'camera') {
      this.draw();
      return;
    }
    const { target } = this.#orbit;
    const distance = this.#free.position.distanceTo(target);
    // Straight down has no sideways of its own; a hair off it the picture stands the right way up.
    const directions = { front: [0, 0, 1], side: [1, 0, 0], top: [0, 1, 1e-4] } as const;
    this.#free.position.copy(target).addScaledVector(new THREE.Vector3(...directions[looking]).normalize(), distance);
    this.#orbit.update();
    this.draw();
  }

  #leaveSide(): void {
    if (this.#orbiting) useView.getState().set({ looking: 'free' });
  }

  #resize(): void {
    const { clientWidth, clientHeight } = this.#canvas.parentElement!;
    this.#width = Math.max(1, clientWidth);
    this.#height = Math.max(1, clientHeight);
    this.#renderer.setPixelRatio(this.#quality.draft ? Math.min(1, devicePixelRatio) : devicePixelRatio);
    this.#renderer.setSize(this.#width, this.#height, false);
    this.draw();
  }

  // Pointer

  #listen(): void {
    const on = <K extends keyof HTMLElementEventMap>(type: K, handler: (event: HTMLElementEventMap[K]) => void) => {
      this.#canvas.addEventListener(type, handler);
      this.#endings.push(() => this.#canvas.removeEventListener(type, handler));
    };
    on('pointerdown', (event) => (event.button === 0 ? this.#down(event) : undefined));
    on('pointermove', (event) => this.#move(event));
    on('pointerup', (event) => this.#up(event));
    on('pointercancel', () => this.#cancel());
    on('contextmenu', (event) => event.preventDefault());
    this.#orbit.addEventListener('start', () => {
      this.#orbiting = true;
    });
    this.#orbit.addEventListener('end', () => {
      this.#orbiting = false;
    });
    this.#endings.push(
      onEscape(() => {
        const dragging = this.#press !== null;
        this.#cancel();
        return dragging;
      }),
    );
  }

  #aimRay(event: PointerEvent): THREE.Ray {
    const [x, y] = this.#at(event);
    this.#ray.setFromCamera(new THREE.Vector2((x / this.#width) * 2 - 1, 1 - (y / this.#height) * 2), this.camera);
    return this.#ray.ray;
  }

  #at(event: PointerEvent): [number, number] {
    const box = this.#canvas.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  }

  #down(event: PointerEvent): void {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot || !frame) return;
    this.#canvas.setPointerCapture(event.pointerId);
    const ray = this.#aimRay(event);
    const grip = this.#handles.hit(this.#ray);
    if (grip) {
      usePlayhead.getState().stop();
      this.#press = { kind: 'handle', drag: new Drag(grip, shot, frame, useView.getState(), this.camera, ray) };
      return;
    }
    const how = event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
    this.#press = { kind: 'box', from: this.#at(event), how, moved: false };
  }

  #move(event: PointerEvent): void {
    const ray = this.#aimRay(event);
    const press = this.#press;
    if (!press) {
      const grip: Grip | null = this.#handles.hit(this.#ray);
      this.#canvas.style.cursor = grip ? 'grab' : 'default';
      if (this.#handles.hover(grip)) this.draw();
    } else if (press.kind === 'handle') {
      const values = press.drag.to(ray, event.shiftKey);
      const { autoKey } = useView.getState();
      useShot.getState().preview(changeChannels, { frame: usePlayhead.getState().frame, values, autoKey });
    } else {
      const [x, y] = this.#at(event);
      const [left, top] = [Math.min(x, press.from[0]), Math.min(y, press.from[1])];
      const [width, height] = [Math.abs(x - press.from[0]), Math.abs(y - press.from[1])];
      press.moved ||= width + height > 6;
      if (!press.moved) return;
      Object.assign(this.#box.style, {
        display: 'block',
        left: `${left}px`,
        top: `${top}px`,
        width: `${width}px`,
        height: `${height}px`,
      });
    }
  }

  #up(event: PointerEvent): void {
    const press = this.#press;
    this.#press = null;
    this.#box.style.display = 'none';
    if (!press) return;
    if (press.kind === 'handle') {
      useShot.getState().finish();
      return;
    }
    const picked = press.moved ? this.#inBox(press.from, this.#at(event)) : this.#under(event);
    useView.getState().select(picked, press.how);
  }

  #cancel(): void {
    if (this.#press?.kind === 'handle') useShot.getState().cancel();
    this.#press = null;
    this.#box.style.display = 'none';
  }

  #under(event: PointerEvent): string[] {
    const { shot } = useShot.getState();
    this.#aimRay(event);
    for (const { object } of this.#ray.intersectObjects(this.#picture.bodies, true)) {
      const id = object.parent?.userData.member as string | undefined;
      if (id && shot && !isLocked(shot, id)) return [id];
    }
    return [];
  }

  #inBox(a: readonly [number, number], b: readonly [number, number]): string[] {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot || !frame) return [];
    const [x0, x1] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
    const [y0, y1] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
    return frame.layout.ids.filter((id, slot) => {
      if (isLocked(shot, id) || !frame.isVisible(slot)) return false;
      const middle = worldBounds(shot, frame, [id]).getCenter(new THREE.Vector3());
      const [x, y] = this.onScreen(middle);
      return x >= x0 && x <= x1 && y >= y0 && y <= y1;
    });
  }
}
