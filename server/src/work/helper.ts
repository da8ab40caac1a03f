import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../database.ts';
import { Refused } from '../http/refusal.ts';
import type { ShotHead } from '../store/shot-row.ts';
import { Store } from '../store/store.ts';
import { type JobName, jobs } from './jobs.ts';

/** The helper: a thread of its own for whatever may take long, so that nobody else waits for it. */

/** What it is asked to do, and what it answers. */
export interface Asked {
  readonly turn: number;
  readonly name: JobName;
  readonly given: never;
}
export type Answered =
  | { readonly turn: number; readonly done: unknown }
  | { readonly turn: number; readonly refused: { readonly status: number; readonly body: Refused['body'] } }
  | { readonly turn: number; readonly failed: string; readonly code?: string }
  /** A shot has changed. */
  | { readonly changed: ShotHead };

const port = parentPort!;
const say = (answer: Answered) => port.postMessage(answer);

const store = connect((workerData as { database: string }).database, 3).then(
  (database) => new Store(database, (head) => say({ changed: head })),
);

port.on('message', async ({ turn, name, given }: Asked) => {
  try {
    say({ turn, done: await jobs[name](await store, given) });
  } catch (error) {
    if (error instanceof Refused) say({ turn, refused: { status: error.status, body: error.body } });
    else {
      const { code } = (error ?? {}) as { code?: string };
      say({ turn, failed: error instanceof Error ? (error.stack ?? error.message) : String(error), code });
    }
  }
});
