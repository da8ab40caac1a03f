import { learnRigs } from '@varrup/core';
import * as Comlink from 'comlink';
import type { Job, Made, Progress } from './job.ts';
import { make } from './make.ts';

/** Movies off the interface's thread. */
export const maker = {
  learn: learnRigs,

  async make(job: Job, progress: Progress): Promise<Made> {
    const made = await make(job, progress);
    return Comlink.transfer(made, [made.bytes]);
  },
};

Comlink.expose(maker);
