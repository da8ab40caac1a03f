import { type MediaKind, mediaKinds, mediaLimits } from '@varrup/core';
import { CustomSource, FLAC, Input, MATROSKA, MP3, MP4, OGG, QTFF, WAVE, WEBM } from 'mediabunny';
import sharp from 'sharp';
import { Refused } from '../../http/refusal.ts';

/** Bytes that can be read from anywhere. */
export interface Readable {
  readonly size: number;
  read(first: number, count: number): Promise<Buffer>;
}

const formats = { wav: [WAVE], mp3: [MP3], ogg: [OGG], flac: [FLAC], mp4: [MP4, QTFF], webm: [WEBM, MATROSKA] };

/**
 * Looks whether bytes are what they begin as, all the way: a picture is decoded, of sound and footage the tracks are read and how long they
 * last. @throws Refused (415) with a sentence where they are not
 */
export async function lookThrough(kind: MediaKind, bytes: Readable): Promise<void> {
  const { of } = mediaKinds[kind];
  if (of === 'picture') {
    if (!(await isPicture(await bytes.read(0, bytes.size), kind)))
      throw new Refused(415, 'The picture is broken, or has more pixels than can be shown.');
    return;
  }
  const problem = await problemOf(kind as keyof typeof formats, of, bytes);
  if (problem) throw new Refused(415, problem);
}

async function problemOf(kind: keyof typeof formats, of: 'sound' | 'footage', bytes: Readable): Promise<string | null> {
  const input = new Input({
    formats: formats[kind],
    source: new CustomSource({ getSize: () => bytes.size, read: (start, end) => bytes.read(start, end - start) }),
  });
  try {
    if (!(await input.canRead())) return `The ${of} is broken: it begins as one, and goes on as something else.`;
    const track = of === 'footage' ? await input.getPrimaryVideoTrack() : await input.getPrimaryAudioTrack();
    if (!track && (await input.getTracks()).length === 0) return `The ${of} is broken: there is nothing in it.`;
    if (!track) return of === 'footage' ? 'There is no picture in it, only sound.' : 'There is no sound in it.';
    const seconds = await track.computeDuration();
    if (!(seconds > 0)) return `The ${of} is empty, or broken: it lasts no time.`;
    return seconds > MOST_SECONDS ? `It lasts ${Math.round(seconds / 60)} minutes; up to 120 can be kept.` : null;
  } catch {
    return `The ${of} is broken.`;
  } finally {
    input.dispose();
  }
}

const MOST_SECONDS = 7_200;

/** Whether bytes are a picture from the first pixel to the last: it is decoded, off the main thread. */
async function isPicture(bytes: Buffer, kind: MediaKind): Promise<boolean> {
  try {
    const picture = sharp(bytes, { limitInputPixels: mediaLimits.pixels, failOn: 'error', pages: 1 });
    if ((await picture.metadata()).format !== kind) return false;
    await picture.stats();
    return true;
  } catch {
    return false;
  }
}
