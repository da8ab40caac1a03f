import {
  mediaOfPanels,
  mixdown,
  panelAt,
  panelFrameAt,
  panelRuns,
  panelShare,
  SAMPLE_RATE,
  type Shot,
} from '@varrup/core';
import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  CanvasSource,
  canEncodeAudio,
  canEncodeVideo,
  Mp4OutputFormat,
  Output,
  type VideoCodec,
  WebMOutputFormat,
} from 'mediabunny';
import { PanelPictures } from '../board/panel-picture.ts';
import { haveImages } from '../media/images.ts';
import { picturesOfShot } from '../media/textures.ts';
import { Studio } from '../pictures/studio.ts';
import { contactSheet } from './contact-sheet.ts';
import { Cancelled, type Job, type Made, type Progress } from './job.ts';
import { loopedPicture } from './looped-picture.ts';
import { NotedPictures, type Takes } from './noted-pictures.ts';
import { numberedFrames } from './numbered-frames.ts';

/** Makes a movie, a looped picture, numbered frames, a picture or a contact sheet. Runs in a worker, or on the page where a worker cannot draw. */
export async function make(job: Job, progress: Progress): Promise<Made> {
  if (job.make === 'animatic') return await animatic(job, progress);
  await picturesOfShot(job.shot);
  const studio = new Studio();
  try {
    const camera: Takes = job.notes ? new NotedPictures(studio) : studio;
    if (job.make === 'movie')
      return await movie(camera.canvas, (frame) => camera.take(job.shot, frame, job.view), job, progress);
    if (job.make === 'loop') return await loopedPicture(camera, job, progress);
    if (job.make === 'frames') return await numberedFrames(camera, job, progress);
    if (job.make === 'contact') return await contactSheet(camera, job, progress);
    camera.take(job.shot, job.frame, job.view);
    return picture(await camera.canvas.convertToBlob({ type: 'image/png' }));
  } finally {
    studio.close();
  }
}

const picture = async (blob: Blob): Promise<Made> => ({
  bytes: await blob.arrayBuffer(),
  mime: 'image/png',
  extension: 'png',
});

const formats = {
  mp4: {
    codecs: ['avc'] as VideoCodec[],
    // What every player of this format takes.
    sound: 'AAC',
    mime: 'video/mp4',
    format: () => new Mp4OutputFormat({ fastStart: 'in-memory' }),
  },
  webm: {
    codecs: ['vp9', 'vp8'] as VideoCodec[],
    sound: 'Opus',
    mime: 'video/webm',
    format: () => new WebMOutputFormat(),
  },
} as const;

/** Bits a pixel that keep flat colour and pencil lines clean. */
const BITS_PER_PIXEL = 0.16;

async function animatic(job: Extract<Job, { make: 'animatic' }>, progress: Progress): Promise<Made> {
  const { shot, view } = job;
  await haveImages(mediaOfPanels(shot));
  const runs = panelRuns(shot);
  const pictures = new PanelPictures(view.width);
  const canvas = new OffscreenCanvas(view.width, view.height);
  const context = canvas.getContext('2d')!;
  const draw = (frame: number) => {
    const run = panelAt(runs, frame)!;
    pictures.onto(context, shot, run.panel, { frame: panelFrameAt(run.panel, panelShare(frame, run)) });
  };
  return await movie(canvas, draw, job, progress);
}

/** A movie of what is drawn on a canvas, frame by frame. */
async function movie(
  canvas: OffscreenCanvas,
  draw: (frame: number) => void,
  job: Extract<Job, { make: 'movie' | 'animatic' }>,
  progress: Progress,
): Promise<Made> {
  const { shot, view, first, last } = job;
  const chosen = formats[job.format];
  const { width, height } = view;
  const codec = await firstEncodable(chosen.codecs, width, height);
  if (!codec)
    throw new Error(
      `This browser cannot encode ${job.format === 'mp4' ? 'H.264' : 'VP9 or VP8'} at ${width} × ${height}. Try the other format, or a smaller size.`,
    );

  const output = new Output({ format: chosen.format(), target: new BufferTarget() });
  const source = new CanvasSource(canvas, {
    codec,
    bitrate: Math.round(width * height * shot.rate * BITS_PER_PIXEL),
    keyFrameInterval: 1,
  });
  output.addVideoTrack(source, { frameRate: shot.rate });
  const sound = job.sound ? await soundTrack(shot, chosen.sound) : null;
  if (sound) output.addAudioTrack(sound);
  await output.start();
  try {
    if (sound) await addSound(sound, mixdown(shot, first, last + 1, job.recordings));
    for (let frame = first; frame <= last; frame++) {
      draw(frame);
      await source.add((frame - first) / shot.rate, 1 / shot.rate);
      if (!(await progress((frame - first + 1) / (last - first + 1)))) throw new Cancelled('Cancelled.');
    }
    await output.finalize();
  } catch (error) {
    await output.cancel();
    throw error;
  }
  const made = { bytes: output.target.buffer!, mime: chosen.mime, extension: job.format };
  return sound ? { ...made, sound: chosen.sound } : made;
}

/** A track for the shot's sounds; null where it has none, or where they cannot be encoded. */
async function soundTrack(shot: Shot, kind: 'AAC' | 'Opus'): Promise<AudioSampleSource | null> {
  if (shot.sounds.size === 0) return null;
  const codec = kind === 'AAC' ? 'aac' : 'opus';
  const can = () => canEncodeAudio(codec, { numberOfChannels: 1, sampleRate: SAMPLE_RATE, bitrate: 96_000 });
  if (codec === 'aac' && !(await can())) {
    // Many browsers play AAC and make none: then an encoder comes along, and only then.
    const { registerAacEncoder } = await import('@mediabunny/aac-encoder');
    registerAacEncoder();
  }
  return (await can()) ? new AudioSampleSource({ codec, bitrate: 96_000 }) : null;
}

/** Adds the mix of all sounds, a second at a time. */
async function addSound(source: AudioSampleSource, mix: Float32Array): Promise<void> {
  for (let at = 0; at < mix.length; at += SAMPLE_RATE) {
    const data = mix.slice(at, at + SAMPLE_RATE);
    const sample = new AudioSample({
      data,
      format: 'f32',
      numberOfChannels: 1,
      sampleRate: SAMPLE_RATE,
      timestamp: at / SAMPLE_RATE,
    });
    await source.add(sample);
    sample.close();
  }
  source.close();
}

async function firstEncodable(
  codecs: readonly VideoCodec[],
  width: number,
  height: number,
): Promise<VideoCodec | null> {
  for (const codec of codecs) if (await canEncodeVideo(codec, { width, height })) return codec;
  return null;
}
