import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Sounds and pictures that were brought in, each once, by the hash of its bytes; and who needs them. They lie in the database like
 * everything else, so that what is saved is saved in one place. Their bytes are packed already, and parts of them are asked for:
 * they are kept as they are.
 */
export class Media1764500000006 implements MigrationInterface {
  name = 'Media1764500000006';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE media (
        hash text PRIMARY KEY,
        kind text NOT NULL,
        bytes bytea NOT NULL,
        made_at timestamptz NOT NULL DEFAULT now()
      )`);
    await query.query('ALTER TABLE media ALTER COLUMN bytes SET STORAGE EXTERNAL');
    await query.query(`
      CREATE TABLE media_uses (
        hash text NOT NULL REFERENCES media,
        used_by text NOT NULL,
        PRIMARY KEY (hash, used_by)
      )`);
    await query.query('CREATE INDEX media_by_user ON media_uses (used_by)');
  }

  async down(query: QueryRunner): Promise<void> {
    await query.query('DROP TABLE media_uses');
    await query.query('DROP TABLE media');
  }
}
