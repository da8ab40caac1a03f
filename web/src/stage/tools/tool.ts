import type * as THREE from 'three';
import type { Preview } from '../../shot/previews.ts';
import type { Moment } from '../moment.ts';
import type { Overlays } from '../overlays/index.ts';
import type { ShotPicture } from '../picture/picture.ts';
import type { Pane } from '../views/panes.ts';

/** A place in the window, in pixels from its top left. */
export type Place = readonly [x: number, y: number];

/** Where the pointer is. */
export interface Pointer {
  readonly at: Place;
  /** The view it is in. */
  readonly pane: Pane;
  /** From the eye through it. */
  readonly caster: THREE.Raycaster;
  /** Whether the hand wants to be fine, or to add to what is picked. */
  readonly shift: boolean;
  /** Whether what is under it is taken in or out. */
  readonly ctrl: boolean;
}

/** What the pointer holds, from pressing to letting go. */
export interface Grab {
  /** The hand has gone on. @returns what it holds from here on, where that is another */
  move(pointer: Pointer): Grab | undefined;
  release?(pointer: Pointer): void;
  /** All is as if it had never been pressed. */
  cancel?(): void;
}

/** What stands under a pointer that is not pressed. */
export interface Under {
  /** What it says beside the pointer, and where. */
  readonly note?: { readonly text: string; readonly at: Place };
}

/** What tools work with. */
export interface Hands {
  readonly overlays: Overlays;
  readonly picture: ShotPicture;
  /** What is being dragged is shown with this, kept or dropped. */
  readonly preview: Preview;
  /** The frame round what is being picked. */
  readonly box: HTMLElement;
  draw(): void;
}

/**
 * Something a hand can do on the stage. Of all tools the first that finds something under the pointer has it. A new one is a
 * file in this folder and a line in `index.ts`.
 */
export interface StageTool {
  /** What a press takes hold of; null leaves it to the next tool. */
  grab(moment: Moment, pointer: Pointer): Grab | null;
  /** What the pointer rests on; null leaves it to the next tool. Asked without a pointer when another one has it. */
  hover?(moment: Moment, pointer: Pointer | null): Under | null;
}

/** How a press changes what is picked. */
export const pickingHow = ({ shift, ctrl }: Pointer): 'only' | 'add' | 'toggle' =>
  shift ? 'add' : ctrl ? 'toggle' : 'only';

/** The frame a drag began on, without the dust of floating point. */
export const frameHeld = ({ frame }: Moment): number => Math.round(frame.at * 1000) / 1000;
