import type { DataSource } from 'typeorm';
import { lastHolding } from '../store/mending.ts';

/** What can be had back of a shot in which something is wrong, as a sentence. */
export async function whatCanBeHad(
  database: DataSource,
  { id, revision }: { readonly id: string; readonly revision: number },
): Promise<string> {
  const last = await lastHolding(database.manager, id).catch(() => null);
  if (!last) return 'nothing of it can be had back from here; a backup may have it';
  const how = `varrup mend ${id} makes a copy of it as it was at edit ${last.revision}`;
  return last.revision >= revision ? `it reads as it is now; ${how}` : `${how}, of ${revision}`;
}
