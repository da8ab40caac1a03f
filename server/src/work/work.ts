import type { Worker } from 'node:worker_threads';
import { type Commit, CommitSchema, type RigLink } from '@varrup/core';
import type { Logger } from 'pino';
import type { DataSource } from 'typeorm';
import { parseBody } from '../http/read.ts';
import { Refused } from '../http/refusal.ts';
import { commitAll } from '../store/commit.ts';
import { type Line, lineText } from '../store/edit-log.ts';
import { isLong } from '../store/folding.ts';
import type { ShotHead } from '../store/shot-row.ts';
import { Store } from '../store/store.ts';
import type { Answered } from './helper.ts';
import { committedText, type JobArguments, type JobName, type JobResult, jobs } from './jobs.ts';
import { Listeners } from './listeners.ts';
import type { Room } from './room.ts';
import { startThread } from './thread.ts';
import { Turns } from './turns.ts';

/** Bodies up to this many bytes are read where they come in. */
const SMALL_BODY = 64_000;
/** So are shots of up to so many characters: some 20,000 keys. */
const SMALL_SHOT = 3_000_000;

/** The memory of a body where it is its own: that is handed over, not copied. */
const ownMemory = ({ buffer, byteLength }: Uint8Array): ArrayBuffer[] =>
  buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : [];

interface Waiting {
  readonly done: (result: unknown) => void;
  readonly failed: (error: unknown) => void;
}

/** Does what the routes ask for, here or in the helper, and has snapshots made when a log has grown long. */
export class Work {
  readonly store: Store;
  readonly listeners = new Listeners();
  readonly room: Room;
  readonly #url: string;
  readonly #log: Logger;
  readonly #turns = new Turns<Commit, string>((id, commits) => this.#commitAll(id, commits));
  #helper: Worker | null = null;
  readonly #waiting = new Map<number, Waiting>();
  #turn = 0;
  /** Shots a snapshot is being made of. */
  readonly #folding = new Set<string>();
  #closed = false;

  constructor(database: DataSource, url: string, room: Room, log: Logger) {
    this.room = room;
    this.store = new Store(database, (head) => this.#changed(head));
    this.#url = url;
    this.#log = log;
  }

  /** Takes edits; small ones of small shots here. @returns the answer as JSON */
  async commit(id: string, body: Buffer): Promise<string> {
    const small = body.length <= SMALL_BODY && (this.store.documents.has(id) || (await this.#isSmall(id)));
    return small
      ? this.#turns.take(id, parseBody(CommitSchema, body))
      : this.alone(id, () => this.help('commit', { id, body }));
  }

  /** Changes a shot when those who were there before are through. */
  alone<T>(id: string, work: () => Promise<T>): Promise<T> {
    return this.#turns.alone(id, work);
  }

  async #commitAll(id: string, commits: readonly Commit[]): Promise<readonly (string | Refused)[]> {
    const results = await commitAll(this.store, id, commits);
    // The same lines go to many.
    const texts = new Map<Line, string>();
    const textOf = (line: Line): string => {
      const text = texts.get(line) ?? lineText(line);
      texts.set(line, text);
      return text;
    };
    return results.map((result) => (result instanceof Refused ? result : committedText(result, textOf)));
  }

  /** Makes a shot. @returns its id */
  create(production: string, body: Buffer): Promise<string> {
    const given = { production, body };
    return body.length <= SMALL_BODY ? jobs.create(this.store, given) : this.help('create', given);
  }

  /** Keeps a rig in the library. @returns its link */
  keepRig(body: Buffer): Promise<RigLink> {
    return body.length <= SMALL_BODY ? jobs.keepRig(this.store, { body }) : this.help('keepRig', { body });
  }

  /** Has something done by the helper. */
  help<Name extends JobName>(name: Name, given: JobArguments<Name>): Promise<JobResult<Name>> {
    const turn = this.#turn++;
    return new Promise((done, failed) => {
      this.#waiting.set(turn, { done: done as Waiting['done'], failed });
      this.#called.postMessage({ turn, name, given }, 'body' in given ? ownMemory(given.body) : []);
    });
  }

  /** Has the helper ready before somebody needs it. */
  warmUp(): void {
    void this.#called;
  }

  async close(): Promise<void> {
    this.#closed = true;
    this.listeners.close();
    await this.#helper?.terminate();
  }

  async #isSmall(id: string): Promise<boolean> {
    const [row]: { size: number; log_size: number }[] = await this.store.database.query(
      'SELECT size, log_size FROM shots WHERE id = $1',
      [id],
    );
    return !row || row.size + row.log_size <= SMALL_SHOT;
  }

  #changed(head: ShotHead): void {
    this.listeners.changed(head.id, head.revision);
    if (isLong(head)) this.#fold(head.id);
  }

  #fold(id: string): void {
    // The log goes on without a snapshot; one is made when there is room.
    if (this.#folding.has(id) || this.#closed || this.room.state === 'full') return;
    this.#folding.add(id);
    this.help('fold', { id })
      .then(
        (wrong) => wrong && this.#log.error({ shot: id, at: wrong }, 'a shot is not as it should be'),
        (error: Error) =>
          !this.#closed && this.#log.error({ shot: id, reason: error.message }, 'no snapshot could be made'),
      )
      .finally(() => this.#folding.delete(id));
  }

  /** The helper, started when it is first needed and again when it has died. */
  get #called(): Worker {
    if (this.#helper) return this.#helper;
    const helper = startThread(new URL(import.meta.url), './helper.ts', {
      workerData: { database: this.#url },
      // What it reads is large and short-lived: little is gained by keeping it long before it is looked through.
      resourceLimits: { maxOldGenerationSizeMb: 768, maxYoungGenerationSizeMb: 16 },
    });
    helper.on('message', (answer: Answered) => this.#hear(answer));
    helper.on('error', (error) => this.#lost(helper, error));
    helper.on('exit', () => this.#lost(helper, new Error('The helper has ended.')));
    this.#helper = helper;
    return helper;
  }

  #hear(answer: Answered): void {
    if ('changed' in answer) {
      this.#changed(answer.changed);
      return;
    }
    const waiting = this.#waiting.get(answer.turn);
    this.#waiting.delete(answer.turn);
    if ('done' in answer) waiting?.done(answer.done);
    else if ('refused' in answer) {
      const { status, body } = answer.refused;
      waiting?.failed(new Refused(status, body.error, body));
    } else waiting?.failed(Object.assign(new Error(answer.failed), { code: answer.code }));
  }

  /** What the helper was doing is not done; the next one starts afresh. */
  #lost(helper: Worker, error: Error): void {
    if (this.#helper !== helper) return;
    this.#helper = null;
    if (!this.#closed) this.#log.error({ reason: error.message }, 'the helper has died');
    for (const { failed } of this.#waiting.values()) failed(error);
    this.#waiting.clear();
  }
}
