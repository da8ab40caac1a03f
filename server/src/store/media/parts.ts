import { createHash, type Hash } from 'node:crypto';
import type { EntityManager } from 'typeorm';

/** Bytes of a part: all parts have so many but the last. */
export const PART = 1_048_576;

/** Bytes on their way in, part by part, under a name of their own until it is known what they are. */
export class Incoming {
  readonly #db: EntityManager;
  readonly of: string;
  readonly #hash: Hash = createHash('sha256');
  readonly #part = Buffer.allocUnsafeSlow(PART);
  #filled = 0;
  #parts = 0;
  size = 0;

  constructor(db: EntityManager, id: string) {
    this.#db = db;
    this.of = `upload-${id}`;
  }

  async take(chunk: Buffer): Promise<void> {
    this.#hash.update(chunk);
    this.size += chunk.length;
    for (let at = 0; at < chunk.length; ) {
      const count = Math.min(PART - this.#filled, chunk.length - at);
      chunk.copy(this.#part, this.#filled, at, at + count);
      this.#filled += count;
      at += count;
      if (this.#filled === PART) await this.#write();
    }
  }

  /** @returns the hash of all that came */
  async end(): Promise<string> {
    if (this.#filled > 0) await this.#write();
    return this.#hash.digest('hex');
  }

  async #write(): Promise<void> {
    const bytes = this.#part.subarray(0, this.#filled);
    await this.#db.query('INSERT INTO media_parts VALUES ($1, $2, $3)', [this.of, this.#parts++, bytes]);
    this.#filled = 0;
  }
}

/** Some of the bytes that lie in parts. @param first counted from 0 */
export async function readParts(db: EntityManager, of: string, first: number, count: number): Promise<Buffer> {
  if (count <= 0) return Buffer.alloc(0);
  const [from, to] = [Math.floor(first / PART), Math.floor((first + count - 1) / PART)];
  const rows: { bytes: Buffer }[] = await db.query(
    `SELECT substring(bytes
              FROM CASE WHEN part = $2 THEN $4::int + 1 ELSE 1 END
              FOR CASE WHEN part = $3 THEN $5::int ELSE ${PART} END - CASE WHEN part = $2 THEN $4::int ELSE 0 END) AS bytes
       FROM media_parts WHERE of = $1 AND part BETWEEN $2 AND $3 ORDER BY part`,
    [of, from, to, first - from * PART, first + count - to * PART],
  );
  return rows.length === 1 ? rows[0].bytes : Buffer.concat(rows.map((row) => row.bytes));
}

export const dropParts = (db: EntityManager, of: string): Promise<unknown> =>
  db.query('DELETE FROM media_parts WHERE of = $1', [of]);

/** Lets go what was on its way when the server ended. */
export const dropIncoming = (db: EntityManager): Promise<unknown> =>
  db.query(`DELETE FROM media_parts WHERE of LIKE 'upload-%'`);
