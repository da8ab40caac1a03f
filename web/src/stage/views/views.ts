import { cameraAt, camerasOf, type Frame, type Shot } from '@varrup/core';
import * as THREE from 'three';
import { useShot } from '../../shot/shot-store.ts';
import { live } from '../../view/live.ts';
import { useLooking } from '../../view/looking.ts';
import { useSelection } from '../../view/selection.ts';
import { rememberView, viewOf } from '../../view/shot-views.ts';
import { type Moment, momentNow } from '../moment.ts';
import { motionBounds } from '../picture/motion-bounds.ts';
import { shownMembers } from '../picture/picture.ts';
import { throughCamera } from '../picture/shot-camera.ts';
import { FreeEye } from './free-eye.ts';
import { FourViews, type Pane } from './panes.ts';

/** A look that is held so long, in milliseconds, is remembered. */
const LOOK_RESTS = 400;
/** What the shot's camera films, as wide as high. */
const FILM = 16 / 9;
/** From where a shot is looked at first: a little from the side and above. */
const FIRST = new THREE.Vector3(0.32, 0.3, 1);

/** How the stage is looked at: freely, from a side, in four panes, through the shot's camera, along with somebody. */
export class Views {
  readonly eye: FreeEye;
  readonly #shotCamera = new THREE.PerspectiveCamera(30, 1, 0.05, 500);
  readonly #four = new FourViews();
  #width = 1;
  #height = 1;
  /** The pane the pointer was in last. */
  #active: Pane['name'] = 'free';
  /** Whom the eye goes along with, and where they were. */
  #followed: { readonly id: string; readonly at: THREE.Vector3 } | null = null;
  /** Whether a hand is taking the eye round. */
  #orbiting = false;
  #framed = false;
  #remembering = 0;
  readonly #end: () => void;

  /** @param changed called when there is something new to draw */
  constructor(canvas: HTMLCanvasElement, changed: () => void) {
    this.eye = new FreeEye(canvas);
    const { orbit } = this.eye;
    orbit.addEventListener('start', () => {
      this.#orbiting = true;
    });
    orbit.addEventListener('end', () => {
      this.#orbiting = false;
    });
    orbit.addEventListener('change', () => {
      // Taken round from a side, one no longer looks from there.
      const { looking } = useLooking.getState();
      if (this.#orbiting && looking !== 'free' && looking !== 'camera') useLooking.setState({ looking: 'free' });
      if (this.#framed) this.#remember();
      changed();
    });
    // From where they stand at this moment: before the next drawing they may be somewhere else.
    const followFromHere = () => {
      const moment = momentNow();
      if (moment) this.follow(moment);
    };
    const endings = [
      useSelection.subscribe(({ picked }, old) => {
        if (picked !== old.picked && useLooking.getState().follow) followFromHere();
      }),
      useLooking.subscribe(({ looking, flat, follow }, old) => {
        if (follow && !old.follow) followFromHere();
        if (looking === old.looking && flat === old.flat) return;
        if (looking !== 'free' && looking !== 'camera') this.eye.from(looking);
      }),
    ];
    this.#end = () => {
      for (const end of endings) end();
    };
  }

  get active(): Pane['name'] {
    return this.#active;
  }

  /** Whether one looks through the shot's camera. */
  get isFilming(): boolean {
    return this.main === this.#shotCamera;
  }

  /** The camera of the one view, or of the free one of four. */
  get main(): THREE.Camera {
    const { looking, flat } = useLooking.getState();
    const { shot } = useShot.getState();
    if (looking === 'camera' && shot && camerasOf(shot).length > 0) return this.#shotCamera;
    return flat ? this.eye.flat : this.eye.camera;
  }

  get panes(): Pane[] {
    if (useLooking.getState().four) return this.#four.panes(this.#width, this.#height, this.main);
    return [{ name: 'free', camera: this.main, x: 0, y: 0, width: this.#width, height: this.#height }];
  }

  /** The view the pointer is in. */
  get pane(): Pane {
    const { panes } = this;
    return panes.find((p) => p.name === this.#active) ?? panes[0];
  }

  /** The pointer is in a pane: the hand takes that view round, and no other. */
  enter(pane: Pane): void {
    this.#active = pane.name;
    this.eye.orbit.enabled = pane.name === 'free' && pane.camera !== this.#shotCamera;
    this.eye.orbit.zoomToCursor = !useLooking.getState().four;
  }

  resize(width: number, height: number): void {
    this.#width = width;
    this.#height = height;
  }

  /** Brings all cameras to where they are at a moment. */
  aim({ shot, frame }: Moment): void {
    const aspect = this.#width / this.#height;
    this.eye.aim(aspect);
    const camera = cameraAt(shot, frame.at);
    if (camera !== null) this.#film(camera, frame, aspect);
    this.#four.aim(this.eye.target, this.eye.half, aspect);
    this.eye.orbit.enabled = !this.isFilming && this.#active === 'free';
  }

  /** Shows all that the shot's camera will see, whatever the window's shape; the guide marks its edges. */
  #film(id: string, frame: Frame, aspect: number): void {
    if (!throughCamera(this.#shotCamera, id, frame, aspect) || aspect >= FILM) return;
    const half = Math.tan(THREE.MathUtils.degToRad(this.#shotCamera.fov / 2));
    this.#shotCamera.fov = THREE.MathUtils.radToDeg(2 * Math.atan((half * FILM) / aspect));
    this.#shotCamera.updateProjectionMatrix();
  }

  /** The first look at a shot: as it was looked at last, else at wherever something moves in it. */
  lookFirst(shot: Shot): void {
    if (this.#framed) return;
    this.#framed = true;
    this.eye.aim(this.#width / this.#height);
    const { place, target } = viewOf(shot.id);
    if (place && target) {
      this.eye.put(place, target);
      const { looking } = useLooking.getState();
      if (looking !== 'free' && looking !== 'camera') this.eye.from(looking);
      return;
    }
    this.eye.along(FIRST);
    const keyed = new Set(shot.curves.keys().map((path) => path.slice(0, path.indexOf('.'))));
    const moving = shot.members.keys().filter((id) => keyed.has(id));
    this.eye.bring(motionBounds(shot, (time) => live.sample(time)!, moving.length > 0 ? moving : shownMembers(shot)));
  }

  /** Remembers from where the shot is looked at, once the hand has come to rest. */
  #remember(): void {
    window.clearTimeout(this.#remembering);
    this.#remembering = window.setTimeout(() => {
      const { shot } = useShot.getState();
      const { camera, target } = this.eye;
      if (shot) rememberView(shot.id, { place: camera.position.toArray(), target: target.toArray() });
    }, LOOK_RESTS);
  }

  /** Goes along with the leading member, so that a travelling move can be studied standing still. */
  follow({ frame, looking: { follow }, picked }: Moment): void {
    const id = picked.at(-1);
    const slot = follow && id !== undefined ? frame.layout.slotOf.get(id) : undefined;
    if (id === undefined || slot === undefined) {
      this.#followed = null;
      return;
    }
    // A rig that travels is where it has got to, not where it set out from.
    const node = frame.layout.rigAt.get(slot)?.root ?? slot;
    const at = new THREE.Vector3().fromArray(frame.world, node * 16 + 12);
    if (this.#followed?.id === id) this.eye.carry(at.clone().sub(this.#followed.at));
    this.#followed = { id, at };
  }

  /** Goes along a flat view by pixels. */
  panBy(pane: Pane, dx: number, dy: number): void {
    const camera = pane.camera as THREE.OrthographicCamera;
    const perPixel = (camera.top - camera.bottom) / pane.height;
    const right = new THREE.Vector3(1, 0, 0).applyQuaternion(camera.quaternion);
    const up = new THREE.Vector3(0, 1, 0).applyQuaternion(camera.quaternion);
    this.eye.carry(right.multiplyScalar(-dx * perPixel).add(up.multiplyScalar(dy * perPixel)));
  }

  dispose(): void {
    window.clearTimeout(this.#remembering);
    this.#end();
    this.eye.dispose();
  }
}
