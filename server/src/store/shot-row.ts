import type { EntityManager } from 'typeorm';
import { notFound } from '../http/refusal.ts';

/** What there is to know of a shot without reading it. */
export interface ShotHead {
  readonly id: string;
  readonly name: string;
  readonly production_id: string;
  readonly production_name: string;
  readonly revision: number;
  readonly snapshot_revision: number;
  /** About how many characters its document has, and the edits since its newest snapshot. */
  readonly size: number;
  readonly log_size: number;
  /** The seal of the last line of its log. */
  readonly seal: string;
}

/**
 * A shot that is in use, in a production that is.
 * @param how to hold it: `'to change'` lets others wait until the transaction is over
 * @throws Refused (404) for one that is unknown or in the bin
 */
export async function headOf(db: EntityManager, id: string, how?: 'to change'): Promise<ShotHead> {
  const [row]: ShotHead[] = await db.query(
    `SELECT s.id, s.name, s.production_id, p.name AS production_name, s.revision, s.snapshot_revision, s.size, s.log_size, s.seal
     FROM shots s JOIN productions p ON p.id = s.production_id
     WHERE s.id = $1 AND s.binned_at IS NULL AND p.binned_at IS NULL ${how === 'to change' ? 'FOR UPDATE OF s' : ''}`,
    [id],
  );
  if (!row) throw notFound('shot');
  return row;
}
