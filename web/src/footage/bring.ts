import { type Footage, MOST_PICTURES, newId, pinFootage } from '@varrup/core';
import { BlobSource, CanvasSink, Input, MATROSKA, MP4, QTFF, WEBM } from 'mediabunny';
import { api } from '../api/client.ts';
import { keepMedia } from '../media/media.ts';
import { useShot } from '../shot/shot-store.ts';
import { aboutFilm } from './about.ts';
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
    return pinned({ name, media, pictures: [], ...about }, frame);
  } finally {
    input.dispose();
  }
}

/**
 * Keeps a run of pictures in the store, each once, and pins it to the shot, a picture a frame.
 * @param files in their order @param goesOn says how much is done, and whether it is still wanted
 * @throws an error with a sentence that names the picture at fault
 */
export async function bringRun(
  files: readonly File[],
  name: string,
  frame: number,
  goesOn: (share: number) => boolean,
): Promise<Footage | null> {
  if (files.length > MOST_PICTURES)
    throw new Error(`A run has up to ${MOST_PICTURES} pictures; these are ${files.length}.`);
  const pictures: string[] = [];
  let [width, height] = [0, 0];
  for (const file of files) {
    const bitmap = await createImageBitmap(file).catch(() => null);
    if (!bitmap) throw new Error(`${file.name} is no picture that can be read, whatever it is called.`);
    if (pictures.length === 0) [width, height] = [bitmap.width, bitmap.height];
    const [wide, high] = [bitmap.width, bitmap.height];
    bitmap.close();
    if (wide !== width || high !== height)
      throw new Error(`${file.name} has ${wide} × ${high}, and the first of the run ${width} × ${height}.`);
    pictures.push(await keepMedia(file));
    if (!goesOn(pictures.length / files.length)) return null;
  }
  const rate = useShot.getState().committed?.rate ?? 24;
  return pinned({ name, media: pictures[0], pictures, width, height, rate, seconds: files.length / rate }, frame);
}

type Brought = Pick<Footage, 'name' | 'media' | 'pictures' | 'width' | 'height' | 'rate' | 'seconds'>;

/** Pins what was brought to the shot, in the stage's corner, and picks it. */
function pinned(brought: Brought, frame: number): Footage {
  const { name, width, height, seconds } = brought;
  const footage: Footage = {
    ...brought,
    id: newId(),
    name: name.slice(0, 80) || 'Footage',
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
