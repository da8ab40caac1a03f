import { PANEL_ASPECT, type Panel, type PanelFrame, type Shot, strokesOn } from '@varrup/core';
import { DrawingRaster, PAPER } from '../drawing/raster.ts';
import { imageNow } from '../media/images.ts';

/** Panels as pictures, on the page and in the worker that makes movies. */

type Context = OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D;

export const heightOf = (width: number): number => Math.round(width / PANEL_ASPECT);

export interface PanelLook {
  /** Sheets that are not seen. */
  readonly hidden?: readonly number[];
  /** What of it is seen; all of it without. */
  readonly frame?: PanelFrame;
}

/** The drawings of a board at one size, each kept as long as it is the same. */
export class PanelPictures {
  readonly #rasters = new Map<string, DrawingRaster>();
  readonly #whole: OffscreenCanvas;

  constructor(readonly width: number) {
    this.#whole = new OffscreenCanvas(width, heightOf(width));
  }

  /** The drawing of a panel as it stands. */
  rasterOf(shot: Pick<Shot, 'strokes'>, id: string): DrawingRaster {
    const raster = this.#rasters.get(id) ?? new DrawingRaster(this.width, heightOf(this.width));
    this.#rasters.set(id, raster);
    raster.draw(strokesOn(shot.strokes, id));
    return raster;
  }

  /** Draws a panel onto a canvas, as large as that is. */
  onto(context: Context, shot: Pick<Shot, 'strokes'>, panel: Panel, look: PanelLook = {}): void {
    const { canvas } = context;
    const whole = this.#whole.getContext('2d')!;
    this.#drawWhole(whole, shot, panel, look.hidden ?? []);
    context.save();
    context.imageSmoothingQuality = 'high';
    context.fillStyle = PAPER;
    context.fillRect(0, 0, canvas.width, canvas.height);
    const { x, y, wide } = look.frame ?? { x: 0.5, y: 0.5 / PANEL_ASPECT, wide: 1 };
    const high = wide / PANEL_ASPECT;
    const scale = canvas.width / wide;
    // What lies beyond the panel's edge is paper.
    context.drawImage(
      this.#whole,
      (wide / 2 - x) * scale,
      (high / 2 - y) * scale,
      scale,
      (scale * this.#whole.height) / this.#whole.width,
    );
    context.restore();
  }

  #drawWhole(
    context: OffscreenCanvasRenderingContext2D,
    shot: Pick<Shot, 'strokes'>,
    panel: Panel,
    hidden: readonly number[],
  ) {
    const { width, height } = this.#whole;
    context.fillStyle = PAPER;
    context.fillRect(0, 0, width, height);
    const image = panel.picture === null ? null : imageNow(panel.picture);
    if (image) {
      const scale = Math.max(width / image.width, height / image.height);
      const [w, h] = [image.width * scale, image.height * scale];
      context.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
    }
    const isWords = panel.picture === null && strokesOn(shot.strokes, panel.id).length === 0;
    if (isWords) drawWords(context, panel.happens || panel.says || panel.name, width, height);
    else this.rasterOf(shot, panel.id).onto(context, hidden);
  }
}

/** A panel of words only says them in its middle. */
function drawWords(context: OffscreenCanvasRenderingContext2D, text: string, width: number, height: number): void {
  const size = width / 26;
  context.font = `500 ${size}px "Hanken Grotesk Variable", "Hanken Grotesk", sans-serif`;
  context.fillStyle = '#4a4e54';
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  const lines: string[] = [];
  for (const paragraph of text.split('\n')) {
    let line = '';
    for (const word of paragraph.split(/\s+/)) {
      const longer = line ? `${line} ${word}` : word;
      if (line && context.measureText(longer).width > width * 0.8) {
        lines.push(line);
        line = word;
      } else line = longer;
    }
    lines.push(line);
  }
  const shown = lines.slice(0, 10);
  shown.forEach((line, i) => {
    context.fillText(line, width / 2, height / 2 + (i - (shown.length - 1) / 2) * size * 1.35);
  });
}
