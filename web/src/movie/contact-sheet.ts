import { secondsAt } from '@varrup/core';
import { Cancelled, type Job, type Made, type Progress } from './job.ts';
import type { Takes } from './noted-pictures.ts';

const GAP = 12;
const CAPTION = 26;
const HEADER = 56;
const colours = {
  light: { paper: '#f4f0e8', ink: '#22262b', graphite: '#60646a', rule: '#dcd5c7' },
  night: { paper: '#1f2226', ink: '#ebe6dc', graphite: '#a9a69f', rule: '#3d4147' },
};

/** How many columns make a sheet of about the shape of a page, for pictures of a shape. */
export function columnsFor(count: number, aspect: number): number {
  let best = 1;
  let bestMiss = Number.POSITIVE_INFINITY;
  for (let columns = 1; columns <= count; columns++) {
    const rows = Math.ceil(count / columns);
    // A sheet half as wide again as it is high, with few empty places.
    const miss = Math.abs(Math.log((columns * aspect) / rows / 1.5)) + (columns * rows - count) / count;
    if (miss < bestMiss) [best, bestMiss] = [columns, miss];
  }
  return best;
}

/** Chosen frames in one picture, each with its number and its time, so that a motion can be read at a glance. */
export async function contactSheet(
  camera: Takes,
  job: Extract<Job, { make: 'contact' }>,
  progress: Progress,
): Promise<Made> {
  const { shot, frames, view } = job;
  const { width, height } = view;
  const columns = columnsFor(frames.length, width / height);
  const rows = Math.ceil(frames.length / columns);
  const sheet = new OffscreenCanvas(GAP + columns * (width + GAP), HEADER + rows * (height + CAPTION + GAP));
  const context = sheet.getContext('2d')!;
  const c = colours[view.theme];
  context.fillStyle = c.paper;
  context.fillRect(0, 0, sheet.width, sheet.height);
  context.textBaseline = 'middle';
  context.fillStyle = c.ink;
  context.font = '600 20px system-ui, sans-serif';
  context.fillText(shot.name, GAP, HEADER / 2, sheet.width * 0.6);
  context.textAlign = 'right';
  context.font = '14px monospace';
  context.fillStyle = c.graphite;
  context.fillText(`${frames.length} frames · ${shot.rate} fps`, sheet.width - GAP, HEADER / 2);
  for (const [i, frame] of frames.entries()) {
    const x = GAP + (i % columns) * (width + GAP);
    const y = HEADER + Math.floor(i / columns) * (height + CAPTION + GAP);
    camera.take(shot, frame, view);
    context.drawImage(camera.canvas, x, y);
    context.strokeStyle = c.rule;
    context.strokeRect(x + 0.5, y + 0.5, width - 1, height - 1);
    context.textAlign = 'left';
    context.fillStyle = c.ink;
    context.font = '600 15px monospace';
    context.fillText(String(frame), x + 2, y + height + CAPTION / 2 + 1);
    context.textAlign = 'right';
    context.fillStyle = c.graphite;
    context.font = '13px monospace';
    context.fillText(`${secondsAt(frame, shot.rate).toFixed(2)} s`, x + width - 2, y + height + CAPTION / 2 + 1);
    if (!(await progress((i + 1) / frames.length))) throw new Cancelled('Cancelled.');
  }
  const blob = await sheet.convertToBlob({ type: 'image/png' });
  return { bytes: await blob.arrayBuffer(), mime: 'image/png', extension: 'png' };
}
