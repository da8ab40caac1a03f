import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Named versions of shots. */
export class Versions1764100000002 implements MigrationInterface {
  name = 'Versions1764100000002';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE versions (
        id text PRIMARY KEY,
        shot_id text NOT NULL REFERENCES shots (id),
        name text NOT NULL,
        revision int NOT NULL CHECK (revision >= 0),
        document jsonb NOT NULL,
        kept_at timestamptz NOT NULL DEFAULT now()
      )`);
    await query.query('CREATE INDEX versions_by_shot ON versions (shot_id, kept_at)');
  }

  async down(query: QueryRunner): Promise<void> {
    await query.query('DROP TABLE versions');
  }
}
