import type { Edit } from '@varrup/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/**
 * The browser's own record of edits the server has not committed yet. An edit stands here before anything else happens
 * to it, and goes only when the server has it. Each window writes under its own name and holds a lock of that name while
 * it lives, so that what a dead window left can be told from what a living one is still sending.
 */
export interface JournalRow {
  readonly shot: string;
  readonly window: string;
  /** Order within the window. */
  readonly seq: number;
  /** The revision of the document that the first edit of this window's run was made on. */
  readonly base: number;
  readonly edit: Edit;
}

interface Schema extends DBSchema {
  edits: { key: [string, string, number]; value: JournalRow; indexes: { byShot: string } };
}

export class Journal {
  readonly #database: Promise<IDBPDatabase<Schema>>;
  readonly window: string;

  constructor() {
    this.window = crypto.randomUUID();
    this.#database = openDB<Schema>('varrup', 1, {
      upgrade(database) {
        database.createObjectStore('edits', { keyPath: ['shot', 'window', 'seq'] }).createIndex('byShot', 'shot');
      },
    });
    // Held for as long as this window lives; never resolved on purpose.
    void navigator.locks.request(lockName(this.window), () => new Promise<never>(() => {}));
  }

  async add(row: JournalRow): Promise<void> {
    const database = await this.#database;
    const write = database.transaction('edits', 'readwrite', { durability: 'strict' });
    await write.store.put(row);
    await write.done;
  }

  async remove(rows: readonly JournalRow[]): Promise<void> {
    const database = await this.#database;
    const write = database.transaction('edits', 'readwrite');
    for (const row of rows) void write.store.delete([row.shot, row.window, row.seq]);
    await write.done;
  }

  /** What windows that no longer live have left of a shot, window by window, in order. */
  async leftBehind(shot: string): Promise<JournalRow[][]> {
    const database = await this.#database;
    const rows = await database.getAllFromIndex('edits', 'byShot', shot);
    const held = new Set((await navigator.locks.query()).held?.map((lock) => lock.name));
    const windows = new Map<string, JournalRow[]>();
    for (const row of rows.sort((a, b) => a.seq - b.seq)) {
      if (row.window === this.window || held.has(lockName(row.window))) continue;
      windows.set(row.window, [...(windows.get(row.window) ?? []), row]);
    }
    return [...windows.values()];
  }
}

const lockName = (window: string) => `varrup-window-${window}`;
