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
/** Pictures that are kept, drawn: some four seconds. */
const KEPT = 96;
/** How many are decoded ahead where it goes forwards, and before where it goes back: a decoder only goes forwards. */
const AHEAD = 24;
const BACK = 16;
/** What decoded pictures that are not drawn yet may take, bytes; a pixel takes one and a half. */
const MOST_BYTES = 96e6;
const FEWEST_AHEAD = 4;
/** To go on decoding over so many is quicker than to begin anew. */
const SKIP = 30;
/** Where it has to begin anew while it goes forwards it begins so far ahead: what is looked at has gone on by the time it is there. */
const LEAD = 16;

/** A decoder that is under way: the number of the picture that comes next, and those to come. */
interface Under {
  at: number;
  readonly pictures: AsyncGenerator<readonly [picture: number, sample: VideoSample]>;
}

/**
 * Footage as pictures that are told apart: the one with a number is the one that is shown. Pictures near the one that is asked for are
 * decoded along with it, so that stepping and playing do not wait for each; while it is played one decoder goes on. A picture is drawn
 * when it is looked at, which takes longer than to decode it: played fast, many are not.
 */
export class Film {
  readonly #input: Input;
  readonly #rate: number;
  #opening: Promise<Sink> | null = null;
  #sink: Sink | null = null;
  readonly #drawn = new Map<number, ImageBitmap>();
  /** Decoded, and not looked at yet. */
  readonly #held = new Map<number, VideoSample>();
  #running: Promise<void> | null = null;
  #under: Under | null = null;
  #wanted: number | null = null;
  /** What was asked for last, and whether that lay further on than what was before. */
  #last = 0;
  #forwards = true;
  /** Whether it plays, and was not just brought somewhere else. */
  #goesOn = false;
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
    if (picture !== this.#last) this.#goTo(picture);
    const there = this.#drawn.get(picture) ?? this.#draw(picture);
    // Those to come are fetched before they are needed.
    if (!there || (this.#forwards && !this.#has(picture + this.#ahead / 2))) this.#ask(picture);
    return there;
  }

  close(): void {
    this.#closed = true;
    void this.#under?.pictures.return(undefined);
    for (const picture of [...this.#drawn.values(), ...this.#held.values()]) picture.close();
    this.#drawn.clear();
    this.#held.clear();
    this.#input.dispose();
  }

  get #ahead(): number {
    return this.#sink?.ahead ?? AHEAD;
  }

  get #back(): number {
    return Math.min(BACK, this.#ahead);
  }

  #has(picture: number): boolean {
    return this.#drawn.has(picture) || this.#held.has(picture);
  }

  #goTo(picture: number): void {
    this.#goesOn = this.#forwards && picture > this.#last && picture - this.#last < SKIP;
    this.#forwards = picture > this.#last;
    this.#last = picture;
    for (const [held, sample] of this.#held) {
      if (this.#mayBeLookedAt(held)) continue;
      sample.close();
      this.#held.delete(held);
    }
  }

  /** Whether a picture lies where one goes: what has gone by while it was decoded is not looked at any more. */
  #mayBeLookedAt(picture: number): boolean {
    const further = picture - this.#last;
    return this.#forwards ? further >= 0 && further <= this.#ahead : further <= 2 && further >= -this.#back;
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
      const has = this.#has(wanted);
      const forwards = has || this.#forwards;
      const from = has ? this.#firstMissing(wanted) : forwards ? wanted + this.#leadFrom(wanted) : wanted - this.#back;
      try {
        await this.#decode(Math.max(0, from), Math.min(this.#end - 1, wanted + (forwards ? this.#ahead : 2)));
      } catch (error) {
        if (!this.#closed) this.failure = `The footage cannot be shown. ${(error as Error).message}`;
        this.onPicture(wanted);
        return;
      }
    }
  }

  /** How far ahead of what is wanted it goes on, where it has fallen so far behind that it begins anew. */
  #leadFrom(wanted: number): number {
    const behind = this.#under ? wanted - this.#under.at : 0;
    return this.#goesOn && behind > SKIP ? LEAD : 0;
  }

  #firstMissing(from: number): number {
    let at = from;
    while (this.#has(at)) at++;
    return at;
  }

  async #decode(from: number, to: number): Promise<void> {
    if (from > to) return;
    this.#opening ??= sinkOf(this.#input);
    this.#sink = await this.#opening;
    const { samples } = this.#sink;
    if (!this.#under || this.#under.at > from || this.#under.at < from - SKIP) {
      await this.#under?.pictures.return(undefined);
      this.#under = { at: from, pictures: picturesFrom(samples, this.#rate, from) };
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
      if (picture >= from && this.#mayBeLookedAt(picture)) this.#hold(picture, sample);
      // Whoever has gone elsewhere is not kept waiting.
      if (this.#wanted !== null && (this.#wanted < from || this.#wanted > to)) return;
    }
  }

  #hold(picture: number, sample: VideoSample): void {
    if (this.#closed || this.#has(picture)) return;
    this.#held.set(picture, sample.clone());
    this.onPicture(picture);
  }

  /** Draws a picture that is decoded, and keeps it. */
  #draw(picture: number): ImageBitmap | null {
    const sample = this.#held.get(picture);
    if (!sample || !this.#sink) return null;
    const { canvas } = this.#sink;
    sample.draw(canvas.getContext('2d')!, 0, 0, canvas.width, canvas.height);
    sample.close();
    this.#held.delete(picture);
    const bitmap = canvas.transferToImageBitmap();
    this.#drawn.set(picture, bitmap);
    this.#letGo();
    return bitmap;
  }

  /** Those farthest from what is looked at go first. */
  #letGo(): void {
    while (this.#drawn.size > KEPT) {
      const far = [...this.#drawn.keys()].reduce((a, b) =>
        Math.abs(b - this.#last) > Math.abs(a - this.#last) ? b : a,
      );
      this.#drawn.get(far)?.close();
      this.#drawn.delete(far);
    }
  }
}

/** What decodes, and what its pictures are drawn on. */
interface Sink {
  readonly samples: VideoSampleSink;
  readonly canvas: OffscreenCanvas;
  /** How many are decoded ahead: fewer where they are large. */
  readonly ahead: number;
}

async function sinkOf(input: Input): Promise<Sink> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how it is packed.');
  const wide = Math.min(WIDTH, track.displayWidth);
  const high = Math.max(1, Math.round((wide * track.displayHeight) / track.displayWidth));
  const bytes = track.codedWidth * track.codedHeight * 1.5;
  const ahead = 2 * Math.round(Math.min(AHEAD, Math.max(FEWEST_AHEAD, MOST_BYTES / bytes)) / 2);
  return { samples: new VideoSampleSink(track), canvas: new OffscreenCanvas(wide, high), ahead };
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
