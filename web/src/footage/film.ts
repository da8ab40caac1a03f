/** What the page says to who decodes a film. */
export type FilmOrder =
  | { readonly is: 'open'; readonly media: string; readonly rate: number }
  | { readonly is: 'look'; readonly picture: number };

/** What comes back: a picture, one that is not kept any more, or why there are none. */
export type FilmNews =
  | { readonly is: 'picture'; readonly picture: number; readonly bitmap: ImageBitmap }
  | { readonly is: 'gone'; readonly picture: number }
  | { readonly is: 'failed'; readonly sentence: string };

/** Footage as pictures that are told apart: the one with a number is the one that is shown. They are decoded in a worker of its own. */
export class Film {
  readonly #worker = new Worker(new URL('./film.worker.ts', import.meta.url), { type: 'module' });
  readonly #pictures = new Map<number, ImageBitmap>();
  #last: number | null = null;
  /** Something has come that was asked for. */
  onPicture: (picture: number) => void = () => {};
  failure: string | null = null;

  constructor(media: string, rate: number) {
    this.#worker.onmessage = ({ data }: MessageEvent<FilmNews>) => this.#hear(data);
    this.#worker.onerror = () => this.#fail('The footage cannot be shown: what decodes it did not start.');
    this.#say({ is: 'open', media, rate });
  }

  /** A picture that is there; one that is not is on its way then. */
  pictureNow(picture: number): ImageBitmap | null {
    if (picture !== this.#last) this.#say({ is: 'look', picture });
    this.#last = picture;
    return this.#pictures.get(picture) ?? null;
  }

  close(): void {
    this.#worker.terminate();
    for (const bitmap of this.#pictures.values()) bitmap.close();
    this.#pictures.clear();
  }

  #say(order: FilmOrder): void {
    this.#worker.postMessage(order);
  }

  #hear(news: FilmNews): void {
    if (news.is === 'failed') this.#fail(news.sentence);
    else if (news.is === 'picture') {
      this.#pictures.set(news.picture, news.bitmap);
      if (news.picture === this.#last) this.onPicture(news.picture);
    } else {
      this.#pictures.get(news.picture)?.close();
      this.#pictures.delete(news.picture);
    }
  }

  #fail(sentence: string): void {
    this.failure = sentence;
    this.onPicture(this.#last ?? 0);
  }
}
