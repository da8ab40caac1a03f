import { countKeys, handleReach, type Key, type KeySelection, type Shot } from '@varrup/core';
import { scaleLinear } from 'd3';
import { colour } from '../ui/theme.ts';
import { drawGround, drawNow, drawRuler, prepare, RULER } from './draw-time.ts';
import type { ShownCurve } from './shown-curves.ts';
import { type Span, timeScale } from './time-axis.ts';

/** The handles of more keys than this would only hide the curve. */
const MOST_HANDLES = 24;

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
  for (const curve of picture.curves) drawCurve(context, picture, curve, width, height);
  for (const curve of picture.curves) drawKeys(context, picture, curve, width, height);
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
  width: number,
  height: number,
): void {
  const x = timeScale(picture.span, width);
  const y = valueScale(picture.values, height);
  const { reader, scale, curve } = shown;
  context.strokeStyle = colour(shown.colour);
  const [from, to] = [x(curve.keys[0].frame), x(curve.keys[curve.keys.length - 1].frame)];
  const stretch = (a: number, b: number, dashed: boolean) => {
    const [start, end] = [Math.max(0, a), Math.min(width, b)];
    if (end <= start) return;
    context.setLineDash(dashed ? [4, 4] : []);
    context.globalAlpha = dashed ? 0.55 : 1;
    context.lineWidth = dashed ? 1.2 : 1.8;
    context.beginPath();
    // A sample a pixel: the curve drawn is the motion played.
    for (let p = start; p < end; p++) context.lineTo(p, y(reader.at(x.invert(p)) * scale));
    context.lineTo(end, y(reader.at(x.invert(end)) * scale));
    context.stroke();
  };
  stretch(0, from, true);
  stretch(to, width, true);
  stretch(from, to, false);
  context.setLineDash([]);
  context.globalAlpha = 1;
  context.lineWidth = 1;
}

function drawKeys(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  width: number,
  height: number,
): void {
  const x = timeScale(picture.span, width);
  const y = valueScale(picture.values, height);
  const picked = new Set(picture.keys[shown.path] ?? []);
  const withHandles = countKeys(picture.keys) <= MOST_HANDLES;
  shown.curve.keys.forEach((key, index) => {
    const [px, py] = [x(key.frame), y(key.value * shown.scale)];
    if (px < -80 || px > width + 80) return;
    const isPicked = picked.has(key.frame);
    if (isPicked && withHandles) drawHandles(context, picture, shown, index, [px, py], width, height);
    context.beginPath();
    context.roundRect(px - 3, py - 7, 6, 14, 3);
    context.fillStyle = key.role === 'breakdown' ? colour('card') : colour(isPicked ? 'blue' : shown.colour);
    context.fill();
    context.strokeStyle = key.role === 'breakdown' ? colour(isPicked ? 'blue' : shown.colour) : colour('card');
    context.stroke();
  });
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
