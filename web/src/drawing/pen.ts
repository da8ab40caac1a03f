import { type DrawingTool, newId, packPoints, type Stroke, type StrokeTint, thinPoints } from '@varrup/core';

/** With what one draws. */
export interface Pencil {
  readonly tool: DrawingTool;
  readonly tint: StrokeTint;
  /** In widths of the picture. */
  readonly wide: number;
}

/** How far a line may be from where the hand was, in widths of the picture: less than a pixel of 1,600. */
const TOLERANCE = 0.0005;
/** A line that is longer goes on as another. */
export const MOST_POINTS = 1_500;

/** A line under the hand: where it has been, and how hard it was pressed. */
export class Pen {
  readonly #points: number[] = [];
  #time = 0;
  #pressure = 0.55;

  get count(): number {
    return this.#points.length / 3;
  }

  /**
   * Takes a place the hand has come to. A pen says how hard it presses; of a mouse that is told by how fast it goes.
   * @param x widths of the picture from its left @param pressure from 0 to 1; null where the device knows none
   */
  to(x: number, y: number, pressure: number | null, time: number): void {
    const last = this.#points.length - 3;
    if (pressure !== null) this.#pressure = pressure;
    else if (last >= 0 && time > this.#time) {
      const speed = Math.hypot(x - this.#points[last], y - this.#points[last + 1]) / ((time - this.#time) / 1000);
      this.#pressure += (Math.min(0.8, Math.max(0.3, 0.8 - speed * 0.35)) - this.#pressure) * 0.35;
    }
    this.#time = time;
    if (last >= 0 && this.#points[last] === x && this.#points[last + 1] === y) return;
    this.#points.push(x, y, this.#pressure);
  }

  /** The line as it is so far. */
  stroke(pencil: Pencil, on: string, sheet: number, place: number, id: string = newId()): Stroke {
    const points = packPoints(thinPoints(this.#points, TOLERANCE));
    return { id, on, sheet, place, ...pencil, points };
  }
}
