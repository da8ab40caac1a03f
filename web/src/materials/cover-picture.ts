import { mediaKindOf, mediaKinds, setMaterial } from '@varrup/core';
import { toast } from 'sonner';
import { keepMedia } from '../media/media.ts';
import { picturesOfHashes } from '../media/textures.ts';
import { useShot } from '../shot/shot-store.ts';
import { chooseFile } from '../ui/choose-file.ts';

/** How much a picture may be that lies on a form. */
const limits = { bytes: 16_000_000, side: 4096 } as const;

/** Asks for a picture and lays it on forms, a metre wide. */
export async function chooseCoverPicture(ids: readonly string[], name: string): Promise<void> {
  const file = await chooseFile('.png,.jpg,.jpeg');
  if (!file) return;
  try {
    const { media, aspect } = await kept(file);
    useShot.getState().run(setMaterial, { ids, material: { name, cover: { is: 'picture', media, scale: 1, aspect } } });
  } catch (error) {
    toast.error((error as Error).message);
  }
}

/** Puts a picture into the store. @throws an error with a sentence where it is none, or too large */
async function kept(file: File): Promise<{ media: string; aspect: number }> {
  if (file.size > limits.bytes)
    throw new Error(
      `${file.name} has ${Math.ceil(file.size / 1e6)} MB; up to ${limits.bytes / 1e6} can lie on a form.`,
    );
  const bytes = new Uint8Array(await file.arrayBuffer());
  const kind = mediaKindOf(bytes);
  if (!kind || mediaKinds[kind].of !== 'picture')
    throw new Error(`${file.name} is no picture: PNG and JPEG can be read.`);
  const image = await createImageBitmap(new Blob([bytes])).catch(() => {
    throw new Error(`${file.name} cannot be read: it is broken.`);
  });
  const { width, height } = image;
  image.close();
  if (Math.max(width, height) > limits.side)
    throw new Error(`${file.name} has ${width} × ${height} pixels; up to ${limits.side} each way can lie on a form.`);
  const media = await keepMedia(bytes);
  await picturesOfHashes([media]);
  return { media, aspect: height / width };
}
