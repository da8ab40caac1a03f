import type { Footage, Shot, Trace } from '@varrup/core';

/** What is marked on footage, drawn over it: the ways of points that are followed, a dot a picture, and the length that says how large all is. */

/** On film, under any lamp. */
const tints: Record<Trace['side'], string> = { left: '#4fd0c8', right: '#dd86d6', centre: '#f0bd66' };

export const tracesOf = (shot: Pick<Shot, 'traces'>, footage: string): Trace[] =>
  shot.traces.values().filter((trace) => trace.footage === footage);

export function drawMarks(context: CanvasRenderingContext2D, shot: Shot, footage: Footage, picture: number): void {
  const wide = context.canvas.width;
  context.save();
  for (const trace of tracesOf(shot, footage.id)) {
    context.strokeStyle = tints[trace.side];
    context.fillStyle = tints[trace.side];
    context.lineWidth = 1.5;
    context.globalAlpha = 0.7;
    context.beginPath();
    trace.dots.forEach(({ at: [x, y] }, i) => {
      context[i === 0 ? 'moveTo' : 'lineTo'](x * wide, y * wide);
    });
    context.stroke();
    context.globalAlpha = 1;
    for (const dot of trace.dots) {
      const here = dot.picture === picture;
      context.beginPath();
      context.arc(dot.at[0] * wide, dot.at[1] * wide, here ? 6 : 2.5, 0, 2 * Math.PI);
      if (here) {
        context.lineWidth = 2.5;
        context.stroke();
      } else context.fill();
    }
  }
  if (footage.scale) drawScale(context, footage.scale, wide);
  context.restore();
}

function drawScale(
  context: CanvasRenderingContext2D,
  { a, b, metres }: NonNullable<Footage['scale']>,
  wide: number,
): void {
  context.strokeStyle = '#fbf8f1';
  context.fillStyle = '#fbf8f1';
  context.lineWidth = 2;
  context.setLineDash([6, 4]);
  context.beginPath();
  context.moveTo(a[0] * wide, a[1] * wide);
  context.lineTo(b[0] * wide, b[1] * wide);
  context.stroke();
  context.setLineDash([]);
  for (const [x, y] of [a, b]) context.fillRect(x * wide - 5, y * wide - 1, 10, 2);
  context.font = '500 14px "Spline Sans Mono", monospace';
  context.fillText(`${metres} m`, ((a[0] + b[0]) / 2) * wide + 8, ((a[1] + b[1]) / 2) * wide + 4);
}
