import {
  apartFrom,
  applyEdit,
  documentOf,
  type Edit,
  type EditsSince,
  type LoggedEdit,
  meetings,
  newId,
  type Patch,
  PatchError,
  type Present,
  parseShot,
  type Rigs,
  type Shot,
  takingOver,
} from '@varrup/core';
import { api, Conflict, ServerRefusal, Unreachable } from '../api/client.ts';
import type { Journal, JournalRow } from './journal.ts';
import { linked } from './linked.ts';
import { Listening } from './listening.ts';
import { Neighbours } from './neighbours.ts';
import type { OpenedShot } from './open.ts';

/** How saving stands, as the desk shows it. */
export type SaveState =
  | { readonly kind: 'saved'; readonly at: Date | null }
  | { readonly kind: 'saving' }
  /** The server does not answer, or its disk is full; this many edits wait in the journal. */
  | { readonly kind: 'waiting'; readonly edits: number; readonly for: 'server' | 'room' }
  /** Others have changed the same; editing waits until it is chosen whose stays. */
  | { readonly kind: 'joining' }
  /** The server will not take the edits; they stay in the journal, and a copy of the shot is offered. */
  | { readonly kind: 'refused'; readonly sentence: string };

export interface SavingEvents {
  state(state: SaveState): void;
  /** Others have committed edits that meet none of ours: they are to be put into the shot as it is here, with these rigs at hand. */
  joined(edits: readonly LoggedEdit[], rigs: Rigs): void;
  /** Others have changed what we have changed as well: one of both must be chosen. */
  choose(meeting: Meeting): Promise<Choice>;
  /** It is chosen: the shot is this now, of which the others have changed these places. */
  chosen(shot: Shot, theirs: readonly Patch[]): void;
  /** Ours are in a shot of their own now, and here is the others'. */
  keptBoth(server: Shot, copy: { id: string; name: string }): void;
  /** How many other windows of this browser have the shot open. */
  neighbours(count: number): void;
  /** Who else is at the shot, in other browsers. */
  present(others: readonly Present[]): void;
  /** What the shot is with all local edits. */
  current(): Shot;
}

/** Where two have changed the same. */
export interface Meeting {
  /** The places of the document, see `placeOf`. */
  readonly places: readonly string[];
  readonly mine: Shot;
  readonly theirs: Shot;
}
/** What is to become of the places at which two have met: at these mine are put over theirs; or all of mine become a shot of its own. */
export type Choice = ReadonlySet<string> | 'apart';

const RETRY_MS = 1500;
const DISK_FULL = 507;
const NOWHERE: ReadonlySet<string> = new Set();

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
  readonly #listening: Listening;
  #revision: number;
  /** How far the shot has been heard to have got. */
  #heard = 0;
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
      committed: (revision) => this.#hear(revision),
    });
    this.#listening = new Listening(this.#id, journal.window, {
      changed: (revision) => {
        // The other windows of this browser hear of it from here.
        if (revision > this.#revision) this.#neighbours.committed(revision);
        this.#hear(revision);
      },
      present: on.present,
    });
    addEventListener('online', this.#send);
    on.state({ kind: 'saved', at: null });
  }

  /** Takes an edit over; from here on it is not lost. */
  add(edit: Edit): void {
    const row = this.#row(edit);
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

  /** Tells others what is picked here. */
  picks(ids: readonly string[]): void {
    this.#listening.picks(ids);
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
    this.#listening.close();
  }

  #send = async (): Promise<void> => {
    if (this.#sending || this.#closed || this.#refused || this.#queue.length === 0) return;
    this.#sending = true;
    this.#stopWaiting();
    const batch = this.#queue.slice(0, 100);
    try {
      this.#tell({ kind: 'saving' });
      const { revision, edits } = await api.commit(this.#id, {
        base: this.#revision,
        edits: batch.map((row) => row.edit),
      });
      await this.#committedWith(batch, revision, edits);
    } catch (error) {
      await this.#failed(error);
    } finally {
      this.#sending = false;
    }
    if (this.#queue.length > 0 && this.#retry === undefined) void this.#send();
    else this.#hear(this.#heard);
  };

  /** How many edits the server has taken, as far as is known here. */
  get revision(): number {
    return this.#revision;
  }

  /** The shot has got to a revision. While something of ours is under way that is remembered: the answer may be older. */
  #hear(revision: number): void {
    this.#heard = Math.max(this.#heard, revision);
    if (this.#heard > this.#revision) void this.#catchUp();
  }

  /** A batch is committed, after edits of others or of our own that were in the log already. */
  async #committedWith(batch: readonly JournalRow[], revision: number, since: readonly LoggedEdit[]): Promise<void> {
    const there = new Set(since.map((edit) => edit.id));
    const mine = new Set(batch.map((row) => row.edit.id));
    const ours = batch.filter((row) => !there.has(row.edit.id)).map((row) => row.edit);
    this.#committed = [...since, ...ours].reduce<Shot>(applyEdit, this.#committed);
    this.#revision = revision;
    this.#queue = this.#queue.slice(batch.length);
    await this.#journal.remove(batch);
    this.#neighbours.committed(revision);
    await this.#join(since.filter((edit) => !mine.has(edit.id)));
    if (this.#queue.length === 0) this.#tell({ kind: 'saved', at: new Date() });
  }

  /** Puts what others have done into the shot as it is here, where it meets nothing that waits to be sent. */
  async #join(theirs: readonly LoggedEdit[]): Promise<void> {
    if (theirs.length === 0) return;
    const { rigs } = await linked(this.#committed);
    this.#committed = { ...this.#committed, rigs };
    // From here on nothing comes in between.
    const places = meetings(patchesOf(this.#queue.map((row) => row.edit)), patchesOf(theirs));
    if (places.length > 0) await this.#meet(places, theirs);
    else this.#on.joined(theirs, rigs);
  }

  async #failed(error: unknown): Promise<void> {
    if (error instanceof Conflict) {
      await this.#catchUpAndMeet(error.since).catch(() => this.#waitAndRetry());
    } else if (error instanceof ServerRefusal && error.status < 500 && error.status !== 429) {
      this.#tell({ kind: 'refused', sentence: error.message });
      this.#refused = true;
    } else if (error instanceof Unreachable || error instanceof ServerRefusal) {
      this.#waitAndRetry(error instanceof ServerRefusal && error.status === DISK_FULL ? 'room' : 'server');
    } else {
      throw error;
    }
  }

  /** The server will not take ours, since others have changed the same: from where it is now somebody must choose. */
  async #catchUpAndMeet(since: EditsSince): Promise<void> {
    const there = new Set(since.edits.map((edit) => edit.id));
    const known = this.#queue.filter((row) => there.has(row.edit.id));
    const theirs = since.edits.filter((edit) => !known.some((row) => row.edit.id === edit.id));
    const next = await linked(since.edits.reduce<Shot>(applyEdit, this.#committed));
    await this.#journal.remove(known);
    this.#committed = next;
    this.#revision = since.revision;
    this.#queue = this.#queue.filter((row) => !there.has(row.edit.id));
    await this.#meet(meetings(patchesOf(this.#queue.map((row) => row.edit)), patchesOf(theirs)), theirs);
  }

  /** Lets somebody choose what is to become of what both have changed. What cannot be told apart is kept as a shot of its own. */
  async #meet(places: readonly string[], theirs: readonly LoggedEdit[]): Promise<void> {
    this.#tell({ kind: 'joining' });
    const mine = this.#on.current();
    const choice = places.length > 0 ? await this.#choice(places, mine) : 'apart';
    const made = choice === 'apart' ? null : this.#rebased(places, mine, choice);
    if (!made) return this.#keepBoth();
    const old = this.#queue;
    const rows = made.edits.map((edit) => this.#row(edit));
    for (const row of rows) await this.#journal.add(row);
    await this.#journal.remove(old);
    this.#queue = rows;
    this.#on.chosen(made.shot, patchesOf(theirs));
    if (rows.length === 0) this.#tell({ kind: 'saved', at: new Date() });
  }

  /** Whose is to be what both have changed. Where both have made the same of it there is nothing to choose. */
  #choice(places: readonly string[], mine: Shot): Choice | Promise<Choice> {
    const theirs = this.#committed;
    const differ = places.filter((place) => takingOver(documentOf(theirs), documentOf(mine), [place]).length > 0);
    return differ.length > 0 ? this.#on.choose({ places: differ, mine, theirs }) : NOWHERE;
  }

  /** Our edits as they are after those of others: without the places at which they meet. Some of these are put over theirs. */
  #rebased(places: readonly string[], mine: Shot, chosen: ReadonlySet<string>): { edits: Edit[]; shot: Shot } | null {
    const edits = this.#queue.flatMap(({ edit }): Edit[] => {
      const patches = apartFrom(edit.patches, places);
      return patches.length > 0 ? [{ ...edit, id: newId(), patches }] : [];
    });
    try {
      let shot = edits.reduce<Shot>(applyEdit, this.#committed);
      const patches = takingOver(documentOf(shot), documentOf(mine), [...chosen]);
      if (patches.length > 0) {
        const over = {
          id: newId(),
          command: 'shot.keepMine',
          label: 'keep mine where others changed the same',
          patches,
        };
        shot = applyEdit(shot, over);
        edits.push(over);
      }
      return parseShot(shot, mine.rigs.with(shot.rigs.list)).ok ? { edits, shot } : null;
    } catch (error) {
      if (error instanceof PatchError) return null;
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

  #waitAndRetry(what: 'server' | 'room' = 'server'): void {
    this.#tell({ kind: 'waiting', edits: this.#queue.length, for: what });
    this.#stopWaiting();
    this.#retry = setTimeout(() => {
      this.#retry = undefined;
      void this.#send();
    }, RETRY_MS);
  }

  /** Ours becomes a shot of its own beside the server's, and the desk goes on with the server's. */
  async #keepBoth(): Promise<void> {
    const kept = this.#queue;
    const copy = await keepCopy(this.#production, this.#on.current());
    this.#queue = this.#queue.slice(kept.length);
    await this.#journal.remove(kept);
    this.#on.keptBoth(this.#committed, copy);
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
    this.#on.joined(since.edits, next.rigs);
  }

  #row(edit: Edit): JournalRow {
    return { shot: this.#id, window: this.#journal.window, seq: this.#seq++, base: this.#revision, edit };
  }
}

const patchesOf = (edits: readonly Pick<Edit, 'patches'>[]): Patch[] => edits.flatMap((edit) => edit.patches);

/** Puts a version of a shot into its production as a shot of its own, named after the moment. */
export async function keepCopy(production: string, shot: Shot): Promise<{ id: string; name: string }> {
  const time = new Date().toTimeString().slice(0, 5);
  const name = `${shot.name.slice(0, 60)} (kept ${time})`;
  return { id: await api.newShot(production, name, { ...shot, name }), name };
}
