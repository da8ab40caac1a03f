import type { Edit } from '@varrup/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { editText } from './edit-text.ts';

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

/** A row as it is kept: its edit as text. Rows of the first Varrups have it as an object. */
type KeptRow = Omit<JournalRow, 'edit'> & ({ readonly text: string } | { readonly edit: Edit });

const editOf = (row: KeptRow): Edit => ('text' in row ? (JSON.parse(row.text) as Edit) : row.edit);

interface Schema extends DBSchema {
  edits: { key: [string, string, number]; value: KeptRow; indexes: { byShot: string } };
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
    const { edit, ...place } = row;
    await write.store.put({ ...place, text: editText(edit) });
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
      const { shot: of, window, seq, base } = row;
      windows.set(window, [...(windows.get(window) ?? []), { shot: of, window, seq, base, edit: editOf(row) }]);
    }
    return [...windows.values()];
  }
}

const lockName = (window: string) => `varrup-window-${window}`;
