import { coverPart, patternPicture, type StockMaterial } from '@varrup/core';
import { toast } from 'sonner';
import { keepMedia } from '../media/media.ts';
import { picturesOfHashes } from '../media/textures.ts';
import { change } from './build-store.ts';

/** Makes a part of the body of a material of the house; its pattern is kept as a picture first. */
export async function makePartOf(
  part: string,
  { name, colour, cover, roughness, metal }: StockMaterial,
): Promise<void> {
  try {
    const patterned = cover?.is === 'pattern' ? cover : null;
    const media = patterned ? await keepMedia(new Uint8Array(patternPicture(patterned, colour))) : null;
    if (media) await picturesOfHashes([media]);
    const picture = media && patterned ? { media, scale: patterned.scale } : null;
    const own = picture ? '#ffffff' : colour;
    change(`make it of ${name}`, (b) => coverPart(b, part, { colour: own, roughness, metalness: metal, picture }));
  } catch (error) {
    toast.error(`It could not be made of ${name}. ${(error as Error).message}`);
  }
}
