import { changePanel, mediaKinds } from '@varrup/core';
import { toast } from 'sonner';
import { keepMedia, kindOfFile } from '../media/media.ts';
import { picture } from '../pictures/pictures.ts';
import { useShot } from '../shot/shot-store.ts';
import { chooseFile } from '../ui/choose-file.ts';
import { heightOf } from './panel-picture.ts';

/** What lies under the drawing of a panel. */

const lay = (panel: string, media: string) =>
  useShot.getState().run(changePanel, { id: panel, change: { picture: media } });

/** Keeps a picture in the store and lays it under a panel's drawing. */
export async function layPicture(panel: string, file: Blob): Promise<void> {
  try {
    if (mediaKinds[await kindOfFile(file)].of !== 'picture')
      throw new Error('It is no picture: PNG and JPEG can be read.');
    lay(panel, await keepMedia(file));
  } catch (error) {
    toast.error((error as Error).message);
  }
}

/** Asks for a picture and lays it under a panel's drawing. */
export async function choosePicture(panel: string): Promise<void> {
  const file = await chooseFile('.png,.jpg,.jpeg');
  if (file) await layPicture(panel, file);
}

/** Takes a still of the shot as its camera sees it on a frame, and lays it under a panel's drawing. */
export async function layStill(panel: string, frame: number): Promise<void> {
  const { committed } = useShot.getState();
  if (!committed) return;
  try {
    const width = 1_280;
    const view = { width, height: heightOf(width), theme: 'light' } as const;
    lay(panel, await keepMedia(await picture(committed, frame, view, 'image/png')));
  } catch (error) {
    toast.error(`The still could not be taken. ${(error as Error).message}`);
  }
}
