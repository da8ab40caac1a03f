import { type Frame, type Note, type NoteView, type Shot, strokesOn } from '@varrup/core';
import { DrawingRaster } from '../drawing/raster.ts';
import type { Studio, View } from '../pictures/studio.ts';
import { notesOf } from '../review/notes-of.ts';
import { sameLook } from '../review/same-look.ts';
import { evaluator } from '../stage/picture/picture.ts';
import { pinPlace } from '../stage/pins.ts';

/** What takes pictures of a shot, frame by frame, onto a canvas. */
export type Takes = Pick<Studio, 'canvas' | 'take'>;

/** Drawings on the stage are kept in the shape of what a camera films. */
const ASPECT = 16 / 9;
/** More than these are not written out on one frame. */
const MOST_WORDS = 4;

const ink = { open: '#b3331a', done: '#3f6a2c', dropped: '#60646a' } as const satisfies Record<Note['state'], string>;

/** Pictures of a shot with its review on them: what was drawn on what they show, where each note is pinned, and what it says. */
export class NotedPictures implements Takes {
  readonly canvas = new OffscreenCanvas(16, 16);
  readonly #studio: Studio;
  readonly #rasters = new Map<string, DrawingRaster>();
  #shot: Shot | null = null;
  #notes: readonly Note[] = [];
  /** An evaluator of its own: the studio's frame stays as it is. */
  #at: ((time: number) => Frame) | null = null;

  constructor(studio: Studio) {
    this.#studio = studio;
  }

  take(shot: Shot, time: number, view: View): void {
    if (shot !== this.#shot || !this.#at) {
      [this.#shot, this.#notes, this.#at] = [shot, notesOf(shot), evaluator(shot)];
      this.#rasters.clear();
    }
    const { width, height } = view;
    if (this.canvas.width !== width || this.canvas.height !== height)
      [this.canvas.width, this.canvas.height] = [width, height];
    this.#studio.take(shot, time, view);
    const context = this.canvas.getContext('2d')!;
    context.drawImage(this.#studio.canvas, 0, 0);
    const here = this.#notes.map((note, i) => ({ note, number: i + 1 }));
    const now = here.filter(({ note }) => time >= note.first && time <= note.last);
    for (const { note } of now) this.#drawing(context, shot, note, time, view);
    for (const { note, number } of now) this.#sign(context, note, number, time, view);
    words(context, now, view);
  }

  #drawing(context: OffscreenCanvasRenderingContext2D, shot: Shot, note: Note, time: number, view: View) {
    const { width, height } = view;
    if (note.on.is !== 'stage' || !fits(note.on.view, view)) return;
    const strokes = strokesOn(shot.strokes, note.id);
    if (strokes.length === 0) return;
    const wide = Math.round(height * ASPECT);
    let raster = this.#rasters.get(note.id);
    if (raster?.width !== wide) raster = new DrawingRaster(wide, height);
    this.#rasters.set(note.id, raster);
    raster.draw(strokes);
    const [then, now] = [this.#pinned(note, note.first), this.#pinned(note, time)];
    context.save();
    context.translate((width - wide) / 2, 0);
    // It goes where what it is pinned to has gone since its first frame.
    if (then && now) context.translate(now[0] - then[0], now[1] - then[1]);
    raster.onto(context);
    context.restore();
  }

  /** Where a note's pin is in the picture that was taken last, pixels. */
  #pinned({ on }: Note, time: number): readonly [number, number] | null {
    const pin = on.is === 'stage' ? on.pin : null;
    const place = pin && pinPlace(this.#at!(time), pin);
    return place ? this.#studio.seen(place) : null;
  }

  #sign(context: OffscreenCanvasRenderingContext2D, note: Note, number: number, time: number, { height }: View) {
    const at = this.#pinned(note, time);
    if (!at) return;
    const radius = height * 0.02;
    const [x, y] = [at[0], at[1] - radius];
    context.beginPath();
    context.arc(x, y, radius, 0, 2 * Math.PI);
    context.fillStyle = '#fbf8f1';
    context.fill();
    context.lineWidth = Math.max(1.5, radius * 0.16);
    context.strokeStyle = ink[note.state];
    context.stroke();
    context.fillStyle = ink[note.state];
    context.font = `600 ${radius * 1.15}px system-ui, sans-serif`;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    context.fillText(String(number), x, y);
  }
}

/** What was drawn fits a picture that is seen as it was drawn over: through the shot's camera, or as the stage was looked at. */
const fits = (drawn: NoteView, { camera, look }: View): boolean =>
  look ? sameLook(drawn, look) : drawn.camera && camera !== null;

/** What the notes say, along the lower edge: their numbers, who says it, and a line of it. */
function words(
  context: OffscreenCanvasRenderingContext2D,
  notes: readonly { readonly note: Note; readonly number: number }[],
  { width, height }: View,
): void {
  const size = Math.max(10, height * 0.026);
  const said = notes.filter(({ note }) => note.text !== '').slice(0, MOST_WORDS);
  context.font = `500 ${size}px system-ui, sans-serif`;
  context.textAlign = 'left';
  context.textBaseline = 'middle';
  said.forEach(({ note, number }, i) => {
    const y = height - size * 1.7 * (said.length - i) - size * 0.3;
    const line = shortened(context, `${number}  ${note.text.replace(/\s+/g, ' ')} – ${note.author.name}`, width * 0.9);
    context.fillStyle = 'rgb(251 248 241 / 0.86)';
    context.fillRect(size * 0.6, y - size * 0.75, context.measureText(line).width + size, size * 1.5);
    context.fillStyle = ink[note.state];
    context.fillText(line, size * 1.1, y);
  });
}

function shortened(context: OffscreenCanvasRenderingContext2D, line: string, most: number): string {
  if (context.measureText(line).width <= most) return line;
  let [fits, over] = [0, line.length];
  while (over - fits > 1) {
    const middle = (fits + over) >> 1;
    if (context.measureText(`${line.slice(0, middle)}…`).width <= most) fits = middle;
    else over = middle;
  }
  return `${line.slice(0, fits)}…`;
}
