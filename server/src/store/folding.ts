import { documentOf, parseShot } from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { packed } from './packing.ts';
import { firstSeal } from './seals.ts';
import { headOf, type ShotHead } from './shot-row.ts';
import type { Store } from './store.ts';

/** How many edits gather in the log before they are folded into a new snapshot. */
const FOLD_EVERY = 200;

/** Whether the log since the newest snapshot is long: in edits, or so that it outgrows the document. */
export const isLong = ({ revision, snapshot_revision, size, log_size }: ShotHead): boolean =>
  revision - snapshot_revision >= FOLD_EVERY || log_size > 200_000 + 2 * size;

/**
 * Makes a snapshot of a shot as it is now, looked through as a whole. Nobody need wait for it: edits go on meanwhile, and a snapshot
 * is one of a revision, whichever that is by then.
 * @returns what is wrong with the shot, where something is: then there is none
 */
export async function fold(store: Store, id: string): Promise<string | null> {
  const { head, held } = await store.read(async (db) => {
    const head = await headOf(db, id);
    return { head, held: await store.documents.at(db, id, head.revision) };
  });
  const parsed = parseShot(held.shot, held.shot.rigs);
  if (!parsed.ok) return parsed.problems[0].pointer;
  const text = JSON.stringify(documentOf(parsed.value));
  await store.change((db) => keepSnapshot(db, id, head.revision, text));
  return null;
}

/** Puts a snapshot by, and notes that it is the newest. */
export async function keepSnapshot(db: EntityManager, id: string, revision: number, text: string): Promise<void> {
  const { bytes, hash } = await packed(text);
  const isNew: unknown[] = await db.query(
    `INSERT INTO snapshots (shot_id, revision, document, hash) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING
     RETURNING revision`,
    [id, revision, bytes, hash],
  );
  await db.query('UPDATE shots SET snapshots = snapshots + $2 WHERE id = $1', [id, isNew.length]);
  // The log begins with its first snapshot.
  if (revision === 0) await db.query('UPDATE shots SET seal = $2 WHERE id = $1', [id, firstSeal(id, hash)]);
  await db.query(
    `UPDATE shots SET snapshot_revision = $2, size = $3, log_size =
       (SELECT coalesce(sum(octet_length(patches)), 0) FROM edits WHERE shot_id = $1 AND revision > $2)
     WHERE id = $1 AND snapshot_revision <= $2`,
    [id, revision, text.length],
  );
}
