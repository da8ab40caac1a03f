import { applyEdit, type Edit, type EditsSince, type Shot } from '@varrup/core';
import { api, Conflict, ServerRefusal, Unreachable } from '../api/client.ts';
import type { Journal, JournalRow } from './journal.ts';
import { linked } from './linked.ts';
import { Neighbours } from './neighbours.ts';
import type { OpenedShot } from './open.ts';

/** How saving stands, as the desk shows it. */
export type SaveState =
  | { readonly kind: 'saved'; readonly at: Date | null }
  | { readonly kind: 'saving' }
  /** The server does not answer; this many edits wait in the journal. */
  | { readonly kind: 'waiting'; readonly edits: number }
  /** Others were faster; both versions are being kept, and editing waits the moment it takes. */
  | { readonly kind: 'joining' }
  /** The server will not take the edits; they stay in the journal, and a copy of the shot is offered. */
  | { readonly kind: 'refused'; readonly sentence: string };

export interface SavingEvents {
  state(state: SaveState): void;
  /** Others have committed edits; nothing of ours was under way. */
  caughtUp(shot: Shot, edits: EditsSince['edits']): void;
  /** Others have committed edits while ours were under way. Ours are in a shot of their own now. */
  keptBoth(server: Shot, copy: { id: string; name: string }): void;
  /** How many other windows of this browser have the shot open. */
  neighbours(count: number): void;
  /** What the shot is with all local edits. */
  current(): Shot;
}

const RETRY_MS = 1500;

/**
 * Carries a shot's edits from the desk to the server: journal first, then the server, one batch at a time and in order.
 * An edit leaves the journal when the server has committed it.
 */
export class Saving {
  readonly #id: string;
  readonly #production: string;
  readonly #journal: Journal;
  readonly #on: SavingEvents;
  readonly #neighbours: Neighbours;
  #revision: number;
  #committed: Shot;
  #seq = 0;
  #queue: JournalRow[] = [];
  #sending = false;
  #closed = false;
  #refused = false;
  #retry: ReturnType<typeof setTimeout> | undefined;
  #journaled: Promise<void> = Promise.resolve();

  constructor(opened: OpenedShot, journal: Journal, on: SavingEvents) {
    this.#id = opened.document.id;
    this.#production = opened.production.id;
    this.#revision = opened.revision;
    this.#committed = opened.document;
    this.#journal = journal;
    this.#on = on;
    this.#neighbours = new Neighbours(this.#id, journal.window, {
      count: on.neighbours,
      committed: (revision) => {
        if (revision > this.#revision) void this.#catchUp();
      },
    });
    addEventListener('online', this.#send);
    on.state({ kind: 'saved', at: null });
  }

  /** Takes an edit over; from here on it is not lost. */
  add(edit: Edit): void {
    const row = { shot: this.#id, window: this.#journal.window, seq: this.#seq++, base: this.#revision, edit };
    this.#queue.push(row);
    if (!this.#refused) this.#tell({ kind: 'saving' });
    this.#journaled = this.#journaled.then(() => this.#journal.add(row));
    void this.#journaled.then(this.#send, this.#send);
  }

  /** Takes over what a window that died has left, already applied to the shot. */
  adopt(rows: readonly JournalRow[]): void {
    this.#queue.push(...rows);
    void this.#send();
  }

  /** Lets go of what the server refuses; called when it has been kept elsewhere. */
  async giveUp(): Promise<void> {
    const refused = this.#queue;
    this.#queue = [];
    await this.#journaled;
    await this.#journal.remove(refused);
  }

  close(): void {
    this.#closed = true;
    this.#stopWaiting();
    removeEventListener('online', this.#send);
    this.#neighbours.close();
  }

  #send = async (): Promise<void> => {
    if (this.#sending || this.#closed || this.#refused || this.#queue.length === 0) return;
    this.#sending = true;
    this.#stopWaiting();
    const batch = this.#queue.slice(0, 100);
    try {
      this.#tell({ kind: 'saving' });
      const revision = await api.commit(this.#id, { base: this.#revision, edits: batch.map((row) => row.edit) });
      this.#committed = batch.reduce((shot, row) => applyEdit(shot, row.edit), this.#committed);
      this.#revision = revision;
      this.#queue = this.#queue.slice(batch.length);
      await this.#journal.remove(batch);
      this.#neighbours.committed(revision);
      if (this.#queue.length === 0) this.#tell({ kind: 'saved', at: new Date() });
    } catch (error) {
      await this.#failed(error);
    } finally {
      this.#sending = false;
    }
    if (this.#queue.length > 0 && this.#retry === undefined) void this.#send();
  };

  async #failed(error: unknown): Promise<void> {
    if (error instanceof Conflict) {
      await this.#keepBoth().catch(() => this.#waitAndRetry());
    } else if (error instanceof ServerRefusal && error.status < 500 && error.status !== 429) {
      this.#tell({ kind: 'refused', sentence: error.message });
      this.#refused = true;
    } else if (error instanceof Unreachable || error instanceof ServerRefusal) {
      this.#waitAndRetry();
    } else {
      throw error;
    }
  }

  /** Says how saving stands; a desk that has left the shot does not ask any more. */
  #tell(state: SaveState): void {
    if (!this.#closed) this.#on.state(state);
  }

  /** No more of a later try: the timer and the mark that there is one go together. */
  #stopWaiting(): void {
    clearTimeout(this.#retry);
    this.#retry = undefined;
  }

  #waitAndRetry(): void {
    this.#tell({ kind: 'waiting', edits: this.#queue.length });
    this.#stopWaiting();
    this.#retry = setTimeout(() => {
      this.#retry = undefined;
      void this.#send();
    }, RETRY_MS);
  }

  /** Ours becomes a shot of its own beside the server's, and the desk goes on with the server's. */
  async #keepBoth(): Promise<void> {
    this.#tell({ kind: 'joining' });
    const mine = this.#on.current();
    const kept = this.#queue;
    const copy = await keepCopy(this.#production, mine);
    const opened = await api.openShot(this.#id);
    const theirs = await linked(opened.document);
    this.#revision = opened.revision;
    this.#committed = theirs;
    this.#queue = this.#queue.slice(kept.length);
    await this.#journal.remove(kept);
    this.#on.keptBoth(theirs, copy);
    this.#tell({ kind: 'saved', at: new Date() });
  }

  /** Follows what others have committed, unless something of ours is under way: then the server will say so. */
  async #catchUp(): Promise<void> {
    if (this.#queue.length > 0 || this.#sending) return;
    const since = await api.editsSince(this.#id, this.#revision).catch(() => null);
    if (!since || this.#queue.length > 0 || this.#sending || since.edits.length === 0) return;
    const next = await linked(since.edits.reduce<Shot>(applyEdit, this.#committed));
    if (this.#queue.length > 0 || this.#sending) return;
    this.#committed = next;
    this.#revision = since.revision;
    this.#on.caughtUp(this.#committed, since.edits);
  }
}

/** Puts a version of a shot into its production as a shot of its own, named after the moment. */
export async function keepCopy(production: string, shot: Shot): Promise<{ id: string; name: string }> {
  const time = new Date().toTimeString().slice(0, 5);
  const name = `${shot.name.slice(0, 60)} (kept ${time})`;
  return { id: await api.newShot(production, name, { ...shot, name }), name };
}
