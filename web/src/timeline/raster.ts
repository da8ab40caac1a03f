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
    context.drawImage(this.#canvas, 0, 0, width, height);
  }

  /**
   * A line from left to right.
   * @param colour as `packed` gives it @param half half its thickness in pixels
   */
  line(x0: number, y0: number, x1: number, y1: number, colour: number, half: number): void {
    if (x1 < 0 || x0 >= this.width) return;
    const slope = x1 > x0 ? (y1 - y0) / (x1 - x0) : 0;
    const first = Math.max(0, Math.floor(x0));
    const last = Math.min(this.width - 1, Math.floor(x1));
    for (let column = first; column <= last; column++) {
      const from = Math.max(x0, column);
      const to = Math.min(x1, column + 1);
      const a = y0 + (from - x0) * slope;
      const b = x1 > x0 ? y0 + (to - x0) * slope : y1;
      this.#column(column, Math.min(a, b) - half, Math.max(a, b) + half, colour);
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
    if (bottom < 0 || top >= this.height) return;
    const first = Math.max(0, Math.floor(top));
    const last = Math.min(this.height - 1, Math.floor(bottom));
    const pixels = this.#pixels;
    for (let row = first, at = first * this.width + column; row <= last; row++, at += this.width) {
      const covered = Math.min(bottom, row + 1) - Math.max(top, row);
      const alpha = covered >= 1 ? 255 : (covered * 255) | 0;
      // Of two lines the one that covers more of the pixel is seen.
      if (alpha >= pixels[at] >>> 24) pixels[at] = (alpha << 24) | colour;
    }
  }
}

/** A colour of the theme (`#rrggbb`) as the low three bytes of a pixel. */
export function packed(colour: string): number {
  const n = Number.parseInt(colour.trim().slice(1, 7), 16);
  return ((n & 0xff) << 16) | (n & 0xff00) | (n >> 16);
}
