import {
  Input,
  type InputVideoTrack,
  MATROSKA,
  MP4,
  QTFF,
  UrlSource,
  type VideoSample,
  VideoSampleSink,
  WEBM,
} from 'mediabunny';
import { mediaAddress } from '../media/media.ts';

/** Pixels footage is kept with while it is looked at, in width. */
const WIDTH = 720;
/** Pictures that are kept, decoded: some four seconds. */
const KEPT = 96;
/** How many are decoded ahead where it goes forwards, and before where it goes back: a decoder only goes forwards. */
const AHEAD = 24;
const BACK = 16;
/** To go on decoding over so many is quicker than to begin anew. */
const SKIP = 60;

/** What so many steps forwards have in common tells which pictures are shown at all: played faster than it is, some are not. */
const STEPS = 8;

/** A decoder that is under way: the number of the picture that comes next, and those to come. */
interface Under {
  at: number;
  readonly pictures: AsyncGenerator<readonly [picture: number, sample: VideoSample]>;
}

/**
 * Footage as pictures that are told apart: the one with a number is the one that is shown. Pictures near the one that is asked for are
 * decoded along with it, so that stepping and playing do not wait for each; while it is played one decoder goes on.
 */
export class Film {
  readonly #input: Input;
  readonly #rate: number;
  #sink: Promise<Sink> | null = null;
  readonly #pictures = new Map<number, ImageBitmap>();
  #running: Promise<void> | null = null;
  #under: Under | null = null;
  #wanted: number | null = null;
  /** What was asked for last, and whether that lay further on than what was before. */
  #last = 0;
  #forwards = true;
  readonly #steps: number[] = [];
  /** The number after the last picture, once that is known. */
  #end = Number.POSITIVE_INFINITY;
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
    if (picture !== this.#last) this.#goTo(picture);
    // Some of those to come are fetched before they are needed.
    if (!there || (this.#forwards && !this.#pictures.has(picture + (AHEAD / 2) * this.#stride))) this.#ask(picture);
    return there;
  }

  close(): void {
    this.#closed = true;
    void this.#under?.pictures.return(undefined);
    for (const picture of this.#pictures.values()) picture.close();
    this.#pictures.clear();
    this.#input.dispose();
  }

  #goTo(picture: number): void {
    this.#forwards = picture > this.#last;
    if (this.#forwards) this.#steps.push(picture - this.#last);
    if (!this.#forwards || this.#steps.length > STEPS) this.#steps.shift();
    this.#last = picture;
  }

  /** Of how many pictures one is looked at. */
  get #stride(): number {
    return Math.min(8, Math.max(1, this.#steps.reduce(common, 0)));
  }

  /** Whether a picture that comes is one of those that will be looked at. */
  #isShown(picture: number): boolean {
    if (!this.#forwards) return true;
    // What has gone by while it was decoded is not looked at any more: so it comes up with what is.
    return picture >= this.#last && (picture - this.#last) % this.#stride === 0;
  }

  #ask(picture: number): void {
    this.#wanted = picture;
    this.#running ??= this.#run().finally(() => {
      this.#running = null;
    });
  }

  /** Decodes what is wanted, and what is wanted by then. */
  async #run(): Promise<void> {
    while (this.#wanted !== null && !this.#closed) {
      const wanted = this.#wanted;
      this.#wanted = null;
      const has = this.#pictures.has(wanted);
      const forwards = has || this.#forwards;
      const from = has ? this.#firstMissing(wanted) : Math.max(0, forwards ? wanted : wanted - BACK);
      try {
        await this.#decode(from, Math.min(this.#end - 1, wanted + (forwards ? AHEAD * this.#stride : 2)));
      } catch (error) {
        if (!this.#closed) this.failure = `The footage cannot be shown. ${(error as Error).message}`;
        this.onPicture(wanted);
        return;
      }
    }
  }

  #firstMissing(from: number): number {
    let at = from;
    while (this.#pictures.has(at) || !this.#isShown(at)) at++;
    return at;
  }

  async #decode(from: number, to: number): Promise<void> {
    if (from > to) return;
    this.#sink ??= sinkOf(this.#input);
    const sink = await this.#sink;
    if (!this.#under || this.#under.at > from || this.#under.at < from - SKIP) {
      await this.#under?.pictures.return(undefined);
      this.#under = { at: from, pictures: picturesFrom(sink.samples, this.#rate, from) };
    }
    const under = this.#under;
    while (under.at <= to && !this.#closed) {
      const { value, done } = await under.pictures.next();
      if (done) {
        this.#end = under.at;
        this.#under = null;
        return;
      }
      const [picture, sample] = value;
      under.at = picture + 1;
      if (picture >= from && this.#isShown(picture)) this.#keep(picture, drawn(sample, sink));
      // Whoever has gone elsewhere is not kept waiting.
      if (this.#wanted !== null && (this.#wanted < from || this.#wanted > to)) return;
    }
  }

  #keep(picture: number, bitmap: ImageBitmap): void {
    if (this.#closed) {
      bitmap.close();
      return;
    }
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

/** The largest number that goes into both. */
const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));

/** What decodes, and what its pictures are drawn on. */
interface Sink {
  readonly samples: VideoSampleSink;
  readonly canvas: OffscreenCanvas;
}

async function sinkOf(input: Input): Promise<Sink> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how it is packed.');
  const wide = Math.min(WIDTH, track.displayWidth);
  const high = Math.max(1, Math.round((wide * track.displayHeight) / track.displayWidth));
  return { samples: new VideoSampleSink(track), canvas: new OffscreenCanvas(wide, high) };
}

/** A decoded picture as it is kept. Only those that are looked at are drawn: that takes longer than to decode them. */
function drawn(sample: VideoSample, { canvas }: Sink): ImageBitmap {
  sample.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height);
  return canvas.transferToImageBitmap();
}

/**
 * The pictures of footage one after another, from a number on: the one with a number is that on in the middle of its time, so that nothing is left to
 * rounding. Each is there until the next is asked for.
 */
async function* picturesFrom(
  sink: VideoSampleSink,
  rate: number,
  from: number,
): AsyncGenerator<readonly [picture: number, sample: VideoSample]> {
  let at = from;
  let held: VideoSample | null = null;
  let coming: VideoSample | null = null;
  try {
    for await (const sample of sink.samples((from + 0.5) / rate)) {
      coming = sample;
      if (held) for (; (at + 0.5) / rate < sample.timestamp; at++) yield [at, held];
      held?.close();
      [held, coming] = [sample, null];
    }
    if (held) for (; (at + 0.5) / rate < held.timestamp + Math.max(held.duration, 1 / rate); at++) yield [at, held];
  } finally {
    held?.close();
    coming?.close();
  }
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
