import { DRAWING_SHEETS, outline, type Stroke, type StrokeTint, smoothPoints, unpackPoints } from '@varrup/core';

/** Drawings as pictures: on the page and in workers, at any size. Paper is light under any lamp: it is a picture and no part of the desk. */

export const PAPER = '#fbf8f1';

export const tints: Readonly<Record<StrokeTint, string>> = {
  graphite: '#34373c',
  blue: '#2f5da8',
  vermilion: '#cf4427',
  ochre: '#b97b12',
  moss: '#55793a',
  teal: '#1f7f80',
  plum: '#7d3f78',
};

type Context = OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D;

/** How far apart points of a smoothed line are, in widths of the picture. */
const STEP = 0.004;

interface Shape {
  readonly path: Path2D;
  /** How hard it was pressed on the whole, from 0 to 1. */
  readonly pressed: number;
}

/** What a line looks like never changes: it is worked out once. */
const shapes = new WeakMap<Stroke, Shape>();

function shapeOf(stroke: Stroke): Shape {
  const known = shapes.get(stroke);
  if (known) return known;
  const points = unpackPoints(stroke.points);
  // A tone is as wide all along as its marker is.
  if (stroke.tool !== 'pencil') for (let i = 2; i < points.length; i += 3) points[i] = 1;
  const edge = outline(smoothPoints(points, STEP), stroke.wide);
  const path = new Path2D();
  for (let i = 0; i < edge.length; i += 2) path[i === 0 ? 'moveTo' : 'lineTo'](edge[i], edge[i + 1]);
  path.closePath();
  let pressed = 0;
  for (let i = 2; i < points.length; i += 3) pressed += points[i];
  const shape = { path, pressed: pressed / Math.max(1, points.length / 3) };
  shapes.set(stroke, shape);
  return shape;
}

const GRAIN = 128;
const grains = new Map<string, OffscreenCanvas>();

/** Colour as a pencil leaves it on paper: thinner where the paper is low. */
function grainOf(colour: string): OffscreenCanvas {
  const known = grains.get(colour);
  if (known) return known;
  const canvas = new OffscreenCanvas(GRAIN, GRAIN);
  const context = canvas.getContext('2d')!;
  context.fillStyle = colour;
  context.fillRect(0, 0, GRAIN, GRAIN);
  const image = context.getImageData(0, 0, GRAIN, GRAIN);
  let seed = 20_261;
  for (let i = 3; i < image.data.length; i += 4) {
    seed = (seed * 16_807) % 2_147_483_647;
    image.data[i] = 255 * (1 - 0.38 * (seed / 2_147_483_647) ** 1.5);
  }
  context.putImageData(image, 0, 0);
  grains.set(colour, canvas);
  return canvas;
}

/** Draws a line on a sheet that is `width` pixels wide. */
export function drawStroke(context: Context, stroke: Stroke, width: number): void {
  const { path, pressed } = shapeOf(stroke);
  context.save();
  context.scale(width, width);
  if (stroke.tool === 'rubber') {
    context.globalCompositeOperation = 'destination-out';
    context.globalAlpha = 0.8;
    context.fill(path);
    // Softer at its edge than in its middle.
    context.globalAlpha = 0.35;
    context.lineWidth = stroke.wide * 0.35;
    context.lineJoin = 'round';
    context.stroke(path);
  } else if (stroke.tool === 'tone') {
    context.globalAlpha = 0.2;
    context.fillStyle = tints[stroke.tint];
    context.fill(path);
  } else {
    const pattern = context.createPattern(grainOf(tints[stroke.tint]), 'repeat')!;
    pattern.setTransform(new DOMMatrix().scale(1 / width));
    context.globalAlpha = 0.5 + 0.5 * pressed;
    context.fillStyle = pattern;
    context.fill(path);
  }
  context.restore();
}

/** A drawing as it stands, sheet by sheet. What is drawn last is added; only where something else has changed is it drawn anew. */
export class DrawingRaster {
  readonly #sheets: (OffscreenCanvas | null)[] = Array.from({ length: DRAWING_SHEETS }, () => null);
  #drawn: readonly Stroke[] = [];
  /** The sheet that is being drawn on as it was before. */
  #before: OffscreenCanvas | null = null;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {}

  draw(strokes: readonly Stroke[]): void {
    if (strokes === this.#drawn) return;
    const goesOn = this.#drawn.length <= strokes.length && this.#drawn.every((stroke, i) => stroke === strokes[i]);
    if (!goesOn) for (const sheet of this.#sheets) sheet?.getContext('2d')?.clearRect(0, 0, this.width, this.height);
    for (const stroke of goesOn ? strokes.slice(this.#drawn.length) : strokes) this.#add(stroke);
    this.#drawn = strokes;
    this.#before = null;
  }

  /** Draws a line that is not done yet over what is there; null takes it away again. */
  live(stroke: Stroke | null, sheet: number): void {
    const canvas = this.#sheet(sheet);
    const context = canvas.getContext('2d')!;
    if (this.#before) {
      context.clearRect(0, 0, this.width, this.height);
      context.drawImage(this.#before, 0, 0);
    } else {
      this.#before = new OffscreenCanvas(this.width, this.height);
      this.#before.getContext('2d')!.drawImage(canvas, 0, 0);
    }
    if (stroke) drawStroke(context, stroke, this.width);
    else this.#before = null;
  }

  /** Lays the sheets over one another onto something else. */
  onto(context: Context, hidden: readonly number[] = []): void {
    this.#sheets.forEach((sheet, i) => {
      if (sheet && !hidden.includes(i)) context.drawImage(sheet, 0, 0);
    });
  }

  #add(stroke: Stroke): void {
    drawStroke(this.#sheet(stroke.sheet).getContext('2d')!, stroke, this.width);
  }

  #sheet(index: number): OffscreenCanvas {
    const sheet = this.#sheets[index] ?? new OffscreenCanvas(this.width, this.height);
    this.#sheets[index] = sheet;
    return sheet;
  }
}
