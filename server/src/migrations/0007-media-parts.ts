import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Footage comes in. What is large lies in parts, so that it is put in as it comes and read from anywhere without being held as a whole; a
 * part that is on its way is known by the upload and not by a hash. What is made of it once, a poster and a waveform, lies beside it.
 */
export class MediaParts1764600000007 implements MigrationInterface {
  name = 'MediaParts1764600000007';

  async up(query: QueryRunner): Promise<void> {
    await query.query(`
      CREATE TABLE media_parts (
        of text NOT NULL,
        part int NOT NULL,
        bytes bytea NOT NULL,
        PRIMARY KEY (of, part)
      )`);
    await query.query('ALTER TABLE media_parts ALTER COLUMN bytes SET STORAGE EXTERNAL');
    await query.query(`
      INSERT INTO media_parts
        SELECT hash, n, substring(bytes FROM n * 1048576 + 1 FOR 1048576)
          FROM media, generate_series(0, (length(bytes) - 1) / 1048576) n`);
    await query.query(`
      ALTER TABLE media
        ADD COLUMN size bigint NOT NULL DEFAULT 0,
        ADD COLUMN poster bytea,
        ADD COLUMN waveform bytea`);
    await query.query('UPDATE media SET size = length(bytes)');
    await query.query('ALTER TABLE media ALTER COLUMN size DROP DEFAULT, DROP COLUMN bytes');
  }

  async down(query: QueryRunner): Promise<void> {
    await query.query('ALTER TABLE media ADD COLUMN bytes bytea');
    await query.query(`
      UPDATE media m SET bytes = (SELECT string_agg(p.bytes, '' ORDER BY p.part) FROM media_parts p WHERE p.of = m.hash)`);
    await query.query(
      'ALTER TABLE media ALTER COLUMN bytes SET NOT NULL, DROP COLUMN size, DROP COLUMN poster, DROP COLUMN waveform',
    );
    await query.query('DROP TABLE media_parts');
  }
}
