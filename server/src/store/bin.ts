import type { DataSource } from 'typeorm';
import { dropUnusedMedia } from './media/index.ts';

/** What has been in the bin for so many days goes for good. */
export const DAYS_IN_BIN = 90;

const OLD = `binned_at < now() - interval '${DAYS_IN_BIN} days'`;

/**
 * Takes out for good what has been in the bin for long: shots, and productions with all that is in them; and media that nobody needs.
 * @returns how many shots went
 */
export async function emptyOldBin(database: DataSource): Promise<number> {
  return database.transaction(async (db) => {
    const shots: { id: string }[] = await db.query(
      `SELECT id FROM shots WHERE ${OLD} OR production_id IN (SELECT id FROM productions WHERE ${OLD}) FOR UPDATE`,
    );
    const ids = shots.map((shot) => shot.id);
    for (const table of ['snapshots', 'edits', 'versions', 'pictures'])
      await db.query(`DELETE FROM ${table} WHERE shot_id = ANY($1)`, [ids]);
    await db.query('DELETE FROM media_uses WHERE used_by = ANY($1)', [ids.map((id) => `shot:${id}`)]);
    await db.query('DELETE FROM shots WHERE id = ANY($1)', [ids]);
    await db.query(`DELETE FROM productions WHERE ${OLD}`);
    await dropUnusedMedia(db);
    return ids.length;
  });
}
