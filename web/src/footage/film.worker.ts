import { Input, MATROSKA, MP4, QTFF, UrlSource, type VideoSample, VideoSampleSink, WEBM } from 'mediabunny';
import { mediaAddress } from '../media/media.ts';
import { Ahead, type Decoder, type Keeper } from './ahead.ts';
import type { FilmNews, FilmOrder } from './film.ts';

/** One piece of footage, decoded and drawn off the interface's thread: what draws the stage for long would hold the decoder up. */

/** Pixels footage is kept with while it is looked at, in width. */
const WIDTH = 720;
/** How many pictures are decoded ahead, and what the decoded ones may take, bytes; a pixel takes one and a half. */
const AHEAD = 24;
const MOST_BYTES = 96e6;
const FEWEST_AHEAD = 4;

const say = (news: FilmNews, transfer: Transferable[] = []) => postMessage(news, { transfer });

let ahead: Ahead<VideoSample> | null = null;
let wanted: number | null = null;

addEventListener('message', ({ data }: MessageEvent<FilmOrder>) => {
  if (data.is === 'open') {
    void open(data.media, data.rate).catch(failed);
    return;
  }
  wanted = data.picture;
  void ahead?.look(wanted).catch(failed);
});

async function open(media: string, rate: number): Promise<void> {
  const source = new UrlSource(new URL(mediaAddress(media), location.href));
  const input = new Input({ formats: [MP4, QTFF, WEBM, MATROSKA], source });
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('There is no picture in it.');
  if (!(await track.canDecode())) throw new Error('This browser does not know how it is packed.');
  const wide = Math.min(WIDTH, track.displayWidth);
  const high = Math.max(1, Math.round((wide * track.displayHeight) / track.displayWidth));
  const bytes = track.codedWidth * track.codedHeight * 1.5;
  const sink = new VideoSampleSink(track);
  const decoder: Decoder<VideoSample> = {
    from: (picture) => picturesFrom(sink, rate, picture),
    ahead: 2 * Math.round(Math.min(AHEAD, Math.max(FEWEST_AHEAD, MOST_BYTES / bytes)) / 2),
  };
  ahead = new Ahead(decoder, drawnOn(new OffscreenCanvas(wide, high)));
  if (wanted !== null) await ahead.look(wanted);
}

function failed(error: Error): void {
  say({ is: 'failed', sentence: `The footage cannot be shown. ${error.message}` });
}

/** Draws pictures and hands them to the page, which keeps them until it is told. */
function drawnOn(canvas: OffscreenCanvas): Keeper<VideoSample> {
  const context = canvas.getContext('2d')!;
  return {
    keep(picture, sample) {
      sample.draw(context, 0, 0, canvas.width, canvas.height);
      const bitmap = canvas.transferToImageBitmap();
      say({ is: 'picture', picture, bitmap }, [bitmap]);
    },
    drop: (picture) => say({ is: 'gone', picture }),
  };
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
