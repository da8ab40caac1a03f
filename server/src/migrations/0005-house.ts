import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What is known of the house as a whole: whether the demo has been brought in. Where there are productions it has, or was not wanted. */
export class House1764400000005 implements MigrationInterface {
  name = 'House1764400000005';

  async up(query: QueryRunner): Promise<void> {
    await query.query('CREATE TABLE house (name text PRIMARY KEY, value text NOT NULL)');
    await query.query(`INSERT INTO house SELECT 'demo', 'brought in' WHERE EXISTS (SELECT FROM productions)`);
  }

  async down(query: QueryRunner): Promise<void> {
    await query.query('DROP TABLE house');
  }
}
