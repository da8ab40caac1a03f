import type { Frame, NoteView } from '@varrup/core';
import * as THREE from 'three';
import { useWay } from '../clips/way-drawing.ts';
import { type Compare, useCompare } from '../review/compare.ts';
import { useShot } from '../shot/shot-store.ts';
import { colour, themeNow } from '../ui/theme.ts';
import { useHabits } from '../view/habits.ts';
import { live } from '../view/live.ts';
import { useLooking } from '../view/looking.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { useShown } from '../view/shown.ts';
import { useTool } from '../view/tool.ts';
import { Backlog } from './backlog.ts';
import { Judge } from './judge.ts';
import { type Moment, momentNow } from './moment.ts';
import { OtherMotion } from './other-motion.ts';
import { makeOverlays, type Overlay, type Overlays } from './overlays/index.ts';
import { ShotPicture, shownMembers, worldBounds } from './picture/picture.ts';
import { drawnApart } from './picture/proof.ts';
import { bodyOf, pinOf } from './pins.ts';
import { type Pointed, Pointing } from './pointing.ts';
import { isSoftware, Quality } from './quality.ts';
import { onPane, type Pane } from './views/panes.ts';
import { Views } from './views/views.ts';

/** How wide the shadow is drawn: in the full picture, in the draft, and not at all in a sketch. */
const SHADOW = { full: 2048, draft: 512, sketch: 0 } as const;
/** The share of the points of the screen that a sketch has, each way. */
const SKETCH = 0.25;
const NOTHING: ReadonlyMap<string, number> = new Map();

/**
 * The stage: the shot in a window one can reach into. It draws when something changed and not otherwise, and goes over
 * to a lighter picture by itself where the full one is too slow to work with. What it draws beside the picture are its
 * overlays, what a hand can do with it are its tools, how it is looked at are its views.
 */
export class Stage {
  readonly #canvas: HTMLCanvasElement;
  readonly #renderer: THREE.WebGLRenderer;
  readonly #picture = new ShotPicture();
  /** What the shot is looked at beside, once it is. */
  #other: OtherMotion | null = null;
  readonly #overlays: Overlays;
  readonly #drawn: readonly Overlay[];
  readonly #views: Views;
  readonly #pointing: Pointing;
  readonly #quality: Quality;
  readonly #backlog: Backlog;
  readonly #judge: Judge;
  readonly #endings: (() => void)[] = [];
  #width = 1;
  #height = 1;
  /** The drawing asked for; 0 when none is. */
  #request = 0;
  /** Called with the state of the picture after each drawing, for tests and for the note on draft quality. */
  onDrawn: (draft: boolean) => void = () => {};
  /** Called with what stands under the pointer, and with null when nothing does any more. */
  onNote: Pointed['note'] = () => {};
  /** Called with who is elsewhere in what the shot is looked at beside, and how far in metres. */
  onCompared: (moved: ReadonlyMap<string, number>) => void = () => {};
  #rests = false;
  readonly #afterwards = new Set<() => void>();

  /** @param box the frame round what is being picked */
  constructor(canvas: HTMLCanvasElement, box: HTMLElement) {
    this.#canvas = canvas;
    const { fullPicture, sketch } = useHabits.getState();
    const draft = (isSoftware() && !fullPicture) || sketch;
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: !draft, powerPreference: 'high-performance' });
    this.#renderer.shadowMap.enabled = true;
    this.#renderer.shadowMap.type = THREE.PCFShadowMap;
    this.#renderer.autoClear = false;
    this.#quality = new Quality(draft);
    this.#backlog = new Backlog(this.#renderer.getContext() as WebGL2RenderingContext);
    this.#judge = new Judge(this.#renderer.getContext() as WebGL2RenderingContext, this.#quality, () => this.#suit());
    this.#overlays = makeOverlays(this.#picture.forms, () => this.draw());
    this.#drawn = Object.values(this.#overlays);
    this.#views = new Views(canvas, this.draw);
    this.#pointing = new Pointing({
      canvas,
      views: this.#views,
      hands: { overlays: this.#overlays, picture: this.#picture, box, draw: this.draw },
      catchUp: () => this.#catchUp(),
      note: (note) => this.onNote(note),
    });
    const size = new ResizeObserver(() => this.#resize());
    size.observe(canvas.parentElement!);
    this.#endings.push(
      () => size.disconnect(),
      live.listen(this.draw),
      useHabits.subscribe((now, old) => {
        if (now.sketch !== old.sketch) this.#suit();
        else this.draw();
      }),
      useWay.subscribe(this.draw),
      useCompare.subscribe((now, old) => {
        if (now.mode !== old.mode || now.other !== old.other) this.#resize();
        this.draw();
      }),
      usePlayhead.subscribe((now, old) => {
        if (now.playing !== old.playing) this.draw();
      }),
      useLooking.subscribe((now, old) => now.four !== old.four && this.#resize()),
      ...[useSelection, useTool, useLooking, useShown].map((store) => store.subscribe(this.draw)),
    );
    this.#resize();
  }

  close(): void {
    for (const end of this.#endings) end();
    this.#judge.end();
    this.#pointing.dispose();
    this.#views.dispose();
    for (const overlay of this.#drawn) overlay.dispose();
    this.#picture.dispose();
    this.#other?.dispose();
    this.#renderer.dispose();
  }

  /** Draws nothing while it lies under something else. */
  rest(is: boolean): void {
    this.#rests = is;
    this.draw();
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
    const [pane] = this.#views.panes;
    if (middle.clone().project(pane.camera).z > 1) return null;
    return onPane(pane, middle);
  }

  /** How the stage is looked at now, as a note remembers it. */
  get view(): NoteView {
    const { eye, isFilming } = this.#views;
    const { flat } = useLooking.getState();
    return {
      eye: eye.camera.position.toArray() as [number, number, number],
      target: eye.target.toArray() as [number, number, number],
      fov: THREE.MathUtils.degToRad(eye.camera.fov),
      flat: flat ? 2 * eye.half : null,
      camera: isFilming,
    };
  }

  /** Looks as a note was made. */
  lookAs({ eye, target, flat, camera }: NoteView): void {
    useLooking.setState({ looking: camera ? 'camera' : 'free', flat: flat !== null, four: false });
    if (!camera) this.#views.eye.put(eye, target);
    this.draw();
  }

  /** Where a place of the world is seen in the one view, in pixels of the window; null behind the eye. */
  seen(place: readonly [number, number, number]): [x: number, y: number] | null {
    const at = new THREE.Vector3(...place);
    const [pane] = this.#views.panes;
    return at.clone().project(pane.camera).z > 1 ? null : onPane(pane, at);
  }

  /** What a note made at a place of the window is pinned to: the body there, or of a figure the control nearest to it. */
  pinAt(x: number, y: number): { member: string; at: [number, number, number] } | null {
    const moment = momentNow();
    const [pane] = this.#views.panes;
    const caster = new THREE.Raycaster();
    const spot = new THREE.Vector2(((x - pane.x) / pane.width) * 2 - 1, 1 - ((y - pane.y) / pane.height) * 2);
    caster.setFromCamera(spot, pane.camera as THREE.PerspectiveCamera);
    const [hit] = caster.intersectObjects(this.#picture.bodies, true);
    if (!hit || !moment) return null;
    return pinOf(moment, bodyOf(hit.object), hit.point);
  }

  /** How far what is drawn of the rigs is from what is computed, at worst, in metres; null where there is none. */
  prove(): { metres: number; vertices: number } | null {
    const frame = live.now;
    if (!frame || frame.layout.rigs.length === 0) return null;
    const all = frame.layout.rigs.map((rig) => drawnApart(this.#renderer, frame, rig));
    this.#resize();
    return { metres: Math.max(...all.map((a) => a.metres)), vertices: all.reduce((n, a) => n + a.vertices, 0) };
  }

  /** The theme has changed. */
  recolour = (): void => {
    this.#picture.backdrop.theme(themeNow());
    this.#other?.theme(themeNow());
    for (const overlay of this.#drawn) overlay.recolour?.();
    this.draw();
  };

  /** Brings the picked members, or everything, into the window. */
  frame(what: 'selected' | 'all'): void {
    const moment = momentNow();
    if (!moment) return;
    const { shot, frame, picked, looking } = moment;
    const ids = what === 'selected' && picked.length > 0 ? picked : shownMembers(shot);
    this.#views.eye.bring(worldBounds(shot, frame, ids));
    if (looking.looking === 'camera') useLooking.setState({ looking: 'free' });
    this.draw();
  }

  /** Goes round what is looked at, by angles in radians. */
  orbitBy(round: number, up: number): void {
    this.#views.eye.round(round, up);
    this.draw();
  }

  /** Goes nearer (below 1) or further away. */
  zoomBy(factor: number): void {
    this.#views.eye.nearer(factor);
    this.draw();
  }

  /** Asks for a drawing at the next refresh. */
  draw = (): void => {
    if (this.#request !== 0 || this.#rests) return;
    this.#request = requestAnimationFrame(this.#drawWhenFree);
  };

  #drawWhenFree = (): void => {
    if (this.#backlog.isAtWork(performance.now())) {
      this.#request = requestAnimationFrame(this.#drawWhenFree);
      return;
    }
    this.#request = 0;
    this.#drawNow();
  };

  /**
   * A hand may be quicker than the next drawing, and takes hold of what stands there now: handles, controls, beads and bodies are
   * brought to where they are before it is asked what lies under it.
   */
  #catchUp(): void {
    // What has just changed, the time say, may not even have asked for a drawing yet.
    if (this.#request === 0 && !live.isAsked) return;
    cancelAnimationFrame(this.#request);
    this.#request = 0;
    this.#drawNow();
  }

  #drawNow(): void {
    const moment = momentNow();
    if (!moment || this.#width < 2) return;
    const { shot, frame, picked, looking, shown } = moment;
    this.#picture.cast(shot);
    this.#picture.showGlass(shown.xray);
    this.#picture.pose(frame);
    this.#views.lookFirst(shot);
    this.#views.follow(moment);
    this.#views.aim(moment);
    this.#picture.showSigns(!this.#views.isFilming);
    this.#picture.coverAll(shot, frame);
    const compare = useCompare.getState();
    const moved = this.#showOther(compare, frame);
    const marks = new Map(picked.map((id) => [id, colour('blue')]));
    if (compare.mode === 'difference') for (const id of moved.keys()) marks.set(id, colour('vermilion'));
    this.#picture.mark(marks);
    for (const overlay of this.#drawn) overlay.show?.(moment);
    const begun = performance.now();
    this.#renderer.setScissorTest(false);
    this.#renderer.clear();
    this.#renderer.setScissorTest(looking.four || this.#isPaired);
    for (const pane of this.#views.panes) this.#drawPane(pane, moment);
    if (compare.other && !looking.four) this.#drawBeside(compare);
    this.#backlog.note(begun);
    this.#judge.measure(begun);
    this.onDrawn(this.#quality.draft);
    for (const call of this.#afterwards) call();
  }

  #drawPane(pane: Pane, moment: Moment): void {
    // Panes count from the top left, the renderer from the bottom left.
    const bottom = this.#height - pane.y - pane.height;
    this.#renderer.setViewport(pane.x, bottom, pane.width, pane.height);
    this.#renderer.setScissor(pane.x, bottom, pane.width, pane.height);
    this.#renderer.clear();
    this.#renderer.render(this.#picture.scene, pane.camera);
    const { mode, other } = useCompare.getState();
    if (other && (mode === 'over' || mode === 'difference')) this.#other?.drawOver(this.#renderer, pane.camera);
    for (const amongBodies of [true, false]) {
      if (!amongBodies) this.#renderer.clearDepth();
      for (const overlay of this.#drawn) {
        if ((overlay.amongBodies ?? false) !== amongBodies) continue;
        overlay.draw?.(moment, pane);
        if (overlay.scene.visible) this.#renderer.render(overlay.scene, pane.camera);
      }
    }
  }

  /** Whether two motions are seen side by side: each has half of the window. */
  get #isPaired(): boolean {
    const { mode, other } = useCompare.getState();
    return other !== null && mode === 'pair' && !useLooking.getState().four;
  }

  #showOther(compare: Compare, frame: Frame): ReadonlyMap<string, number> {
    if (!compare.other) return NOTHING;
    if (!this.#other) {
      this.#other = new OtherMotion();
      this.#other.theme(themeNow());
    }
    const moved = this.#other.show(compare, frame);
    this.onCompared(moved);
    return moved;
  }

  /** Draws the other motion in its half, or from the line on at which the picture changes over. */
  #drawBeside({ mode, wipe }: Compare): void {
    if (mode !== 'pair' && mode !== 'wipe') return;
    const [pane] = this.#views.panes;
    const [renderer, height] = [this.#renderer, this.#height];
    const from = mode === 'pair' ? pane.width : Math.round(wipe * this.#width);
    renderer.setScissorTest(true);
    renderer.setScissor(from, 0, this.#width - from, height);
    if (mode === 'pair') renderer.setViewport(from, 0, this.#width - from, height);
    renderer.clear();
    this.#other?.draw(renderer, pane.camera);
  }

  #resize(): void {
    const { clientWidth, clientHeight } = this.#canvas.parentElement!;
    this.#width = Math.max(1, clientWidth);
    this.#height = Math.max(1, clientHeight);
    this.#views.resize(this.#isPaired ? Math.floor(this.#width / 2) : this.#width, this.#height);
    this.#suit();
  }

  /** Draws as many points, and as fine a shadow, as the picture is to have. */
  #suit(): void {
    const { draft } = this.#quality;
    const { sketch } = useHabits.getState();
    this.#picture.backdrop.shadowSize(SHADOW[sketch ? 'sketch' : draft ? 'draft' : 'full']);
    const points = draft ? Math.min(1, devicePixelRatio) : devicePixelRatio;
    this.#renderer.setPixelRatio(sketch ? SKETCH : points);
    this.#renderer.setSize(this.#width, this.#height, false);
    this.draw();
  }
}
