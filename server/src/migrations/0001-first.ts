import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Productions, shots with their log of edits, and pictures. */
export class First1763900000001 implements MigrationInterface {
  name = 'First1763900000001';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE productions (
        id text PRIMARY KEY,
        name text NOT NULL,
        created_at timestamptz NOT NULL DEFAULT now(),
        changed_at timestamptz NOT NULL DEFAULT now(),
        binned_at timestamptz
      )`);
    await query.query(`
      CREATE TABLE shots (
        id text PRIMARY KEY,
        production_id text NOT NULL REFERENCES productions (id),
        name text NOT NULL,
        frames int NOT NULL,
        rate double precision NOT NULL,
        revision int NOT NULL DEFAULT 0,
        snapshot jsonb NOT NULL,
        snapshot_revision int NOT NULL DEFAULT 0,
        created_at timestamptz NOT NULL DEFAULT now(),
        changed_at timestamptz NOT NULL DEFAULT now(),
        binned_at timestamptz,
        CHECK (snapshot_revision <= revision)
      )`);
    await query.query('CREATE INDEX shots_by_production ON shots (production_id)');
    await query.query(`
      CREATE TABLE edits (
        shot_id text NOT NULL REFERENCES shots (id),
        revision int NOT NULL CHECK (revision > 0),
        edit_id text NOT NULL,
        command text NOT NULL,
        label text NOT NULL,
        patches jsonb NOT NULL,
        made_at timestamptz NOT NULL DEFAULT now(),
        PRIMARY KEY (shot_id, revision),
        UNIQUE (shot_id, edit_id)
      )`);
    await query.query(`
      CREATE TABLE pictures (
        shot_id text PRIMARY KEY REFERENCES shots (id),
        mime text NOT NULL,
        bytes bytea NOT NULL,
        taken_at timestamptz NOT NULL
      )`);
  }

  async down(query: QueryRunner): Promise<void> {
    for (const table of ['pictures', 'edits', 'shots', 'productions']) await query.query(`DROP TABLE ${table}`);
  }
}
