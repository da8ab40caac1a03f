import { Zip, ZipPassThrough } from 'fflate';
import { Cancelled, fileName, type Job, type Made, type Progress } from './job.ts';
import type { Takes } from './noted-pictures.ts';

/** More frames than this do not go into one archive. */
export const MOST_FRAMES = 5_000;

/** Every frame as a picture of its own, numbered as in the shot, in one archive. */
export async function numberedFrames(
  camera: Takes,
  { shot, view, first, last }: Extract<Job, { make: 'frames' }>,
  progress: Progress,
): Promise<Made> {
  const parts: Uint8Array[] = [];
  const archive = new Zip((_, part) => parts.push(part));
  const digits = Math.max(4, String(Math.max(Math.abs(first), Math.abs(last))).length);
  for (let frame = first; frame <= last; frame++) {
    camera.take(shot, frame, view);
    const picture = await camera.canvas.convertToBlob({ type: 'image/png' });
    const number = `${frame < 0 ? '-' : ''}${String(Math.abs(frame)).padStart(digits, '0')}`;
    // Pictures are packed already.
    const entry = new ZipPassThrough(fileName(shot, 'png', number));
    archive.add(entry);
    entry.push(new Uint8Array(await picture.arrayBuffer()), true);
    if (!(await progress((frame - first + 1) / (last - first + 1)))) throw new Cancelled('Cancelled.');
  }
  archive.end();
  const bytes = await new Blob(parts as Uint8Array<ArrayBuffer>[]).arrayBuffer();
  return { bytes, mime: 'application/zip', extension: 'zip' };
}
