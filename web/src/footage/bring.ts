import { type Footage, newId, pinFootage } from '@varrup/core';
import { BlobSource, CanvasSink, Input, MATROSKA, MP4, QTFF, WEBM } from 'mediabunny';
import { api } from '../api/client.ts';
import { keepMedia } from '../media/media.ts';
import { useShot } from '../shot/shot-store.ts';
import { aboutFilm } from './film.ts';
import { useFootageView } from './films.ts';

/** Pixels of a poster, in width. */
const POSTER = 320;

/**
 * Keeps footage in the store, with a poster, and pins it to the shot.
 * @param frame on which it begins @throws an error with a sentence where it cannot be read or kept
 */
export async function bringFootage(file: Blob, name: string, frame: number): Promise<Footage> {
  const input = new Input({ formats: [MP4, QTFF, WEBM, MATROSKA], source: new BlobSource(file) });
  try {
    if (!(await input.canRead())) throw new Error(`${name} is no footage that can be read: MP4 and WebM can.`);
    const about = await aboutFilm(input);
    const poster = await posterOf(input, about.seconds);
    const media = await keepMedia(file);
    // One without a poster is footage all the same.
    if (poster) await api.putPoster(media, poster).catch(() => undefined);
    const { width, height, seconds } = about;
    const footage: Footage = {
      id: newId(),
      name: name.slice(0, 80) || 'Footage',
      media,
      ...about,
      frame,
      from: 0,
      until: seconds,
      speed: 1,
      shown: 'corner',
      strength: 0.6,
      card: { at: [0, 0, -1], turn: 0, wide: Math.max(1, (2 * width) / height) },
      scale: null,
    };
    useShot.getState().run(pinFootage, { footage });
    useFootageView.setState({ id: footage.id });
    return footage;
  } finally {
    input.dispose();
  }
}

async function posterOf(input: Input, seconds: number): Promise<Blob | null> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) return null;
  const shown = await new CanvasSink(track, { width: Math.min(POSTER, track.displayWidth) }).getCanvas(seconds / 3);
  if (!shown) return null;
  const canvas = new OffscreenCanvas(shown.canvas.width, shown.canvas.height);
  canvas.getContext('2d')!.drawImage(shown.canvas, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
}
