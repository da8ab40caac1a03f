import { ORIENTATION, splitPath } from '../document/channels.ts';
import type { Shot } from '../document/shot.ts';
import type { Given } from '../track/arrangement.ts';
import { type Layout, placeOf } from './layout.ts';

/**
 * The channels of a rig whose tracks have just changed, read there and then. A span that is drawn to and fro is another arrangement with each step of the hand, and
 * only a frame of it is seen: making curves of all of it would cost a hundred times as much. What is looked at for longer becomes curves.
 */
export class LiveTracks {
  readonly given: Given;
  readonly paths: readonly string[];
  readonly #targets: Int32Array;
  #seen: number;
  #last = Number.NaN;

  /** @param seen how many frames have been looked at already */
  constructor(shot: Shot, layout: Layout, given: Given, seen = 0) {
    this.given = given;
    this.#seen = seen;
    // What has keys of its own, or somebody's hand on it, is not the tracks'.
    this.paths = [...given.paths].filter(
      (path) =>
        !shot.curves.has(path) && !shot.over?.has(path) && !isTurn(path) && layout.slotOf.has(splitPath(path).member),
    );
    this.#targets = Int32Array.from(this.paths, (path) => placeOf(layout, path));
  }

  get seen(): number {
    return this.#seen;
  }

  /** Hears that a frame is wanted. */
  look(time: number): void {
    if (time === this.#last) return;
    this.#last = time;
    this.#seen++;
  }

  run(time: number, values: Float64Array): void {
    const { given, paths } = this;
    for (let i = 0; i < paths.length; i++) {
      const target = this.#targets[i];
      if (target >= 0) values[target] = given.at(paths[i], time);
    }
  }
}

/** Whether a channel is an orientation: those are made curves of at once. */
export const isTurn = (path: string): boolean => splitPath(path).channel === ORIENTATION;
