import * as Comlink from 'comlink';
import { Mirrored, type News } from '../mirror/mirror.ts';
import type { Job, Made, Progress } from './job.ts';
import { make } from './make.ts';

/** Movies off the interface's thread. */
export const maker = {
  async make(shot: News, job: Omit<Job, 'shot'>, progress: Progress): Promise<Made> {
    const made = await make({ ...job, shot: new Mirrored().hear(shot) } as Job, progress);
    return Comlink.transfer(made, [made.bytes]);
  },
};

Comlink.expose(maker);
