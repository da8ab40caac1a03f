import type { Shot } from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { broughtUp } from './kept.ts';
import { unpacked } from './packing.ts';
import { replayed } from './replay.ts';
import { rigsFor, rigsOf } from './rigs.ts';

/** A shot as it was at a revision, read. */
export interface Held {
  readonly revision: number;
  readonly shot: Shot;
  /** About how many characters it is as JSON. */
  readonly size: number;
}

/** As much is kept read, in characters of JSON: some thirty shots of 10,000 keys. */
const MOST = 64e6;

/**
 * Shots kept read, those wanted lately. What is held is never wrong, only behind: whoever wants a shot says at which revision, and the
 * edits since are taken from the log.
 */
export class Documents {
  readonly #held = new Map<string, Held>();
  #size = 0;

  /** The shot at a revision that its row in the database had in this transaction. */
  async at(db: EntityManager, id: string, revision: number): Promise<Held> {
    const held = this.#held.get(id);
    if (held && held.revision === revision) return held;
    const known = held && held.revision < revision ? held : await fromSnapshot(db, id, revision);
    const edits: { patches: string }[] = await db.query(
      'SELECT patches FROM edits WHERE shot_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision',
      [id, known.revision, revision],
    );
    const document = replayed(known.shot, edits);
    const shot = { ...document, rigs: await rigsOf(db, known.shot, document) };
    const now = { revision, shot, size: known.size + edits.reduce((n, e) => n + e.patches.length, 0) };
    this.keep(id, now);
    return now;
  }

  /** Keeps a shot as it has become; those that were wanted longest ago are let go. */
  keep(id: string, held: Held): void {
    const before = this.#held.get(id);
    if (before && before.revision > held.revision) return;
    if (before) this.forget(id);
    this.#held.set(id, held);
    this.#size += held.size;
    for (const [oldest] of this.#held) {
      if (this.#size <= MOST || oldest === id) break;
      this.forget(oldest);
    }
  }

  forget(id: string): void {
    this.#size -= this.#held.get(id)?.size ?? 0;
    this.#held.delete(id);
  }

  has(id: string): boolean {
    return this.#held.has(id);
  }
}

async function fromSnapshot(db: EntityManager, id: string, revision: number): Promise<Held> {
  const [row]: { revision: number; document: Buffer }[] = await db.query(
    'SELECT revision, document FROM snapshots WHERE shot_id = $1 AND revision <= $2 ORDER BY revision DESC LIMIT 1',
    [id, revision],
  );
  const text = (await unpacked(row.document)).toString();
  const document = broughtUp(JSON.parse(text));
  return { revision: row.revision, shot: { ...document, rigs: await rigsFor(db, document) }, size: text.length };
}
