import { countKeys, handleReach, type Key, type KeySelection, type Shot, writeControlPoints } from '@varrup/core';
import { scaleLinear } from 'd3';
import { colour } from '../ui/theme.ts';
import { drawGround, drawNow, drawRuler, prepare, RULER } from './draw-time.ts';
import type { ShownCurve } from './shown-curves.ts';
import { type Span, timeScale } from './time-axis.ts';

/** The handles of more keys than this would only hide the curve. */
const MOST_HANDLES = 24;

/** With more keys than this, lines and keys are drawn thin. */
const CROWD = 1500;

export interface ValueSpan {
  readonly low: number;
  readonly high: number;
}

export interface CurvesPicture {
  readonly shot: Shot;
  readonly curves: readonly ShownCurve[];
  readonly keys: KeySelection;
  readonly span: Span;
  readonly values: ValueSpan;
  readonly frame: number;
  readonly box: readonly [number, number, number, number] | null;
}

/** Values up, pixels down. */
export const valueScale = (values: ValueSpan, height: number) =>
  scaleLinear([values.low, values.high], [height - 8, RULER + 8]);

/** Draws curves as they are evaluated, their keys, and the handles of the picked ones. */
export function drawCurves(canvas: HTMLCanvasElement, picture: CurvesPicture): void {
  const { context, width, height } = prepare(canvas);
  const { shot, span } = picture;
  drawGround(context, shot, span, width, height);
  drawValueLines(context, picture, width, height);
  const inView = picture.curves.reduce((n, { curve }) => n + curve.keys.length, 0);
  const crowded = inView > CROWD;
  for (const curve of picture.curves) drawCurve(context, picture, curve, crowded, width, height);
  for (const curve of picture.curves) drawKeys(context, picture, curve, crowded, width, height);
  drawRuler(context, shot, span, width);
  drawNow(context, picture.frame, span, width, height);
  if (picture.box) {
    const [x0, y0, x1, y1] = picture.box;
    context.strokeStyle = colour('blue');
    context.strokeRect(x0 + 0.5, y0 + 0.5, x1 - x0, y1 - y0);
  }
}

function drawValueLines(
  context: CanvasRenderingContext2D,
  { values }: CurvesPicture,
  width: number,
  height: number,
): void {
  const y = valueScale(values, height);
  context.font = '11px "Spline Sans Mono", monospace';
  context.textAlign = 'left';
  context.textBaseline = 'bottom';
  const ticks = y.ticks(Math.max(2, Math.floor((height - RULER) / 38)));
  const word = y.tickFormat(ticks.length);
  for (const tick of ticks) {
    const at = Math.round(y(tick)) + 0.5;
    context.strokeStyle = colour(tick === 0 ? 'graphite' : 'rule');
    context.globalAlpha = tick === 0 ? 0.5 : 0.8;
    context.beginPath();
    context.moveTo(0, at);
    context.lineTo(width, at);
    context.stroke();
    context.globalAlpha = 1;
    context.fillStyle = colour('graphite');
    context.fillText(word(tick), 4, at - 1);
  }
}

function drawCurve(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  crowded: boolean,
  width: number,
  height: number,
): void {
  const x = timeScale(picture.span, width);
  const { keys } = shown.curve;
  context.strokeStyle = colour(shown.colour);
  context.lineWidth = crowded ? 1 : 1.8;
  context.beginPath();
  traceSegments(context, picture, shown, width, height);
  context.stroke();
  context.setLineDash([4, 4]);
  context.globalAlpha = 0.55;
  context.lineWidth = 1;
  traceBeyond(context, picture, shown, 0, Math.min(width, x(keys[0].frame)), width, height);
  traceBeyond(context, picture, shown, Math.max(0, x(keys[keys.length - 1].frame)), width, width, height);
  context.setLineDash([]);
  context.globalAlpha = 1;
}

const control = new Float64Array(4);

/** Between keys the curve is a Bézier, and the canvas draws that very Bézier: what is drawn is what is played. */
function traceSegments(
  context: CanvasRenderingContext2D,
  { span, values }: CurvesPicture,
  { curve, reader, scale }: ShownCurve,
  width: number,
  height: number,
): void {
  const [x, y] = [timeScale(span, width), valueScale(values, height)];
  // The two scales as plain lines: they are asked for six numbers a segment.
  const [x0, y0] = [x(0), y(0)];
  const perFrame = x(1) - x0;
  const perValue = (y(1) - y0) * scale;
  const { frames, values: heights } = reader.compiled;
  const last = frames.length - 1;
  let i = 0;
  while (i < last && frames[i + 1] < span.first) i++;
  context.moveTo(x0 + frames[i] * perFrame, y0 + heights[i] * perValue);
  for (; i < last && frames[i] <= span.last; i++) {
    writeControlPoints(reader.compiled, i, control);
    const endX = x0 + frames[i + 1] * perFrame;
    const endY = y0 + heights[i + 1] * perValue;
    if (curve.keys[i].out.kind === 'stepped') {
      context.lineTo(endX, y0 + heights[i] * perValue);
      context.lineTo(endX, endY);
    } else {
      const [ax, ay] = [x0 + control[0] * perFrame, y0 + control[1] * perValue];
      context.bezierCurveTo(ax, ay, x0 + control[2] * perFrame, y0 + control[3] * perValue, endX, endY);
    }
  }
}

/** Beyond its keys a curve is drawn from its values, every other pixel. */
function traceBeyond(
  context: CanvasRenderingContext2D,
  { span, values }: CurvesPicture,
  { reader, scale }: ShownCurve,
  from: number,
  to: number,
  width: number,
  height: number,
): void {
  if (to <= from) return;
  const x = timeScale(span, width);
  const y = valueScale(values, height);
  context.beginPath();
  for (let p = from; p < to; p += 2) context.lineTo(p, y(reader.at(x.invert(p)) * scale));
  context.lineTo(to, y(reader.at(x.invert(to)) * scale));
  context.stroke();
}

/** All keys of a curve that look alike are one path, and where they are crowded plain marks: little ones cost much. */
function drawKeys(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  crowded: boolean,
  width: number,
  height: number,
): void {
  const x = timeScale(picture.span, width);
  const y = valueScale(picture.values, height);
  const picked = new Set(picture.keys[shown.path] ?? []);
  const withHandles = countKeys(picture.keys) <= MOST_HANDLES;
  const paths = { key: new Path2D(), breakdown: new Path2D(), pickedKey: new Path2D(), pickedBreakdown: new Path2D() };
  shown.curve.keys.forEach((key, index) => {
    const [px, py] = [x(key.frame), y(key.value * shown.scale)];
    if (px < -4 || px > width + 4) return;
    const isPicked = picked.has(key.frame);
    if (isPicked && withHandles) drawHandles(context, picture, shown, index, [px, py], width, height);
    const kind = isPicked ? (key.role === 'key' ? 'pickedKey' : 'pickedBreakdown') : key.role;
    if (crowded) paths[kind].rect(Math.round(px) - 1, Math.round(py) - 3, 2, 6);
    else paths[kind].roundRect(px - 3, py - 7, 6, 14, 3);
  });
  const [own, card, blue] = [colour(shown.colour), colour('card'), colour('blue')];
  const paint = (path: Path2D, fill: string, stroke: string) => {
    context.fillStyle = crowded && fill === card ? stroke : fill;
    context.fill(path);
    if (crowded) return;
    context.strokeStyle = stroke;
    context.stroke(path);
  };
  paint(paths.key, own, card);
  paint(paths.breakdown, card, own);
  paint(paths.pickedKey, blue, card);
  paint(paths.pickedBreakdown, card, blue);
}

function drawHandles(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  index: number,
  [px, py]: [number, number],
  width: number,
  height: number,
): void {
  for (const side of ['in', 'out'] as const) {
    const end = handleEnd(picture, shown, index, side, width, height);
    if (!end) continue;
    context.strokeStyle = colour('graphite');
    context.beginPath();
    context.moveTo(px, py);
    context.lineTo(end[0], end[1]);
    context.stroke();
    context.beginPath();
    context.arc(end[0], end[1], 4, 0, Math.PI * 2);
    // A handle set by hand is filled; one that follows the neighbours is open.
    const free = shown.curve.keys[index][side].kind === 'free';
    context.fillStyle = colour(free ? 'blue' : 'card');
    context.fill();
    context.strokeStyle = colour('blue');
    context.stroke();
  }
}

/** Where a handle ends on the canvas. */
export function handleEnd(
  { span, values }: Pick<CurvesPicture, 'span' | 'values'>,
  shown: ShownCurve,
  index: number,
  side: 'in' | 'out',
  width: number,
  height: number,
): [number, number] | null {
  const reach = handleReach(shown.curve, index, side);
  if (!reach) return null;
  const key: Key = shown.curve.keys[index];
  const frame = key.frame + (side === 'out' ? reach.frames : -reach.frames);
  return [timeScale(span, width)(frame), valueScale(values, height)((key.value + reach.rise) * shown.scale)];
}
