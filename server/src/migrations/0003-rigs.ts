import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The rig library: versions of rigs, their pose books, and which shots link which. */
export class Rigs1764200000003 implements MigrationInterface {
  name = 'Rigs1764200000003';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE rig_versions (
        rig_id text NOT NULL,
        version int NOT NULL CHECK (version >= 1),
        name text NOT NULL,
        changes text NOT NULL,
        definition jsonb NOT NULL,
        made_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (rig_id, version)
      )`);
    await query.query(`
      CREATE TABLE poses (
        id text PRIMARY KEY,
        rig_id text NOT NULL,
        name text NOT NULL,
        tags jsonb NOT NULL,
        channel_values jsonb NOT NULL,
        made_at timestamptz NOT NULL DEFAULT clock_timestamp()
      )`);
    await query.query('CREATE INDEX poses_by_rig ON poses (rig_id, made_at)');
    await query.query(`ALTER TABLE shots ADD COLUMN links jsonb NOT NULL DEFAULT '[]'`);
  }

  async down(query: QueryRunner): Promise<void> {
    await query.query('ALTER TABLE shots DROP COLUMN links');
    await query.query('DROP TABLE poses');
    await query.query('DROP TABLE rig_versions');
  }
}
