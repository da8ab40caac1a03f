import * as THREE from 'three';
import { membersHere } from '../menus/here.ts';
import { useShot } from '../shot/shot-store.ts';
import { onEscape } from '../ui/on-escape.ts';
import { type Moment, momentNow } from './moment.ts';
import { type Grab, type Hands, makeTools, type Pointer, type StageTool, type Under } from './tools/index.ts';
import { bodyUnder } from './tools/pick-tool.ts';
import { inPane, paneAt } from './views/panes.ts';
import type { Views } from './views/views.ts';

/** A right press that has gone further than this has moved the view, and means no menu, in pixels. */
const STILL = 4;

/** What the stage does for the hand that points at it. */
export interface Pointed {
  readonly canvas: HTMLCanvasElement;
  readonly views: Views;
  readonly hands: Omit<Hands, 'preview'>;
  /** Draws at once what is still to be drawn: a hand takes hold of what stands there now. */
  catchUp(): void;
  /** What stands under the pointer has something to say, or nothing any more. */
  note(note: { readonly text: string; readonly at: readonly [number, number] } | null): void;
}

/** The pointer over the stage: it asks the tools what is there, and holds what one of them gives. */
export class Pointing {
  readonly #stage: Pointed;
  readonly #tools: readonly StageTool[];
  readonly #preview = useShot.getState().begin('stage');
  readonly #caster = new THREE.Raycaster();
  readonly #endings: (() => void)[] = [];
  #grab: Grab | null = null;
  /** Where the right button went down. */
  #rightFrom: readonly [number, number] | null = null;

  constructor(stage: Pointed) {
    this.#stage = stage;
    this.#tools = makeTools({ ...stage.hands, preview: this.#preview });
    this.#caster.params.Line.threshold = 0.06;
    const on = <K extends keyof HTMLElementEventMap>(type: K, handler: (event: HTMLElementEventMap[K]) => void) => {
      stage.canvas.addEventListener(type, handler);
      this.#endings.push(() => stage.canvas.removeEventListener(type, handler));
    };
    on('pointerdown', (event) => this.#down(event));
    on('pointermove', (event) => this.#move(event));
    on('pointerup', (event) => (event.button === 2 ? this.#rightUp(event) : this.#up(event)));
    on('pointercancel', () => this.cancel());
    on('wheel', (event) => this.#wheel(event));
    on('contextmenu', (event) => event.preventDefault());
    this.#endings.push(
      onEscape(() => {
        const held = this.#grab !== null;
        this.cancel();
        return held;
      }),
    );
  }

  dispose(): void {
    for (const end of this.#endings) end();
  }

  /** Lets go of what is held, as if it had never been. */
  cancel(): void {
    this.#grab?.cancel?.();
    this.#grab = null;
  }

  #pointer(event: PointerEvent): Pointer {
    const { canvas, views } = this.#stage;
    const box = canvas.getBoundingClientRect();
    const at = [event.clientX - box.left, event.clientY - box.top] as const;
    const pane = this.#grab ? views.pane : paneAt(views.panes, ...at);
    views.enter(pane);
    this.#caster.setFromCamera(inPane(pane, ...at), pane.camera);
    return { at, pane, caster: this.#caster, shift: event.shiftKey, ctrl: event.ctrlKey || event.metaKey };
  }

  #down(event: PointerEvent): void {
    const { canvas, views } = this.#stage;
    const moment = momentNow();
    if (!moment) return;
    this.#stage.catchUp();
    const pointer = this.#pointer(event);
    if (event.button === 2) this.#rightFrom = pointer.at;
    // The free view is taken round by its own means; the flat ones go along.
    if (event.button !== 0 && views.active === 'free') return;
    canvas.setPointerCapture(event.pointerId);
    this.#grab = event.button === 0 ? this.#take(moment, pointer) : this.#pan(pointer);
    if (this.#grab) this.#stage.note(null);
  }

  /** What the first tool that finds something takes hold of. */
  #take(moment: Moment, pointer: Pointer): Grab | null {
    for (const tool of this.#tools) {
      const grab = tool.grab(moment, pointer);
      if (grab) return grab;
    }
    return null;
  }

  #pan(start: Pointer): Grab {
    let [x, y] = start.at;
    return {
      move: ({ at, pane }) => {
        this.#stage.views.panBy(pane, at[0] - x, at[1] - y);
        [x, y] = at;
        this.#stage.hands.draw();
        return undefined;
      },
    };
  }

  #move(event: PointerEvent): void {
    const moment = momentNow();
    if (!moment) return;
    // While a hand moves, a drawing is always on its way: what it points at is seen through the cameras as they will be.
    this.#stage.views.aim(moment);
    const pointer = this.#pointer(event);
    if (this.#grab) {
      this.#grab = this.#grab.move(pointer) ?? this.#grab;
      return;
    }
    let under: Under | null = null;
    for (const tool of this.#tools) {
      const here: Under | null = tool.hover?.(moment, under ? null : pointer) ?? null;
      under ??= here;
    }
    this.#stage.canvas.style.cursor = under ? 'grab' : 'default';
    this.#stage.note(under?.note ?? null);
  }

  #up(event: PointerEvent): void {
    const held = this.#grab;
    const pointer = this.#pointer(event);
    this.#grab = null;
    held?.release?.(pointer);
  }

  /** A right press that went nowhere opens the menu of what is there; one that did has moved the view. */
  #rightUp(event: PointerEvent): void {
    const from = this.#rightFrom;
    this.#rightFrom = null;
    this.#grab = null;
    const { hands } = this.#stage;
    const pointer = this.#pointer(event);
    if (!from || Math.hypot(pointer.at[0] - from[0], pointer.at[1] - from[1]) > STILL) return;
    this.#stage.catchUp();
    const moment = momentNow();
    if (!moment) return;
    const control = hands.overlays.controls.under(...pointer.at, pointer.pane);
    const ids = control ? [control] : bodyUnder(hands.picture, moment, pointer);
    if (ids.length > 0) membersHere(ids, event);
  }

  #wheel(event: WheelEvent): void {
    const { views } = this.#stage;
    if (views.active === 'free') return;
    event.preventDefault();
    views.eye.nearer(Math.exp(event.deltaY * 0.001));
    this.#stage.hands.draw();
  }
}
