import { writeControlPoints } from '@varrup/core';
import { colour } from '../ui/theme.ts';
import type { CurvesPicture } from './draw-curves.ts';
import { packed, Raster } from './raster.ts';
import type { ShownCurve } from './shown-curves.ts';

/** Many curves at once, drawn thin: the same lines and keys, without handles. */

interface Scale {
  readonly at0: number;
  readonly per: number;
}

export interface Crowd {
  readonly picture: CurvesPicture;
  readonly x: Scale;
  readonly y: Scale;
}

/** Soft edges of more curves than this cannot be told from hard ones. */
const MOST_SOFT = 60;

/** More curves than this are drawn at half the resolution. */
const MOST_SHARP = 150;

let raster: Raster | null = null;

export function drawCrowd(context: CanvasRenderingContext2D, crowd: Crowd, width: number, height: number): void {
  // Hundreds of curves cover the view many times over: at half the resolution they say as much, in a quarter of the time.
  const ratio = devicePixelRatio / (crowd.picture.curves.length > MOST_SHARP ? 2 : 1);
  const [w, h] = [Math.max(1, Math.round(width * ratio)), Math.max(1, Math.round(height * ratio))];
  if (raster?.width !== w || raster.height !== h) raster = new Raster(w, h);
  else raster.clear();
  const soft = crowd.picture.curves.length <= MOST_SOFT;
  for (const shown of crowd.picture.before) line(raster, crowd, shown, ratio, packed(colour('rule')), soft);
  for (const shown of crowd.picture.curves) line(raster, crowd, shown, ratio, packed(colour(shown.colour)), soft);
  for (const shown of crowd.picture.curves) marks(raster, crowd, shown, ratio);
  raster.paint(context, width, height);
}

/** Places on the screen: frames and values of one curve to pixels. */
function scales({ x, y }: Crowd, { scale, shift }: ShownCurve, ratio: number) {
  return {
    x0: x.at0 * ratio,
    perFrame: x.per * ratio,
    y0: (y.at0 + y.per * shift) * ratio,
    perValue: y.per * scale * ratio,
  };
}

const control = new Float64Array(4);

function line(to: Raster, crowd: Crowd, shown: ShownCurve, ratio: number, ink: number, soft: boolean): void {
  const { x0, perFrame, y0, perValue } = scales(crowd, shown, ratio);
  const { compiled } = shown.reader;
  const { frames, values } = compiled;
  const last = frames.length - 1;
  const half = 0.5 * ratio;
  let i = 0;
  while (i < last && x0 + frames[i + 1] * perFrame < 0) i++;
  for (; i < last; i++) {
    const ax = x0 + frames[i] * perFrame;
    if (ax > to.width) break;
    const ay = y0 + values[i] * perValue;
    const bx = x0 + frames[i + 1] * perFrame;
    const by = y0 + values[i + 1] * perValue;
    if (shown.curve.keys[i].out.kind === 'stepped') {
      to.line(ax, ay, bx, ay, ink, half, soft);
      to.line(bx, ay, bx, by, ink, half, soft);
      continue;
    }
    writeControlPoints(compiled, i, control);
    bezier(
      to,
      ax,
      ay,
      x0 + control[0] * perFrame,
      y0 + control[1] * perValue,
      x0 + control[2] * perFrame,
      y0 + control[3] * perValue,
      bx,
      by,
      ink,
      half,
      soft,
    );
  }
}

/** A Bézier in as many straight pieces as its size on the screen asks for. */
function bezier(
  to: Raster,
  ax: number,
  ay: number,
  c1x: number,
  c1y: number,
  c2x: number,
  c2y: number,
  bx: number,
  by: number,
  ink: number,
  half: number,
  soft: boolean,
): void {
  // How far the handles stand off the straight way says how much it bends.
  const bend =
    Math.abs(ax - 2 * c1x + c2x) +
    Math.abs(ay - 2 * c1y + c2y) +
    Math.abs(c1x - 2 * c2x + bx) +
    Math.abs(c1y - 2 * c2y + by);
  const pieces = Math.min(48, 1 + Math.ceil(Math.sqrt(bend / (soft ? 3 : 16))));
  let [px, py] = [ax, ay];
  for (let k = 1; k <= pieces; k++) {
    const u = k / pieces;
    const v = 1 - u;
    const [w0, w1, w2, w3] = [v * v * v, 3 * v * v * u, 3 * v * u * u, u * u * u];
    const qx = w0 * ax + w1 * c1x + w2 * c2x + w3 * bx;
    const qy = w0 * ay + w1 * c1y + w2 * c2y + w3 * by;
    to.line(px, py, qx, qy, ink, half, soft);
    [px, py] = [qx, qy];
  }
}

function marks(to: Raster, crowd: Crowd, shown: ShownCurve, ratio: number): void {
  const { x0, perFrame, y0, perValue } = scales(crowd, shown, ratio);
  const picked = new Set(crowd.picture.keys[shown.path] ?? []);
  const [own, blue] = [packed(colour(shown.colour)), packed(colour('blue'))];
  for (const { frame, value } of shown.curve.keys) {
    const isPicked = picked.size > 0 && picked.has(frame);
    const reach = (isPicked ? 5 : 3) * ratio;
    to.mark(x0 + frame * perFrame, y0 + value * perValue, ratio, reach, isPicked ? blue : own);
  }
}
