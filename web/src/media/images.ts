import { create } from 'zustand';
import { fetchMedia } from './media.ts';

/** Pictures of the store as they are drawn flat, on the page or in a worker. */
export const useImages = create<{ readonly images: ReadonlyMap<string, ImageBitmap> }>(() => ({ images: new Map() }));

const loading = new Map<string, Promise<void>>();

function load(hash: string): Promise<void> {
  const under =
    loading.get(hash) ??
    fetchMedia(hash)
      .then((bytes) => createImageBitmap(new Blob([bytes])))
      .then((image) => useImages.setState(({ images }) => ({ images: new Map(images).set(hash, image) })))
      // It is asked for again by whoever draws next.
      .catch(() => void loading.delete(hash));
  loading.set(hash, under);
  return under;
}

/** A picture that is there; one that is not is on its way then, and null until it has come. */
export function imageNow(hash: string): ImageBitmap | null {
  const image = useImages.getState().images.get(hash) ?? null;
  if (!image) void load(hash);
  return image;
}

/** Has pictures there. One that cannot be had is left out. */
export const haveImages = async (hashes: readonly string[]): Promise<void> => {
  await Promise.all(hashes.map(load));
};
