import { type MediaKind, mediaKinds, mediaLimits } from '@varrup/core';
import { Refused } from '../../http/refusal.ts';
import { startThread } from '../../work/thread.ts';
import type { Answered, Asked } from './looker.ts';
import { isWholePicture } from './picture.ts';
import type { Readable, TrackKind } from './tracks.ts';

/**
 * Looking may take so long, in milliseconds, and a little more for each so many bytes: some files must be gone along as a whole. It counts only
 * while the thread has what it needs: how long that takes to start, or bytes to come, is not the file's fault.
 */
const PATIENCE = 5_000;
const BYTES_A_MS = 100_000;

/**
 * Looks whether bytes are what they begin as, all the way: a picture is decoded, of sound and footage the tracks are read and how long they
 * last. @param gone the sender has left: then it is ended @throws Refused (415) with a sentence where they are not, or where it takes too long
 */
export async function lookThrough(kind: MediaKind, bytes: Readable, gone: AbortSignal): Promise<void> {
  const { of } = mediaKinds[kind];
  if (of === 'picture') {
    const whole = Buffer.from(await bytes.read(0, bytes.size));
    if (!(await isWholePicture(whole, kind, mediaLimits.pixels)))
      throw new Refused(415, 'The picture is broken, or has more pixels than can be shown.');
    return;
  }
  const problem = await inThread({ look: kind as TrackKind, of, size: bytes.size }, bytes, gone);
  if (problem) throw new Refused(415, problem);
}

/** Threads that have nothing to do. */
const idle: ReturnType<typeof startThread>[] = [];
const MOST_IDLE = 2;

function inThread(asked: Asked & { size: number }, bytes: Readable, gone: AbortSignal): Promise<string | null> {
  const thread = idle.pop() ?? startThread(new URL(import.meta.url), './looker.ts');
  thread.ref();
  return new Promise((done, failed) => {
    const end = (settle: () => void, keep: boolean) => {
      clock.stop();
      gone.removeEventListener('abort', leave);
      thread.off('message', hear).off('error', broke).off('exit', ended);
      if (keep && idle.length < MOST_IDLE) {
        thread.unref();
        idle.push(thread);
      } else void thread.terminate();
      settle();
    };
    const hear = (answer: Answered) => {
      if ('problem' in answer) return end(() => done(answer.problem), true);
      if ('begun' in answer) return clock.run();
      clock.stop();
      bytes.read(...answer.read).then((read) => {
        thread.postMessage({ bytes: read } satisfies Asked);
        clock.run();
      }, broke);
    };
    const broke = (error: unknown) => end(() => failed(error), false);
    const ended = () => broke(new Error('The looker has ended.'));
    const leave = () => end(() => failed(new Refused(400, 'The connection broke before it was looked at.')), false);
    const clock = new Clock(PATIENCE + asked.size / BYTES_A_MS, () =>
      end(() => done('It takes too long to look through: it is broken, or in very many parts.'), false),
    );
    gone.addEventListener('abort', leave, { once: true });
    if (gone.aborted) return leave();
    thread.on('message', hear).once('error', broke).once('exit', ended);
    thread.postMessage(asked);
  });
}

/** Lets some time go by, in pieces, and then calls. */
class Clock {
  readonly #late: () => void;
  #left: number;
  #since = 0;
  #timer: NodeJS.Timeout | undefined;

  constructor(ms: number, late: () => void) {
    this.#left = ms;
    this.#late = late;
  }

  run(): void {
    this.stop();
    this.#since = performance.now();
    this.#timer = setTimeout(this.#late, this.#left);
  }

  stop(): void {
    if (this.#timer === undefined) return;
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#left -= performance.now() - this.#since;
  }
}
