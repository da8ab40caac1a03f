import type { DataSource, EntityManager } from 'typeorm';
import { Documents } from './documents.ts';
import type { ShotHead } from './shot-row.ts';

/** The database together with what this thread has read of it. */
export class Store {
  readonly database: DataSource;
  readonly documents = new Documents();
  /** Hears of a shot that has changed: its revision, and how far it is from its newest snapshot. */
  readonly changed: (head: ShotHead) => unknown;
  readonly #afterwards = new WeakMap<EntityManager, (() => void)[]>();

  constructor(database: DataSource, changed: (head: ShotHead) => unknown) {
    this.database = database;
    this.changed = changed;
  }

  /** Does something in one transaction; what it has put off until afterwards follows when that is committed, and only then. */
  async change<T>(work: (db: EntityManager) => Promise<T>): Promise<T> {
    let after: (() => void)[] = [];
    const result = await this.database.transaction(async (db) => {
      const done = await work(db);
      after = this.#afterwards.get(db) ?? [];
      return done;
    });
    for (const call of after) call();
    return result;
  }

  /** Does something when the transaction is committed. */
  afterwards(db: EntityManager, call: () => void): void {
    const list = this.#afterwards.get(db) ?? [];
    list.push(call);
    this.#afterwards.set(db, list);
  }

  /** Reads what belongs together as it was at one moment. */
  read<T>(work: (db: EntityManager) => Promise<T>): Promise<T> {
    return this.database.transaction('REPEATABLE READ', work);
  }
}
