import { parentPort } from 'node:worker_threads';
import { problemOf, type TrackKind } from './tracks.ts';

/** Looks through sounds and footage in a thread of its own, which is ended where one of them takes too long. */

/** What it is asked: to look at so many bytes; it asks for those it needs, and is sent them. */
export type Asked =
  | { readonly look: TrackKind; readonly of: 'sound' | 'footage'; readonly size: number }
  | { readonly bytes: Uint8Array };
export type Answered =
  /** It has begun to look. */
  | { readonly begun: true }
  | { readonly read: readonly [first: number, count: number] }
  | { readonly problem: string | null };

const port = parentPort!;
const say = (answer: Answered) => port.postMessage(answer);

/** Bytes are asked for one piece after another. */
let waiting: ((bytes: Uint8Array) => void)[] = [];

port.on('message', async (asked: Asked) => {
  if ('bytes' in asked) return waiting.shift()?.(asked.bytes);
  waiting = [];
  say({ begun: true });
  const read = (first: number, count: number) =>
    new Promise<Uint8Array>((done) => {
      waiting.push(done);
      say({ read: [first, count] });
    });
  say({ problem: await problemOf(asked.look, asked.of, { size: asked.size, read }) });
});
