import { createHash } from 'node:crypto';
import type { DataSource } from 'typeorm';
import { PART, readMedia } from '../store/media/index.ts';
import { digest } from '../store/seals.ts';
import { type Tell, wordsOf } from './told.ts';

/** Looks whether the bytes of sounds, pictures and footage are those they are known by, and what was made of them is as it was made. */
export async function verifyMedia(database: DataSource, tell: Tell): Promise<void> {
  const rows: { hash: string; kind: string; size: string }[] = await database.query(
    'SELECT hash, kind, size FROM media ORDER BY hash',
  );
  for (const { hash, kind, size } of rows) {
    const sum = createHash('sha256');
    try {
      for (let at = 0; at < Number(size); at += PART) sum.update(await readMedia(database.manager, hash, at, PART));
      if (sum.digest('hex') !== hash) tell(`the ${kind} ${hash} is not what was put in`);
      await verifyMade(database, hash, kind, tell);
    } catch (error) {
      tell(`the ${kind} ${hash} does not read: ${wordsOf(error)}`);
    }
  }
}

async function verifyMade(database: DataSource, hash: string, kind: string, tell: Tell): Promise<void> {
  const [row]: Record<string, Buffer | string | null>[] = await database.query(
    'SELECT poster, poster_hash, waveform, waveform_hash FROM media WHERE hash = $1',
    [hash],
  );
  for (const made of ['poster', 'waveform']) {
    const bytes = row[made] as Buffer | null;
    if ((bytes ? digest(bytes) : null) !== row[`${made}_hash`])
      tell(`the ${made} of the ${kind} ${hash} is not what was put in`);
  }
}
