/**
 * A picture made of lines only, written straight into pixels. Hundreds of curves over the whole width are more than a canvas
 * strokes in the time of a frame; here a line costs a few numbers for each column it crosses.
 */
export class Raster {
  readonly width: number;
  readonly height: number;
  readonly #image: ImageData;
  readonly #pixels: Uint32Array;
  readonly #canvas: OffscreenCanvas;

  /** @param width @param height in pixels of the screen */
  constructor(width: number, height: number) {
    this.width = width;
    this.height = height;
    this.#image = new ImageData(width, height);
    this.#pixels = new Uint32Array(this.#image.data.buffer);
    this.#canvas = new OffscreenCanvas(width, height);
  }

  clear(): void {
    this.#pixels.fill(0);
  }

  /** Draws what has been written over a canvas that is `width` units wide. */
  paint(context: CanvasRenderingContext2D, width: number, height: number): void {
    this.#canvas.getContext('2d')!.putImageData(this.#image, 0, 0);
    context.imageSmoothingEnabled = false;
    context.drawImage(this.#canvas, 0, 0, width, height);
    context.imageSmoothingEnabled = true;
  }

  /**
   * A line from left to right.
   * @param colour as `packed` gives it @param half half its thickness in pixels
   * @param soft whether its edges fade; among very many lines nobody sees that, and it costs as much again
   */
  line(x0: number, y0: number, x1: number, y1: number, colour: number, half: number, soft: boolean): void {
    if (x1 < 0 || x0 >= this.width) return;
    const slope = x1 > x0 ? (y1 - y0) / (x1 - x0) : 0;
    const end = Math.floor(x1);
    const first = x0 < 0 ? 0 : Math.floor(x0);
    const last = end < this.width ? end : this.width - 1;
    let from = x0 < 0 ? y0 - x0 * slope : y0;
    for (let column = first; column <= last; column++) {
      const to = column === end ? y1 : y0 + (column + 1 - x0) * slope;
      const top = (from < to ? from : to) - half;
      const bottom = (from < to ? to : from) + half;
      from = to;
      if (soft) this.#column(column, top, bottom, colour);
      else this.#solid(column, top, bottom, colour);
    }
  }

  /** A small upright mark. */
  mark(x: number, y: number, half: number, reach: number, colour: number): void {
    const first = Math.max(0, Math.round(x - half));
    const last = Math.min(this.width - 1, Math.round(x + half) - 1);
    for (let column = first; column <= last; column++) this.#column(column, y - reach, y + reach, colour);
  }

  /** Part of one column; where it covers a pixel only in part it is as faint as that. */
  #column(column: number, top: number, bottom: number, colour: number): void {
    const { width, height } = this;
    if (bottom <= 0 || top >= height) return;
    const pixels = this.#pixels;
    const first = top < 0 ? -1 : top | 0;
    const last = bottom >= height ? height : bottom | 0;
    if (first === last) {
      this.#touch(first * width + column, bottom - top, colour);
      return;
    }
    if (first >= 0) this.#touch(first * width + column, first + 1 - top, colour);
    const solid = (0xff000000 | colour) >>> 0;
    const end = last * width + column;
    for (let at = (first + 1) * width + column; at < end; at += width) pixels[at] = solid;
    if (last < height) this.#touch(end, bottom - last, colour);
  }

  /** The same in whole pixels. */
  #solid(column: number, top: number, bottom: number, colour: number): void {
    const { width, height } = this;
    const first = top < 0 ? 0 : (top + 0.5) | 0;
    const last = bottom >= height ? height : (bottom + 0.5) | 0;
    const pixels = this.#pixels;
    const ink = (0xff000000 | colour) >>> 0;
    const end = last * width + column;
    for (let at = first * width + column; at < end; at += width) pixels[at] = ink;
  }

  /** Covers part of a pixel. Of two lines the one that covers more of it is seen. */
  #touch(at: number, covered: number, colour: number): void {
    const alpha = (covered * 255) | 0;
    if (alpha >= this.#pixels[at] >>> 24) this.#pixels[at] = ((alpha << 24) | colour) >>> 0;
  }
}

/** A colour of the theme (`#rrggbb`) as the low three bytes of a pixel. */
export function packed(colour: string): number {
  const n = Number.parseInt(colour.trim().slice(1, 7), 16);
  return ((n & 0xff) << 16) | (n & 0xff00) | (n >> 16);
}
