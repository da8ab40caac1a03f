import { mediaAddress } from '../media/media.ts';
import type { Film } from './film.ts';

/** Pixels pictures are kept with while they are looked at, in width. */
const WIDTH = 720;
/** Pictures that are kept, and how many ahead of the one that is looked at are fetched before they are needed. */
const KEPT = 96;
const AHEAD = 24;
/** How many are fetched at once. */
const AT_ONCE = 4;

/** A run of pictures, looked at as a film is: the one with a number is the one that is shown. */
export class PictureRun implements Pick<Film, 'pictureNow' | 'close' | 'onPicture' | 'failure'> {
  readonly #hashes: readonly string[];
  readonly #pictures = new Map<number, ImageBitmap>();
  readonly #under = new Set<number>();
  #wanted = 0;
  #closed = false;
  onPicture: (picture: number) => void = () => {};
  failure: string | null = null;

  constructor(hashes: readonly string[]) {
    this.#hashes = hashes;
  }

  pictureNow(picture: number): ImageBitmap | null {
    this.#wanted = Math.min(this.#hashes.length - 1, Math.max(0, picture));
    this.#fetchMore();
    return this.#pictures.get(this.#wanted) ?? null;
  }

  close(): void {
    this.#closed = true;
    for (const picture of this.#pictures.values()) picture.close();
    this.#pictures.clear();
  }

  #fetchMore(): void {
    const until = Math.min(this.#hashes.length, this.#wanted + AHEAD);
    for (let at = this.#wanted; at < until && this.#under.size < AT_ONCE; at++)
      if (!this.#pictures.has(at) && !this.#under.has(at)) void this.#fetch(at);
  }

  async #fetch(at: number): Promise<void> {
    this.#under.add(at);
    try {
      const answer = await fetch(mediaAddress(this.#hashes[at]));
      if (!answer.ok) throw new Error('A picture of it is not in the store.');
      const bitmap = await createImageBitmap(await answer.blob(), { resizeWidth: WIDTH, resizeQuality: 'medium' });
      if (this.#closed) return bitmap.close();
      this.#pictures.set(at, bitmap);
      this.#letGo();
    } catch (error) {
      if (this.#closed) return;
      this.failure = `The run cannot be shown. ${(error as Error).message}`;
    } finally {
      this.#under.delete(at);
    }
    this.onPicture(at);
    if (this.failure === null && !this.#closed) this.#fetchMore();
  }

  /** Those farthest from what is looked at go first. */
  #letGo(): void {
    while (this.#pictures.size > KEPT) {
      const far = [...this.#pictures.keys()].reduce((a, b) =>
        Math.abs(b - this.#wanted) > Math.abs(a - this.#wanted) ? b : a,
      );
      this.#pictures.get(far)?.close();
      this.#pictures.delete(far);
    }
  }
}
