import * as Comlink from 'comlink';
import { wholeOf } from '../mirror/mirror.ts';
import { Cancelled, type Job, type Made } from './job.ts';
import { make } from './make.ts';
import type { maker } from './movie.worker.ts';

/** A job under way. */
export interface Running {
  readonly made: Promise<Made>;
  cancel(): void;
}

/** Whether this browser can draw in 3D off the page. */
const worksInWorker = typeof Worker !== 'undefined' && typeof OffscreenCanvas !== 'undefined';

/** Starts a job in a worker of its own; cancelling ends the worker at once. */
export function start(job: Job, onProgress: (share: number) => void): Running {
  if (!worksInWorker) return startOnPage(job, onProgress);
  const worker = new Worker(new URL('./movie.worker.ts', import.meta.url), { type: 'module' });
  const remote = Comlink.wrap<typeof maker>(worker);
  const { shot, ...rest } = job;
  let cancel = () => {};
  const cancelled = new Promise<never>((_, reject) => {
    cancel = () => reject(new Cancelled('Cancelled.'));
  });
  const failed = new Promise<never>((_, reject) => {
    worker.onerror = (event) => reject(new Error(event.message || 'The movie could not be made.'));
  });
  const progress = Comlink.proxy((share: number) => {
    onProgress(share);
    return true;
  });
  const made = Promise.race([remote.make(wholeOf(shot), rest, progress), cancelled, failed]).finally(() =>
    worker.terminate(),
  );
  return { made, cancel };
}

function startOnPage(job: Job, onProgress: (share: number) => void): Running {
  let goOn = true;
  const made = make(job, async (share) => {
    onProgress(share);
    // The page must be able to draw the progress and hear the cancel.
    await new Promise((later) => setTimeout(later));
    return goOn;
  });
  return {
    made,
    cancel: () => {
      goOn = false;
    },
  };
}
