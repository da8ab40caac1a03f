import { countKeys, type KeySelection, type Shot, writeControlPoints } from '@varrup/core';
import { colour } from '../ui/theme.ts';
import { drawCrowd } from './draw-crowd.ts';
import { drawGround, drawRuler, prepare } from './draw-time.ts';
import { RULER } from './ruler.ts';
import type { ShownCurve } from './shown-curves.ts';
import { type Span, timeScale } from './time-axis.ts';
import { handleEnd, MOST_HANDLES, type ValueSpan, valueScale } from './value-axis.ts';

/** With more keys than this, lines and keys are drawn thin and fast. */
const CROWD = 1500;

/** Speeds of more curves than this cannot be told apart. */
const MOST_SPEEDS = 6;

export interface CurvesPicture {
  readonly shot: Shot;
  readonly curves: readonly ShownCurve[];
  /** The curves as they were, drawn behind. */
  readonly before: readonly ShownCurve[];
  readonly keys: KeySelection;
  readonly span: Span;
  readonly values: ValueSpan;
  readonly normal: boolean;
  readonly speed: boolean;
  readonly box: readonly [number, number, number, number] | null;
}

/** Draws curves as they are evaluated, their keys, and the handles of the picked ones. */
export function drawCurves(canvas: HTMLCanvasElement, picture: CurvesPicture): void {
  const { context, width, height } = prepare(canvas);
  const { shot, span } = picture;
  drawGround(context, shot, span, width, height);
  drawValueLines(context, picture, width, height);
  drawMarks(context, picture, width, height);
  const inAll = picture.curves.reduce((n, { curve }) => n + curve.keys.length, 0);
  if (inAll > CROWD) {
    const drawn = { picture, x: plainScale(timeScale(span, width)), y: plainScale(valueScale(picture.values, height)) };
    drawCrowd(context, drawn, width, height);
  } else {
    for (const curve of picture.before) drawBefore(context, picture, curve, width, height);
    for (const curve of picture.curves) drawCurve(context, picture, curve, width, height);
    if (picture.speed) {
      picture.curves.slice(0, MOST_SPEEDS).forEach((curve, i) => {
        drawSpeed(context, picture, curve, i, width, height);
      });
    }
    for (const curve of picture.curves) drawKeys(context, picture, curve, width, height);
  }
  drawRuler(context, shot, span, width);
  if (picture.box) {
    const [x0, y0, x1, y1] = picture.box;
    context.strokeStyle = colour('blue');
    context.strokeRect(x0 + 0.5, y0 + 0.5, x1 - x0, y1 - y0);
  }
}

/** A straight scale as its place at 0 and what one unit is: asked for many numbers a curve. */
const plainScale = (scale: (v: number) => number) => ({ at0: scale(0), per: scale(1) - scale(0) });

function drawValueLines(
  context: CanvasRenderingContext2D,
  { values, normal }: CurvesPicture,
  width: number,
  height: number,
): void {
  const y = valueScale(values, height);
  context.font = '11px "Spline Sans Mono", monospace';
  context.textAlign = 'left';
  context.textBaseline = 'bottom';
  const ticks = y.ticks(Math.max(2, Math.floor((height - RULER) / 38)));
  const word = normal ? (v: number) => `${Math.round(v * 100)} %` : y.tickFormat(ticks.length);
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

/** Marks of more curves than this would be a net. */
const MOST_MARKED = 4;

/** Where the floor is for what is shown, and how far it may go. */
function drawMarks(
  context: CanvasRenderingContext2D,
  { curves, values }: CurvesPicture,
  width: number,
  height: number,
): void {
  if (curves.length > MOST_MARKED) return;
  const y = valueScale(values, height);
  context.textAlign = 'right';
  context.textBaseline = 'bottom';
  context.setLineDash([7, 4]);
  for (const { marks, scale, shift } of curves)
    for (const { value, word } of marks) {
      const at = Math.round(y(value * scale + shift)) + 0.5;
      if (at < RULER || at > height) continue;
      context.strokeStyle = context.fillStyle = colour('umber');
      context.beginPath();
      context.moveTo(0, at);
      context.lineTo(width, at);
      context.stroke();
      context.fillText(word, width - 6, at - 1);
    }
  context.setLineDash([]);
}

function drawCurve(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  width: number,
  height: number,
): void {
  const x = timeScale(picture.span, width);
  const { keys } = shown.curve;
  context.strokeStyle = colour(shown.colour);
  context.lineWidth = 1.8;
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

/** The curve as it was: a faint graphite line, like one that has been rubbed out. */
function drawBefore(
  context: CanvasRenderingContext2D,
  picture: CurvesPicture,
  shown: ShownCurve,
  width: number,
  height: number,
): void {
  context.strokeStyle = colour('graphite');
  context.globalAlpha = 0.45;
  context.lineWidth = 1.4;
  context.setLineDash([2, 3]);
  context.beginPath();
  traceSegments(context, picture, shown, width, height);
  context.stroke();
  context.setLineDash([]);
  context.globalAlpha = 1;
}

const control = new Float64Array(4);

/** Between keys the curve is a Bézier, and the canvas draws that very Bézier: what is drawn is what is played. */
function traceSegments(
  context: CanvasRenderingContext2D,
  { span, values }: CurvesPicture,
  { curve, reader, scale, shift }: ShownCurve,
  width: number,
  height: number,
): void {
  const x = plainScale(timeScale(span, width));
  const y = plainScale(valueScale(values, height));
  const perValue = y.per * scale;
  const y0 = y.at0 + y.per * shift;
  const { frames, values: heights } = reader.compiled;
  const last = frames.length - 1;
  let i = 0;
  while (i < last && frames[i + 1] < span.first) i++;
  context.moveTo(x.at0 + frames[i] * x.per, y0 + heights[i] * perValue);
  for (; i < last && frames[i] <= span.last; i++) {
    writeControlPoints(reader.compiled, i, control);
    const endX = x.at0 + frames[i + 1] * x.per;
    const endY = y0 + heights[i + 1] * perValue;
    if (curve.keys[i].out.kind === 'stepped') {
      context.lineTo(endX, y0 + heights[i] * perValue);
      context.lineTo(endX, endY);
    } else {
      const [ax, ay] = [x.at0 + control[0] * x.per, y0 + control[1] * perValue];
      context.bezierCurveTo(ax, ay, x.at0 + control[2] * x.per, y0 + control[3] * perValue, endX, endY);
    }
  }
}

/** Beyond its keys a curve is drawn from its values, every other pixel. */
function traceBeyond(
  context: CanvasRenderingContext2D,
  { span, values }: CurvesPicture,
  { reader, scale, shift }: ShownCurve,
  from: number,
  to: number,
  width: number,
  height: number,
): void {
  if (to <= from) return;
  const x = timeScale(span, width);
  const y = valueScale(values, height);
  context.beginPath();
  for (let p = from; p < to; p += 2) context.lineTo(p, y(reader.at(x.invert(p)) * scale + shift));
  context.lineTo(to, y(reader.at(x.invert(to)) * scale + shift));
  context.stroke();
}

/** How far the curve goes in each frame, over the lowest third of the view, and the most of it in a line of its own. */
function drawSpeed(
  context: CanvasRenderingContext2D,
  { span }: CurvesPicture,
  { reader, unitScale, unit, label, colour: name }: ShownCurve,
  line: number,
  width: number,
  height: number,
): void {
  const x = timeScale(span, width);
  const speeds: number[] = [];
  for (let p = 0; p <= width; p += 2) {
    const f = x.invert(p);
    speeds.push(Math.abs(reader.at(f + 0.5) - reader.at(f - 0.5)) * unitScale);
  }
  const most = Math.max(...speeds);
  if (most < 1e-9) return;
  const tall = (height - RULER) / 3;
  context.strokeStyle = colour(name);
  context.fillStyle = colour(name);
  context.lineWidth = 1;
  context.beginPath();
  speeds.forEach((s, i) => {
    context.lineTo(i * 2, height - 4 - (s / most) * tall);
  });
  context.stroke();
  context.lineTo(width, height - 4);
  context.lineTo(0, height - 4);
  context.globalAlpha = 0.09;
  context.fill();
  context.globalAlpha = 1;
  context.font = '11px "Spline Sans Mono", monospace';
  context.textAlign = 'right';
  context.textBaseline = 'bottom';
  const words = `${label}: ${most.toPrecision(3)} ${unit} a frame at most`.replace('  ', ' ');
  context.fillText(words, width - 8, height - 6 - tall + line * 13);
}

/** All keys of a curve that look alike are one path. */
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
  const paths = { key: new Path2D(), breakdown: new Path2D(), pickedKey: new Path2D(), pickedBreakdown: new Path2D() };
  shown.curve.keys.forEach((key, index) => {
    const [px, py] = [x(key.frame), y(key.value * shown.scale + shown.shift)];
    if (px < -4 || px > width + 4) return;
    const isPicked = picked.has(key.frame);
    if (isPicked && withHandles) drawHandles(context, picture, shown, index, [px, py], width, height);
    const kind = isPicked ? (key.role === 'key' ? 'pickedKey' : 'pickedBreakdown') : key.role;
    paths[kind].roundRect(px - 3, py - 7, 6, 14, 3);
  });
  const [own, card, blue] = [colour(shown.colour), colour('card'), colour('blue')];
  const paint = (path: Path2D, fill: string, stroke: string) => {
    context.fillStyle = fill;
    context.fill(path);
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
