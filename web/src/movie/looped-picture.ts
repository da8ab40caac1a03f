import { applyPalette, GIFEncoder, quantize } from 'gifenc';
import { Cancelled, type Job, type Made, type Progress } from './job.ts';
import type { Takes } from './noted-pictures.ts';

/** Colours of each picture: the most the format has. */
const COLOURS = 256;

/** Frames as one picture that repeats (GIF), at the shot's rate: it counts in hundredths of a second, so the rest is carried on. */
export async function loopedPicture(
  camera: Takes,
  { shot, view, first, last }: Extract<Job, { make: 'loop' }>,
  progress: Progress,
): Promise<Made> {
  const gif = GIFEncoder();
  const { width, height } = view;
  const flat = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  const until = delays(shot.rate, last - first + 1);
  for (let frame = first; frame <= last; frame++) {
    camera.take(shot, frame, view);
    flat.drawImage(camera.canvas, 0, 0);
    const { data } = flat.getImageData(0, 0, width, height);
    const palette = quantize(data, COLOURS);
    gif.writeFrame(applyPalette(data, palette), width, height, { palette, delay: until[frame - first] * 10 });
    if (!(await progress((frame - first + 1) / (last - first + 1)))) throw new Cancelled('Cancelled.');
  }
  gif.finish();
  const bytes = gif.bytes().slice().buffer as ArrayBuffer;
  return { bytes, mime: 'image/gif', extension: 'gif' };
}

/** How long each frame is shown, in hundredths of a second, so that together they take as long as they do in the shot. */
export const delays = (rate: number, frames: number): number[] =>
  Array.from({ length: frames }, (_, f) =>
    Math.max(2, Math.round((100 * (f + 1)) / rate) - Math.round((100 * f) / rate)),
  );
