import { CanvasSink, Input, type InputVideoTrack, MATROSKA, MP4, QTFF, UrlSource, WEBM } from 'mediabunny';
import { mediaAddress } from '../media/media.ts';

/** Pixels footage is kept with while it is looked at, in width. */
const WIDTH = 720;
/** Pictures that are kept, decoded: some four seconds. */
const KEPT = 96;
/** How many are decoded ahead where it goes forwards, and before where it goes back: a decoder only goes forwards. */
const AHEAD = 24;
const BACK = 16;

/**
 * Footage as pictures that are told apart: the one with a number is the one that is shown. Pictures near the one that is asked for are
 * decoded along with it, so that stepping and playing do not wait for each.
 */
export class Film {
  readonly #input: Input;
  readonly #rate: number;
  #sink: Promise<CanvasSink> | null = null;
  readonly #pictures = new Map<number, ImageBitmap>();
  #running: Promise<void> | null = null;
  #wanted: number | null = null;
  #last = 0;
  #closed = false;
  /** Something has come that was asked for. */
  onPicture: (picture: number) => void = () => {};
  failure: string | null = null;

  constructor(media: string, rate: number) {
    this.#rate = rate;
    this.#input = new Input({
      formats: [MP4, QTFF, WEBM, MATROSKA],
      source: new UrlSource(new URL(mediaAddress(media), location.href)),
    });
  }

  /** A picture that is there; one that is not is on its way then. */
  pictureNow(picture: number): ImageBitmap | null {
    const there = this.#pictures.get(picture) ?? null;
    const forwards = picture >= this.#last;
    this.#last = picture;
    // Some of those to come are fetched before they are needed.
    if (!there || (forwards && !this.#pictures.has(picture + AHEAD / 2))) this.#ask(picture, forwards);
    return there;
  }

  close(): void {
    this.#closed = true;
    for (const picture of this.#pictures.values()) picture.close();
    this.#pictures.clear();
    this.#input.dispose();
  }

  #ask(picture: number, forwards: boolean): void {
    this.#wanted = picture;
    this.#running ??= this.#run(forwards).finally(() => {
      this.#running = null;
    });
  }

  /** Decodes what is wanted, and what is wanted by then. */
  async #run(forwards: boolean): Promise<void> {
    while (this.#wanted !== null && !this.#closed) {
      const wanted = this.#wanted;
      this.#wanted = null;
      const has = this.#pictures.has(wanted);
      const from = Math.max(0, has ? this.#firstMissing(wanted) : forwards ? wanted : wanted - BACK);
      const to = has || forwards ? wanted + AHEAD : wanted + 2;
      try {
        await this.#decode(from, to, wanted);
      } catch (error) {
        if (!this.#closed) this.failure = `The footage cannot be shown. ${(error as Error).message}`;
        this.onPicture(wanted);
        return;
      }
    }
  }

  #firstMissing(from: number): number {
    let at = from;
    while (this.#pictures.has(at)) at++;
    return at;
  }

  async #decode(from: number, to: number, wanted: number): Promise<void> {
    this.#sink ??= sinkOf(this.#input);
    const sink = await this.#sink;
    // In the middle of a picture's time: nothing is left to rounding.
    const times = Array.from({ length: to - from + 1 }, (_, i) => (from + i + 0.5) / this.#rate);
    let at = from;
    for await (const shown of sink.canvasesAtTimestamps(times)) {
      if (this.#closed) return;
      if (shown) await this.#keep(at, shown.canvas);
      at++;
      // Whoever has gone elsewhere is not kept waiting.
      if (this.#wanted !== null && (this.#wanted < at - 1 || this.#wanted > to) && at > wanted) return;
    }
  }

  async #keep(picture: number, canvas: HTMLCanvasElement | OffscreenCanvas): Promise<void> {
    const bitmap = await createImageBitmap(canvas);
    if (this.#closed) return bitmap.close();
    this.#pictures.get(picture)?.close();
    this.#pictures.set(picture, bitmap);
    // Those farthest from what is looked at go first.
    while (this.#pictures.size > KEPT) {
      const far = [...this.#pictures.keys()].reduce((a, b) =>
        Math.abs(b - this.#last) > Math.abs(a - this.#last) ? b : a,
      );
      this.#pictures.get(far)?.close();
      this.#pictures.delete(far);
    }
    this.onPicture(picture);
  }
}

async function sinkOf(input: Input): Promise<CanvasSink> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how it is packed.');
  return new CanvasSink(track, { width: Math.min(WIDTH, track.displayWidth), poolSize: 2 });
}

/** What is to be known of footage before it is pinned. @throws an error with a sentence where it cannot be shown */
export async function aboutFilm(
  input: Input,
): Promise<{ seconds: number; width: number; height: number; rate: number }> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it, only sound.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how the footage is packed.');
  const seconds = await track.computeDuration();
  return { seconds, width: track.displayWidth, height: track.displayHeight, rate: await rateOf(track) };
}

/** Pictures a second: what is usual, where what was measured is as good as that. */
async function rateOf(track: InputVideoTrack): Promise<number> {
  const { averagePacketRate } = await track.computePacketStats(120);
  const usual = [23.976_024, 24, 25, 29.970_03, 30, 48, 50, 59.940_06, 60].find(
    (rate) => Math.abs(rate / averagePacketRate - 1) < 5e-4,
  );
  return usual ?? Math.min(1_000, Math.max(1, averagePacketRate));
}
