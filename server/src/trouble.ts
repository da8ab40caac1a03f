import { NewerDatabase } from './database.ts';
import { troubleOfDatabase } from './http/refusal.ts';

/** PostgreSQL's codes for files of the database that are missing or spoilt, and how they begin. */
const SPOILT = /^(XX|58)/;

/** Why a server cannot start, in a sentence that says what to do; null where it is nothing that can be told so, or where a second try may help. */
export function sentenceForStart(error: unknown): string | null {
  if (error instanceof NewerDatabase)
    return 'The data were last used by a newer Varrup, and this one does not know all of them. Nothing was changed. Start the newer one, or restore an older backup into an empty folder.';
  if (troubleOfDatabase(error)?.status === 507)
    return 'The disk is full: Varrup needs about 64 MB to start. Everything that was saved is kept. Make room and try again.';
  const { code = '', message = '' } = (error ?? {}) as { code?: string; message?: string };
  if (SPOILT.test(code))
    return `A file of the database is missing or damaged: PostgreSQL says “${message}”. Nothing was changed. Run varrup verify to see what still reads, and restore a backup into an empty folder.`;
  return null;
}
