import { changeChannels, type Frame, holdAt, isLocked, looseStanding, rigAmong, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { bodyPoints } from '../clips/body-points.ts';
import { useWay } from '../clips/way-drawing.ts';
import { rigMeant } from '../commands/rig-meant.ts';
import { membersHere } from '../menus/here.ts';
import { useShot } from '../shot/shot-store.ts';
import { onEscape } from '../ui/on-escape.ts';
import { colour, themeNow } from '../ui/theme.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { rememberView, viewOf } from '../view/shot-views.ts';
import { type Looking, useHabits, useView } from '../view/view-store.ts';
import { Arcs, type Bead } from './arcs.ts';
import { Balance } from './balance.ts';
import { BeadDrag } from './bead-drag.ts';
import { setMembers } from './control-sets.ts';
import { Controls } from './controls.ts';
import { DialDrag } from './dial-drag.ts';
import { Drag, handlePlace } from './dragging.ts';
import { Ghosts } from './ghosts.ts';
import { GroundMarks, isGround } from './ground-marks.ts';
import { type Grip, Handles } from './handles.ts';
import { motionBounds } from './motion-bounds.ts';
import { FourViews, inPane, onPane, type Pane, paneAt } from './panes.ts';
import { evaluator, ShotPicture, shownMembers, worldBounds } from './picture.ts';
import { drawnApart } from './proof.ts';
import { isSoftware, Quality } from './quality.ts';
import { toolFor } from './reach.ts';
import { camerasOf, throughCamera } from './shot-camera.ts';

const NOBODY: readonly string[] = [];

/** What the pointer is doing on the stage. */
type Press =
  | { readonly kind: 'handle'; readonly drag: Drag; readonly frame: number }
  | { readonly kind: 'bead'; readonly drag: BeadDrag }
  /** A control one has pressed and not moved yet. */
  | {
      readonly kind: 'control';
      readonly id: string;
      readonly from: readonly [number, number];
      readonly how: 'only' | 'add' | 'toggle';
      readonly was: boolean;
    }
  | { readonly kind: 'dial'; readonly drag: DialDrag; readonly frame: number }
  | { readonly kind: 'pan'; x: number; y: number }
  | {
      readonly kind: 'box';
      readonly from: readonly [number, number];
      readonly how: 'only' | 'add' | 'toggle';
      moved: boolean;
    };

/** A look that is held so long, in milliseconds, is remembered. */
const LOOK_RESTS = 400;

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
  readonly #quality: Quality;
  readonly #arcs = new Arcs();
  readonly #marks = new GroundMarks();
  #arcsOf: { members: Shot['members']; values: Shot['curves']; selection: readonly string[]; ids: string[] } | null =
    null;
  readonly #ghosts = new Ghosts();
  readonly #controls = new Controls();
  readonly #balance = new Balance();
  /** The members of the hidden control sets, for the sets and the shot they were found for. */
  #hiddenNow: { sets: Shot['sets']; hidden: readonly string[]; ids: ReadonlySet<string> } | null = null;
  readonly #four = new FourViews();
  readonly #endings: (() => void)[] = [];
  #width = 1;
  #height = 1;
  #press: Press | null = null;
  /** Where the right button went down. */
  #rightFrom: [number, number] | null = null;
  readonly #preview = useShot.getState().begin('stage');
  #framed = false;
  #remembering = 0;
  /** The pane the pointer is in. */
  #active: Pane['name'] = 'free';
  /** Whom the camera follows, and where they were. */
  #followed: { id: string; at: THREE.Vector3 } | null = null;
  /** Whether a hand is going round the stage. */
  #orbiting = false;
  /** The drawing asked for; 0 when none is. */
  #request = 0;
  /** Asks now and then whether the picture that is measured is done; 0 where none is. */
  #judging = 0;
  /** Called with the state of the picture after each drawing, for tests and for the note on draft quality. */
  onDrawn: (draft: boolean) => void = () => {};
  /** Called with the bead under the pointer, and with null when there is none any more. */
  onBead: (bead: { text: string; at: [x: number, y: number] } | null) => void = () => {};
  readonly #afterwards = new Set<() => void>();

  constructor(canvas: HTMLCanvasElement, box: HTMLElement) {
    this.#canvas = canvas;
    this.#box = box;
    const draft = isSoftware() && !useHabits.getState().fullPicture;
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: !draft, powerPreference: 'high-performance' });
    this.#quality = new Quality(draft);
    this.#picture.look.shadowSize(this.#quality.draft ? 512 : 2048);
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
      if (this.#framed) this.#remember();
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
      useHabits.subscribe((now, old) => {
        if (
          now.onion !== old.onion ||
          now.arc !== old.arc ||
          now.footprints !== old.footprints ||
          now.bodyArcs !== old.bodyArcs
        )
          this.draw();
      }),
      useWay.subscribe(() => this.draw()),
      usePlayhead.subscribe((now, old) => {
        if (now.playing !== old.playing) this.draw();
      }),
      useView.subscribe((view, old) => {
        if (view.looking !== old.looking || view.flat !== old.flat) this.#look(view.looking);
        this.draw();
      }),
    );
    this.#listen();
    this.#resize();
  }

  close(): void {
    window.clearTimeout(this.#remembering);
    for (const end of this.#endings) end();
    this.#endJudging();
    this.#orbit.dispose();
    this.#arcs.dispose();
    this.#marks.dispose();
    this.#ghosts.dispose();
    this.#controls.dispose();
    this.#balance.dispose();
    this.#picture.dispose();
    this.#renderer.dispose();
  }

  /** Calls back after each drawing, until what it returns is called. */
  afterDrawing(call: () => void): () => void {
    this.#afterwards.add(call);
    return () => this.#afterwards.delete(call);
  }

  /** Where a member's middle is in the window, in pixels; null where it is behind the eye or not there. */
  placeOf(id: string): [x: number, y: number] | null {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot?.members.get(id) || !frame) return null;
    const middle = worldBounds(shot, frame, [id]).getCenter(new THREE.Vector3());
    const [pane] = this.#panes;
    if (middle.clone().project(pane.camera).z > 1) return null;
    return onPane(pane, middle);
  }

  /** How far what is drawn of the rigs is from what is computed, at worst, in metres; null where there is none. */
  prove(): { metres: number; vertices: number } | null {
    const frame = live.now;
    if (!frame || frame.layout.rigs.length === 0) return null;
    const all = frame.layout.rigs.map((rig) => drawnApart(this.#renderer, frame, rig));
    this.#renderer.setSize(this.#width, this.#height, false);
    this.draw();
    return { metres: Math.max(...all.map((a) => a.metres)), vertices: all.reduce((n, a) => n + a.vertices, 0) };
  }

  /** The theme has changed. */
  recolour = (): void => {
    this.#picture.look.theme(themeNow());
    this.#handles.recolour();
    this.#arcs.recolour();
    this.#marks.recolour();
    this.#ghosts.recolour();
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

  /** Looks at a shot from where it was looked at last. @returns whether it ever was */
  #lookAsLast(shot: Shot): boolean {
    const { place, target } = viewOf(shot.id);
    if (!place || !target) return false;
    this.#free.position.set(...place);
    this.#orbit.target.set(...target);
    this.#orbit.update();
    this.#look(useView.getState().looking);
    return true;
  }

  /** Remembers from where the shot is looked at, once the hand has come to rest. */
  #remember(): void {
    window.clearTimeout(this.#remembering);
    this.#remembering = window.setTimeout(() => {
      const { shot } = useShot.getState();
      if (shot && this.#framed)
        rememberView(shot.id, { place: this.#free.position.toArray(), target: this.#orbit.target.toArray() });
    }, LOOK_RESTS);
  }

  /** The first look at a shot: a little from the side and above, on wherever something moves in it. */
  #frameAction(shot: Shot): void {
    this.#free.position.copy(this.#orbit.target).add(new THREE.Vector3(0.32, 0.3, 1));
    const keyed = new Set(shot.curves.keys().map((path) => path.slice(0, path.indexOf('.'))));
    const moving = shot.members.keys().filter((id) => keyed.has(id));
    this.#frameBox(motionBounds(shot, evaluator(shot), moving.length > 0 ? moving : shownMembers(shot)));
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

  /** The camera of the one view, or of the free one of four. */
  get #mainCamera(): THREE.Camera {
    const { looking, flat } = useView.getState();
    if (looking === 'camera' && camerasOf(useShot.getState().shot!).length > 0) return this.#shotCamera;
    return flat ? this.#flat : this.#free;
  }

  get #panes(): Pane[] {
    const camera = this.#mainCamera;
    if (useView.getState().four) return this.#four.panes(this.#width, this.#height, camera);
    return [{ name: 'free', camera, x: 0, y: 0, width: this.#width, height: this.#height }];
  }

  /** The view the pointer is in. */
  get #pane(): Pane {
    const panes = this.#panes;
    return panes.find((p) => p.name === this.#active) ?? panes[0];
  }

  /** Asks for a drawing at the next refresh. */
  draw = (): void => {
    if (this.#request !== 0) return;
    this.#request = requestAnimationFrame(() => {
      this.#request = 0;
      this.#drawNow();
    });
  };

  /**
   * A hand may be quicker than the next drawing, and takes hold of what stands there now: handles, controls, beads and bodies are
   * brought to where they are before it is asked what lies under it.
   */
  #catchUp(): void {
    if (this.#request === 0) return;
    cancelAnimationFrame(this.#request);
    this.#request = 0;
    this.#drawNow();
  }

  #drawNow(): void {
    const { shot } = useShot.getState();
    const frame = live.now;
    if (!shot || !frame || this.#width < 2) return;
    this.#picture.cast(shot);
    this.#picture.showGlass(useView.getState().xray);
    this.#picture.pose(frame);
    if (!this.#framed) {
      this.#framed = true;
      if (!this.#lookAsLast(shot)) this.#frameAction(shot);
    }
    this.#follow(frame);
    this.#aim(shot, frame);
    this.#mark(shot);
    const view = useView.getState();
    const { onion, arc } = useHabits.getState();
    const arcs = view.arcs && (view.looking !== 'camera' || arc.space === 'camera');
    this.#arcs.show(shot, arcs ? this.#arcMembers(shot, view.selection) : NOBODY, frame.at, arc);
    this.#marks.show(shot, view.selection);
    // While it plays the neighbours would only be in the way.
    const still = !usePlayhead.getState().playing;
    this.#ghosts.show(shot, view.selection, frame.at, still ? onion : { ...onion, on: false }, this.#picture.forms);
    const begun = performance.now();
    this.#renderer.setScissorTest(view.four);
    for (const pane of this.#panes) this.#drawPane(pane, shot, frame, view);
    this.#judge(begun);
    this.onDrawn(this.#quality.draft);
    for (const call of this.#afterwards) call();
  }

  #drawPane(pane: Pane, shot: Shot, frame: Frame, view: ReturnType<typeof useView.getState>): void {
    const place = handlePlace(shot, frame, view);
    this.#handles.place(place, pane.camera);
    this.#controls.show(
      shot,
      frame,
      view.selection,
      this.#hidden(shot, view),
      pane,
      view.controls && this.#mainCamera !== this.#shotCamera,
    );
    // Panes count from the top left, the renderer from the bottom left.
    const bottom = this.#height - pane.y - pane.height;
    this.#renderer.setViewport(pane.x, bottom, pane.width, pane.height);
    this.#renderer.setScissor(pane.x, bottom, pane.width, pane.height);
    this.#renderer.clear();
    this.#renderer.render(this.#picture.scene, pane.camera);
    if (this.#ghosts.scene.visible) this.#renderer.render(this.#ghosts.scene, pane.camera);
    this.#renderer.clearDepth();
    this.#renderer.render(this.#marks.scene, pane.camera);
    this.#arcs.thin((place) => onPane(pane, place));
    this.#renderer.render(this.#arcs.scene, pane.camera);
    this.#balance.show(shot, frame, view.balance ? (rigAmong(shot, view.selection) ?? firstRig(shot)) : null, pane);
    if (this.#balance.scene.visible) this.#renderer.render(this.#balance.scene, pane.camera);
    if (this.#controls.scene.visible) this.#renderer.render(this.#controls.scene, pane.camera);
    this.#renderer.render(this.#handles.scene, pane.camera);
  }

  /** The controls of the sets that are hidden. */
  #hidden(shot: Shot, view: ReturnType<typeof useView.getState>): ReadonlySet<string> {
    const now = this.#hiddenNow;
    if (now?.sets === shot.sets && now.hidden === view.hiddenSets) return now.ids;
    const ids = new Set(view.hiddenSets.flatMap((id) => setMembers(shot, id)));
    this.#hiddenNow = { sets: shot.sets, hidden: view.hiddenSets, ids };
    return ids;
  }

  /** Whose arcs are drawn: what is picked, or the parts of a body one looks at in a walk. */
  #arcMembers(shot: Shot, selection: readonly string[]): readonly string[] {
    if (!useHabits.getState().bodyArcs) return selection;
    const now = this.#arcsOf;
    if (now?.members === shot.members && now.values === shot.curves && now.selection === selection) return now.ids;
    const rig = rigMeant(shot, selection);
    const ids = rig ? bodyPoints(shot, rig) : [...selection];
    this.#arcsOf = { members: shot.members, values: shot.curves, selection, ids };
    return ids;
  }

  /** Takes the camera along with the leading member, so that a travelling move can be studied standing still. */
  #follow(frame: Frame): void {
    const { follow, selection } = useView.getState();
    const id = selection.at(-1);
    const slot = follow && id !== undefined ? frame.layout.slotOf.get(id) : undefined;
    if (id === undefined || slot === undefined) {
      this.#followed = null;
      return;
    }
    const w = frame.world;
    // A rig that travels is where it has got to, not where it set out from.
    const node = frame.layout.rigAt.get(slot)?.root ?? slot;
    const at = new THREE.Vector3(w[node * 16 + 12], w[node * 16 + 13], w[node * 16 + 14]);
    if (this.#followed?.id === id) {
      const by = at.clone().sub(this.#followed.at);
      this.#free.position.add(by);
      this.#orbit.target.add(by);
      if (by.lengthSq() > 0) this.#orbit.update();
    }
    this.#followed = { id, at };
  }

  /**
   * Measures how long a picture takes and changes its quality where needed. When it is done is asked of a fence now and then: to
   * wait for a pixel of it would hold everything else up.
   */
  #judge(begun: number): void {
    if (this.#judging || !this.#quality.wants()) return;
    const gl = this.#renderer.getContext() as WebGL2RenderingContext;
    const fence = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!fence) return;
    gl.flush();
    this.#judging = window.setInterval(() => {
      if (gl.clientWaitSync(fence, 0, 0) === gl.TIMEOUT_EXPIRED) return;
      this.#endJudging();
      gl.deleteSync(fence);
      if (this.#quality.took(performance.now() - begun)) this.#changeQuality();
    }, 4);
  }

  #endJudging(): void {
    window.clearInterval(this.#judging);
    this.#judging = 0;
  }

  #changeQuality(): void {
    this.#picture.look.shadowSize(this.#quality.draft ? 512 : 2048);
    this.#renderer.setPixelRatio(this.#quality.draft ? Math.min(1, devicePixelRatio) : devicePixelRatio);
    this.draw();
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
    this.#four.aim(this.#orbit.target, half, aspect);
    const looking = this.#mainCamera === this.#shotCamera;
    this.#orbit.enabled = !looking && this.#active === 'free';
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
    for (const path of looseStanding(shot.loose, live.now?.at ?? 0).keys())
      marks.set(path.slice(0, path.indexOf('.')), colour('ochre'));
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

  /** Goes along a flat view by pixels. */
  #panBy(pane: Pane, dx: number, dy: number): void {
    const camera = pane.camera as THREE.OrthographicCamera;
    const perPixel = (camera.top - camera.bottom) / pane.height;
    const right = new THREE.Vector3(1, 0, 0).applyQuaternion(camera.quaternion);
    const up = new THREE.Vector3(0, 1, 0).applyQuaternion(camera.quaternion);
    const by = right.multiplyScalar(-dx * perPixel).add(up.multiplyScalar(dy * perPixel));
    this.#free.position.add(by);
    this.#orbit.target.add(by);
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
    on('pointerdown', (event) => {
      if (event.button === 2) this.#rightFrom = this.#at(event);
      if (event.button === 0) this.#down(event);
      else if (this.#active !== 'free') {
        const [x, y] = this.#at(event);
        this.#canvas.setPointerCapture(event.pointerId);
        this.#press = { kind: 'pan', x, y };
      }
    });
    on('wheel', (event) => {
      if (this.#active === 'free') return;
      event.preventDefault();
      this.zoomBy(Math.exp(event.deltaY * 0.001));
    });
    on('pointermove', (event) => this.#move(event));
    on('pointerup', (event) => (event.button === 2 ? this.#rightUp(event) : this.#up(event)));
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
    // While a hand moves, a drawing is always on its way: what it points at is seen through the cameras as they will be.
    const { shot } = useShot.getState();
    if (this.#request !== 0 && shot && live.now) this.#aim(shot, live.now);
    const pane = this.#press ? this.#pane : paneAt(this.#panes, x, y);
    this.#active = pane.name;
    this.#orbit.enabled = pane.name === 'free' && pane.camera !== this.#shotCamera;
    this.#orbit.zoomToCursor = !useView.getState().four;
    this.#ray.setFromCamera(inPane(pane, x, y), pane.camera);
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
    this.#catchUp();
    const ray = this.#aimRay(event);
    if (useWay.getState().clip !== null) {
      const point = this.#onGround(ray);
      if (point) useWay.getState().add(point);
      return;
    }
    const grip = this.#gripUnder();
    if (grip) {
      // Playing goes on: what is changed is changed where the hand took hold of it.
      const drag = new Drag(grip, shot, frame, useView.getState(), this.#pane.camera, ray);
      this.#press = { kind: 'handle', drag, frame: Math.round(frame.at * 1000) / 1000 };
      return;
    }
    const how = event.shiftKey ? 'add' : event.ctrlKey || event.metaKey ? 'toggle' : 'only';
    const control = this.#controls.under(...this.#at(event), this.#pane);
    if (control) {
      const { selection, select } = useView.getState();
      const was = selection.includes(control);
      this.#press = { kind: 'control', id: control, from: this.#at(event), how, was };
      // Picked at once, so that one sees what a drag will move; among several picked ones it becomes the leading one.
      if (!was) select([control], how);
      return;
    }
    const bead = this.#beadUnder(...this.#at(event));
    // As the camera sees it an arc is not where the thing is: there it can be read, and not dragged.
    if (bead && useHabits.getState().arc.space === 'world') {
      this.#press = { kind: 'bead', drag: new BeadDrag(shot, bead, this.#arcs.beads, this.#pane, this.#preview) };
      return;
    }
    this.#press = { kind: 'box', from: this.#at(event), how, moved: false };
  }

  /** Where a ray meets what one can walk on: set pieces, or the floor of the stage. */
  #onGround(ray: THREE.Ray): [number, number, number] | null {
    const bodies = this.#picture.bodies.filter((b) => isGround(useShot.getState().shot, b.userData.member));
    const [hit] = this.#ray.intersectObjects(bodies, true);
    const point = hit?.point ?? ray.intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0), 0), new THREE.Vector3());
    return point ? [point.x, Math.max(0, point.y), point.z] : null;
  }

  #move(event: PointerEvent): void {
    const ray = this.#aimRay(event);
    const press = this.#press;
    if (!press) {
      const grip = this.#gripUnder();
      const control = grip ? null : this.#controls.under(...this.#at(event), this.#pane);
      const bead = grip || control ? null : this.#beadUnder(...this.#at(event));
      this.#canvas.style.cursor = grip || bead || control ? 'grab' : 'default';
      this.#hint(control, bead);
      const other = this.#controls.hovered !== control;
      this.#controls.hovered = control;
      if (this.#handles.hover(grip) || other) this.draw();
    } else if (press.kind === 'control') this.#pull(press, event, ray);
    else if (press.kind === 'dial') {
      const { autoKey } = useView.getState();
      const values = press.drag.to(this.#at(event), event.shiftKey);
      this.#preview.show(changeChannels, { frame: press.frame, values, autoKey });
    } else if (press.kind === 'bead') press.drag.to(ray, ...this.#at(event));
    else if (press.kind === 'pan') {
      const [x, y] = this.#at(event);
      this.#panBy(this.#pane, x - press.x, y - press.y);
      [press.x, press.y] = [x, y];
    } else if (press.kind === 'handle') {
      const values = press.drag.to(ray, event.shiftKey);
      const { autoKey } = useView.getState();
      this.#preview.show(changeChannels, { frame: press.frame, values, autoKey });
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

  /** Takes a pressed control along once the hand has really moved: in the plane one sees, or by what it has instead of a move. */
  #pull(press: Extract<Press, { kind: 'control' }>, event: PointerEvent, ray: THREE.Ray): void {
    const [x, y] = this.#at(event);
    if (Math.hypot(x - press.from[0], y - press.from[1]) < 4) return;
    const { shot } = useShot.getState();
    const frame = live.now;
    const member = shot?.members.get(press.id);
    if (!shot || !frame || !member || isLocked(shot, press.id)) return;
    const view = useView.getState();
    if (!view.selection.includes(press.id)) return;
    const at = Math.round(frame.at * 1000) / 1000;
    const tool = toolFor(shot.rigs.controlOf(member), 'move');
    if (tool === 'pick') {
      const drag = DialDrag.of(shot, member, frame, press.from);
      this.#press = drag ? { kind: 'dial', drag, frame: at } : null;
      return;
    }
    // The control that was taken hold of leads.
    const selection = [...view.selection.filter((id) => id !== press.id), press.id];
    useView.getState().set({ selection });
    const grip = { tool, axis: 'all' } as const;
    this.onBead(null);
    const drag = new Drag(grip, shot, frame, { ...view, selection, tool, about: 'own' }, this.#pane.camera, ray);
    this.#press = { kind: 'handle', drag, frame: at };
  }

  /** Says what is under the pointer. */
  #hint(control: string | null, bead: Bead | null): void {
    const { shot } = useShot.getState();
    const at = control && this.#controls.placeOf(control, this.#pane);
    if (control && at && shot) this.onBead({ text: controlWords(shot, control), at });
    else this.onBead(bead ? { text: beadWords(bead), at: onPane(this.#pane, bead.place) } : null);
  }

  #up(event: PointerEvent): void {
    const press = this.#press;
    this.#press = null;
    this.#box.style.display = 'none';
    if (!press) return;
    if (press.kind === 'handle' || press.kind === 'bead' || press.kind === 'dial') {
      this.#preview.keep();
      return;
    }
    if (press.kind === 'control') {
      if (press.was) useView.getState().select([press.id], press.how);
      return;
    }
    if (press.kind === 'pan') return;
    const picked = press.moved ? this.#inBox(press.from, this.#at(event)) : this.#under(event);
    useView.getState().select(picked, press.how);
  }

  /** A right press that went nowhere opens the menu of what is there; one that did has moved the view. */
  #rightUp(event: PointerEvent): void {
    if (this.#press?.kind === 'pan') this.#press = null;
    const from = this.#rightFrom;
    this.#rightFrom = null;
    const [x, y] = this.#at(event);
    if (!from || Math.hypot(x - from[0], y - from[1]) > 4) return;
    this.#catchUp();
    this.#aimRay(event);
    const control = this.#controls.under(x, y, this.#pane);
    const ids = control ? [control] : this.#under(event);
    if (ids.length > 0) membersHere(ids, event);
  }

  #cancel(): void {
    this.#preview.drop();
    this.#press = null;
    this.#box.style.display = 'none';
  }

  /** The handle under the pointer. What is drawn may be a moment old: without a tool and someone picked there is none. */
  #gripUnder(): Grip | null {
    const { shot } = useShot.getState();
    const view = useView.getState();
    if (!shot || !live.now || view.tool === 'pick' || !handlePlace(shot, live.now, view)) return null;
    return this.#handles.hit(this.#ray);
  }

  /** The bead nearest to a place in the window, if one is within reach; a key's before a plain one's. */
  #beadUnder(x: number, y: number): Bead | null {
    let best: Bead | null = null;
    let reach = 8;
    for (const bead of this.#arcs.beads) {
      const [bx, by] = onPane(this.#pane, bead.place);
      const distance = Math.hypot(bx - x, by - y) - (bead.role === 'between' ? 0 : 2);
      if (distance < reach) [best, reach] = [bead, distance];
    }
    return best;
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
    const controls = this.#controls.inBox(x0, y0, x1, y1, this.#pane);
    if (controls.length > 0) return controls;
    return frame.layout.ids.filter((id, slot) => {
      if (shot.members.at(id).kind === 'control' || isLocked(shot, id) || !frame.isVisible(slot)) return false;
      const middle = worldBounds(shot, frame, [id]).getCenter(new THREE.Vector3());
      const [x, y] = onPane(this.#pane, middle);
      return x >= x0 && x <= x1 && y >= y0 && y <= y1;
    });
  }
}

/** The rig whose balance is shown while none is picked. */
const firstRig = (shot: Shot): string | null => shot.members.values().find((m) => m.kind === 'rig')?.id ?? null;

/** What a control says when the pointer rests on it: its name, whose it is where there are several, and what holds it. */
function controlWords(shot: Shot, id: string): string {
  const member = shot.members.at(id);
  if (member.kind === 'rig') return `${member.name} as a whole`;
  const rig = member.parent === null ? undefined : shot.members.get(member.parent);
  const rigs = shot.members.values().filter((m) => m.kind === 'rig').length;
  const held = holdAt(member, live.now?.at ?? 1)?.by;
  const holder = held?.is === 'member' ? shot.members.get(held.member)?.name : undefined;
  const how = held?.is === 'stage' ? ' · planted' : holder ? ` · carried by ${holder}` : '';
  return (rigs > 1 && rig ? `${rig.name}: ${member.name}` : member.name) + how;
}

/** What a bead says when the pointer rests on it: its frame, the spacing on both sides, and what dragging it does. */
function beadWords({ frame, role, before, after }: Bead): string {
  const way = (metres: number) => (metres < 0.1 ? `${(metres * 1000).toFixed(1)} mm` : `${metres.toFixed(3)} m`);
  const spacing = [
    before === null ? '' : `${way(before)} from the last`,
    after === null ? '' : `${way(after)} to the next`,
  ];
  const does = role === 'between' ? 'drag it along the arc' : `a ${role}: drag it anywhere`;
  return [`frame ${frame}`, ...spacing.filter((t) => t !== ''), does].join(' · ');
}
