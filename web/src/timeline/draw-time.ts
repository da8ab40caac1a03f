import { beatFrames, type Shot } from '@varrup/core';
import { colour } from '../ui/theme.ts';
import { RULER } from './ruler.ts';
import { ruling, type Span, timeScale } from './time-axis.ts';

/** What the sheet and the curves draw alike: the ruler, the range that plays, the line of now. */

/** A canvas made sharp for this screen; gives its size in CSS pixels. */
export function prepare(canvas: HTMLCanvasElement): {
  context: CanvasRenderingContext2D;
  width: number;
  height: number;
} {
  const { clientWidth: width, clientHeight: height } = canvas;
  const ratio = devicePixelRatio;
  if (canvas.width !== Math.round(width * ratio) || canvas.height !== Math.round(height * ratio)) {
    canvas.width = Math.round(width * ratio);
    canvas.height = Math.round(height * ratio);
  }
  const context = canvas.getContext('2d')!;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, width, height);
  return { context, width, height };
}

export function drawGround(
  context: CanvasRenderingContext2D,
  shot: Shot,
  span: Span,
  width: number,
  height: number,
): void {
  const x = timeScale(span, width);
  context.fillStyle = colour('card');
  context.fillRect(0, 0, width, height);
  context.fillStyle = colour('well');
  const [from, to] = [x(shot.play.first), x(shot.play.last)];
  context.fillRect(0, 0, Math.max(0, from), height);
  context.fillRect(to, 0, Math.max(0, width - to), height);
  const { frames, step } = ruling(span, width, shot.rate);
  context.strokeStyle = colour('rule');
  context.lineWidth = 1;
  context.beginPath();
  const perFrame = x(1) - x(0);
  if (step > 1 && perFrame > 5) {
    context.globalAlpha = 0.45;
    for (let f = Math.ceil(span.first); f <= span.last; f++) line(context, x(f), RULER, height);
    context.stroke();
    context.beginPath();
    context.globalAlpha = 1;
  }
  for (const f of frames) line(context, x(f), RULER - 4, height);
  context.stroke();
}

const line = (context: CanvasRenderingContext2D, at: number, from: number, to: number) => {
  const crisp = Math.round(at) + 0.5;
  context.moveTo(crisp, from);
  context.lineTo(crisp, to);
};

export function drawRuler(context: CanvasRenderingContext2D, shot: Shot, span: Span, width: number): void {
  const x = timeScale(span, width);
  context.fillStyle = colour('card');
  context.fillRect(0, 0, width, RULER - 4);
  context.fillStyle = colour('graphite');
  context.font = '11px "Spline Sans Mono", monospace';
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  for (const f of ruling(span, width, shot.rate).frames) context.fillText(String(f), x(f), 11);
  // Beats of its sounds stand under the numbers.
  context.fillStyle = colour('ochre');
  for (const f of beatFrames(shot))
    if (f >= span.first && f <= span.last) context.fillRect(Math.round(x(f)) - 1, RULER - 9, 2, 6);
}

/** The line of now on a canvas of its own over the sheet or the curves: while time goes on, nothing else is drawn anew. */
export function drawNowAlone(canvas: HTMLCanvasElement, frame: number, span: Span): void {
  const { context, width, height } = prepare(canvas);
  drawNow(context, frame, span, width, height);
}

/** The line of now, with its frame in a lozenge. */
export function drawNow(
  context: CanvasRenderingContext2D,
  frame: number,
  span: Span,
  width: number,
  height: number,
): void {
  const x = timeScale(span, width)(frame);
  if (x < -30 || x > width + 30) return;
  context.fillStyle = colour('vermilion');
  context.fillRect(Math.round(x) - 0.75, RULER - 6, 1.5, height);
  const text = String(Math.round(frame * 100) / 100);
  context.font = '500 11px "Spline Sans Mono", monospace';
  const half = Math.max(15, context.measureText(text).width / 2 + 6);
  context.beginPath();
  context.roundRect(x - half, 2, half * 2, 18, 9);
  context.fill();
  context.fillStyle = colour('on-solid');
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  context.fillText(text, x, 11.5);
}
