import { BufferTarget, CanvasSource, canEncodeVideo, Output, WebMOutputFormat } from 'mediabunny';
import { type Act, drawStandIn } from './stand-in.ts';

/** What one acts before: a camera of the machine, or the stand-in camera. Both draw what they see now onto a canvas. */
export interface Camera {
  readonly word: string;
  draw(context: CanvasRenderingContext2D, seconds: number): void;
  end(): void;
}

export const standIn = (act: Act, word: string): Camera => ({
  word,
  draw: (context, seconds) => drawStandIn(context, act, seconds),
  end: () => {},
});

/** A camera of the machine. @throws an error with a sentence where there is none, or it may not be used */
export async function openCamera(): Promise<Camera> {
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getUserMedia({ video: { width: 1280, height: 720 } });
  } catch {
    throw new Error('There is no camera, or it may not be used. The stand-in camera is always there.');
  }
  const video = document.createElement('video');
  video.muted = true;
  video.srcObject = stream;
  await video.play();
  return {
    word: stream.getVideoTracks()[0]?.label || 'camera',
    draw(context) {
      const { width, height } = context.canvas;
      const scale = Math.max(width / video.videoWidth, height / video.videoHeight);
      const [w, h] = [video.videoWidth * scale, video.videoHeight * scale];
      context.drawImage(video, (width - w) / 2, (height - h) / 2, w, h);
    },
    end() {
      for (const track of stream.getTracks()) track.stop();
    },
  };
}

/** Pictures a second of what is recorded. */
export const RECORDED_RATE = 24;

/** Takes what a canvas shows, picture by picture, into a WebM. */
export class Recording {
  readonly #output = new Output({ format: new WebMOutputFormat(), target: new BufferTarget() });
  readonly #source: CanvasSource;
  #pictures = 0;
  #adding: Promise<unknown> = Promise.resolve();

  private constructor(canvas: HTMLCanvasElement, codec: 'vp9' | 'vp8') {
    this.#source = new CanvasSource(canvas, { codec, bitrate: 2_500_000, keyFrameInterval: 0.5 });
    this.#output.addVideoTrack(this.#source, { frameRate: RECORDED_RATE });
  }

  /** @throws an error with a sentence where this browser cannot record */
  static async begin(canvas: HTMLCanvasElement): Promise<Recording> {
    const { width, height } = canvas;
    for (const codec of ['vp9', 'vp8'] as const)
      if (await canEncodeVideo(codec, { width, height })) {
        const recording = new Recording(canvas, codec);
        await recording.#output.start();
        return recording;
      }
    throw new Error('This browser cannot record: it encodes neither VP9 nor VP8.');
  }

  get seconds(): number {
    return this.#pictures / RECORDED_RATE;
  }

  /** Takes the canvas as it is now as the next picture; it stands for one after the one before, whatever the clock says. */
  async add(): Promise<void> {
    const at = this.#pictures++ / RECORDED_RATE;
    this.#adding = this.#source.add(at, 1 / RECORDED_RATE);
    await this.#adding;
  }

  async finish(): Promise<Blob> {
    await this.#adding;
    await this.#output.finalize();
    return new Blob([this.#output.target.buffer!], { type: 'video/webm' });
  }

  async cancel(): Promise<void> {
    await this.#adding.catch(() => undefined);
    await this.#output.cancel();
  }
}
