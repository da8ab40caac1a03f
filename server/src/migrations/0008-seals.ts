import type { MigrationInterface, QueryRunner } from 'typeorm';
import { firstSeal, type SealedLine, sealAfter, sealOf } from '../store/seals.ts';

/** So many lines of the log are sealed at once. */
const AT_ONCE = 500;

/** Every row gets a seal of what is in it (see `store/seals.ts`), and every line of a log one that holds the lines before it. */
export class Seals1764700000008 implements MigrationInterface {
  name = 'Seals1764700000008';

  async up(query: QueryRunner): Promise<void> {
    // A seal holds when a line was made, and what reads it knows milliseconds.
    await query.query(`UPDATE edits SET made_at = date_trunc('milliseconds', made_at)`);
    await query.query(`ALTER TABLE edits ADD COLUMN seal text NOT NULL DEFAULT ''`);
    await query.query(`
      ALTER TABLE shots ADD COLUMN seal text NOT NULL DEFAULT '', ADD COLUMN snapshots int NOT NULL DEFAULT 0`);
    await query.query(`
      ALTER TABLE media ADD COLUMN poster_hash text, ADD COLUMN waveform_hash text`);
    await query.query(`
      UPDATE media SET poster_hash = encode(sha256(poster), 'hex'), waveform_hash = encode(sha256(waveform), 'hex')`);
    await query.query(`ALTER TABLE pictures ADD COLUMN hash text NOT NULL DEFAULT ''`);
    await query.query(`UPDATE pictures SET hash = encode(sha256(bytes), 'hex')`);
    for (const table of ['productions', 'versions', 'poses', 'rig_versions'])
      await query.query(`ALTER TABLE ${table} ADD COLUMN seal text NOT NULL DEFAULT ''`);

    await this.#seal(query, 'productions', 'id, name', ['id'], (r) => sealOf(r.id, r.name));
    await this.#seal(query, 'versions', 'id, shot_id, name, revision', ['id'], (r) =>
      sealOf(r.id, r.shot_id, r.name, r.revision),
    );
    await this.#seal(query, 'poses', 'id, rig_id, name, tags, channel_values', ['id'], (r) =>
      sealOf(r.id, r.rig_id, r.name, r.tags, r.channel_values),
    );
    await this.#seal(query, 'rig_versions', '*', ['rig_id', 'version'], (r) =>
      sealOf(r.rig_id, r.version, r.name, r.changes, r.definition),
    );
    const shots: { id: string }[] = await query.query('SELECT id FROM shots ORDER BY id');
    for (const { id } of shots) await this.#sealLog(query, id);
    await query.query('ALTER TABLE edits ALTER seal DROP DEFAULT');
  }

  async #seal(
    query: QueryRunner,
    table: string,
    columns: string,
    key: readonly string[],
    seal: (row: Record<string, unknown>) => string,
  ): Promise<void> {
    const rows: Record<string, unknown>[] = await query.query(`SELECT ${columns} FROM ${table}`);
    const where = key.map((name, i) => `${name} = $${i + 2}`).join(' AND ');
    for (const row of rows)
      await query.query(`UPDATE ${table} SET seal = $1 WHERE ${where}`, [seal(row), ...key.map((name) => row[name])]);
  }

  async #sealLog(query: QueryRunner, shot: string): Promise<void> {
    const snapshots: { hash: string }[] = await query.query(
      'SELECT hash FROM snapshots WHERE shot_id = $1 ORDER BY revision',
      [shot],
    );
    let seal = firstSeal(shot, snapshots[0]?.hash ?? '');
    for (let after = 0, goesOn = true; goesOn; ) {
      const lines: SealedLine[] = await query.query(
        `SELECT revision, edit_id, command, label, author, made_at, patches, inverse
           FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision LIMIT ${AT_ONCE}`,
        [shot, after],
      );
      const seals = lines.map((line) => {
        seal = sealAfter(seal, line);
        return seal;
      });
      await query.query(
        `UPDATE edits e SET seal = n.seal FROM unnest($2::int[], $3::text[]) AS n (revision, seal)
          WHERE e.shot_id = $1 AND e.revision = n.revision`,
        [shot, lines.map((line) => line.revision), seals],
      );
      after = lines.at(-1)?.revision ?? after;
      goesOn = lines.length === AT_ONCE;
    }
    await query.query('UPDATE shots SET seal = $2, snapshots = $3 WHERE id = $1', [shot, seal, snapshots.length]);
  }

  async down(query: QueryRunner): Promise<void> {
    for (const table of ['productions', 'versions', 'poses', 'rig_versions', 'edits'])
      await query.query(`ALTER TABLE ${table} DROP COLUMN seal`);
    await query.query('ALTER TABLE shots DROP COLUMN seal, DROP COLUMN snapshots');
    await query.query('ALTER TABLE media DROP COLUMN poster_hash, DROP COLUMN waveform_hash');
    await query.query('ALTER TABLE pictures DROP COLUMN hash');
  }
}
