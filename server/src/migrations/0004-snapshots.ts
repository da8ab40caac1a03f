import { migrate, parseShot, type ShotDocument, trusted } from '@varrup/core';
import type { MigrationInterface, QueryRunner } from 'typeorm';
import { packed } from '../store/packing.ts';
import { replayed } from '../store/replay.ts';
import { rigsFor } from '../store/rigs.ts';

/**
 * Snapshots by themselves, packed, and never changed: any revision of a shot can be had. Edits keep who made them and what takes them
 * back, and are kept as the text they are sent as. A named version is the name of a revision.
 */
export class Snapshots1764300000004 implements MigrationInterface {
  name = 'Snapshots1764300000004';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE snapshots (
        shot_id text NOT NULL REFERENCES shots (id),
        revision int NOT NULL CHECK (revision >= 0),
        document bytea NOT NULL,
        hash text NOT NULL,
        made_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (shot_id, revision)
      )`);
    // They are packed already.
    await query.query('ALTER TABLE snapshots ALTER document SET STORAGE EXTERNAL');
    await query.query('ALTER TABLE edits ALTER patches TYPE text USING patches::text');
    await query.query('ALTER TABLE edits ALTER patches SET COMPRESSION lz4');
    await query.query(`ALTER TABLE edits ADD COLUMN author text NOT NULL DEFAULT 'you'`);
    await query.query('ALTER TABLE edits ADD COLUMN inverse text');
    await query.query('ALTER TABLE edits ALTER inverse SET COMPRESSION lz4');
    await query.query('ALTER TABLE shots ADD COLUMN size int NOT NULL DEFAULT 0');
    await query.query('ALTER TABLE shots ADD COLUMN log_size int NOT NULL DEFAULT 0');
    const shots: { id: string }[] = await query.query('SELECT id FROM shots ORDER BY id');
    for (const { id } of shots) await this.#fold(query, id);
    await query.query('ALTER TABLE shots DROP COLUMN snapshot');
    const versions: { id: string; shot_id: string; revision: number; document: unknown }[] = await query.query(
      'SELECT id, shot_id, revision, document FROM versions ORDER BY id',
    );
    for (const v of versions) await this.#put(query, v.shot_id, v.revision, JSON.stringify(v.document));
    await query.query('ALTER TABLE versions DROP COLUMN document');
  }

  /** Takes a shot's snapshot over, and where the shot reads as one of today its newest state as well. */
  async #fold(query: QueryRunner, id: string): Promise<void> {
    const [row]: { snapshot: unknown; snapshot_revision: number; revision: number }[] = await query.query(
      'SELECT snapshot, snapshot_revision, revision FROM shots WHERE id = $1',
      [id],
    );
    const kept = JSON.stringify(row.snapshot);
    await this.#put(query, id, row.snapshot_revision, kept);
    const edits: { patches: string }[] = await query.query(
      'SELECT patches FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision',
      [id, row.snapshot_revision],
    );
    const now = replayed(trusted(migrate(row.snapshot)) as ShotDocument, edits);
    const parsed = parseShot(now, await rigsFor(query.manager, now));
    const text = parsed.ok ? JSON.stringify(parsed.value) : kept;
    if (parsed.ok) await this.#put(query, id, row.revision, text);
    await query.query('UPDATE shots SET size = $2, snapshot_revision = $3 WHERE id = $1', [
      id,
      text.length,
      parsed.ok ? row.revision : row.snapshot_revision,
    ]);
  }

  async #put(query: QueryRunner, shot: string, revision: number, text: string): Promise<void> {
    const { bytes, hash } = await packed(text);
    await query.query(
      'INSERT INTO snapshots (shot_id, revision, document, hash) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING',
      [shot, revision, bytes, hash],
    );
  }

  async down(): Promise<void> {
    throw new Error('What an earlier Varrup kept by itself is packed now; put a backup back instead.');
  }
}
