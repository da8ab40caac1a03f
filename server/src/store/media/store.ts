import { MEDIA_WORDS, type MediaKind, mediaKindOf, mediaKinds, mediaLimits, newId } from '@varrup/core';
import type { DataSource, EntityManager } from 'typeorm';
import { notFound, Refused } from '../../http/refusal.ts';
import { digest } from '../seals.ts';
import { lookThrough } from './look.ts';
import { dropParts, Incoming, readParts } from './parts.ts';

/**
 * Sounds, pictures and footage that were brought in: put in once, never changed, and kept for as long as somebody needs them. They lie in the
 * database, in parts, so that what is saved is saved in one place and one copy of it holds everything.
 */

/** What of the house needs a piece of media. */
export type UsedBy = `shot:${string}` | `rig:${string}`;

/** Who brought something in has so long to put it to use. */
const DAYS_UNUSED = 7;

/**
 * Puts a piece of media in as it comes, once. Until it is all there and looked through nobody sees any of it, and of one that is cut off or
 * refused nothing is left.
 * @param hash what the sender says it is known by @param gone the sender has left: what is under way for it is ended @throws Refused (400, 413, 415, 422) where it is nothing, too much, something else, or broken
 */
export async function putMedia(
  database: DataSource,
  hash: string,
  chunks: AsyncIterable<Buffer>,
  gone: AbortSignal = new AbortController().signal,
): Promise<void> {
  const db = database.manager;
  const incoming = new Incoming(db, newId());
  try {
    const kind = await takeIn(incoming, chunks);
    const came = await incoming.end();
    if (came !== hash) throw new Refused(422, 'What came is not what was sent: its hash is another one.');
    const { of, size } = incoming;
    await lookThrough(kind, { size, read: (first, count) => readParts(db, of, first, count) }, gone);
    await database.transaction(async (t) => {
      const [row]: unknown[] = await t.query(
        `INSERT INTO media (hash, kind, size) VALUES ($1, $2, $3) ON CONFLICT (hash) DO NOTHING RETURNING hash`,
        [hash, kind, size],
      );
      if (row) await t.query('UPDATE media_parts SET of = $2 WHERE of = $1', [of, hash]);
      else await t.query('UPDATE media SET made_at = now() WHERE hash = $1', [hash]);
    });
  } finally {
    await dropParts(db, incoming.of);
  }
}

/** Takes all that comes. @returns what it is by how it begins @throws Refused as soon as it is none of what is kept, or too much */
async function takeIn(incoming: Incoming, chunks: AsyncIterable<Buffer>): Promise<MediaKind> {
  let kind: MediaKind | null = null;
  let begin = Buffer.alloc(0);
  for await (const chunk of chunks) {
    if (!kind) {
      begin = Buffer.concat([begin, chunk.subarray(0, 64)]);
      kind = mediaKindOf(begin);
      if (!kind && begin.length >= 16) throw new Refused(415, `It is no ${MEDIA_WORDS}.`);
    }
    if (kind && incoming.size + chunk.length > mediaLimits.bytes[mediaKinds[kind].of])
      throw new Refused(413, `It is larger than ${mediaLimits.bytes[mediaKinds[kind].of] / 1e6} MB.`);
    await incoming.take(chunk);
  }
  if (incoming.size === 0) throw new Refused(400, 'There is nothing in it.');
  if (!kind) throw new Refused(415, `It is no ${MEDIA_WORDS}.`);
  return kind;
}

/** How much there is of a piece of media, and what it is. @throws Refused (404) */
export async function aboutMedia(db: EntityManager, hash: string): Promise<{ kind: MediaKind; size: number }> {
  const [row]: { kind: MediaKind; size: string }[] = await db.query('SELECT kind, size FROM media WHERE hash = $1', [
    hash,
  ]);
  if (!row) throw notFound('sound, picture or footage');
  return { kind: row.kind, size: Number(row.size) };
}

/** Some of the bytes of a piece of media that is there. @param first counted from 0 */
export const readMedia = readParts;

/** What is made once of a piece of media, for those who only want to see what it is. */
export type Made = 'poster' | 'waveform';

/** Puts in what was made of a piece of media, once: what is there stays. @throws Refused (404) */
export async function putMade(db: EntityManager, hash: string, made: Made, bytes: Buffer): Promise<void> {
  await aboutMedia(db, hash);
  await db.query(`UPDATE media SET ${made} = $2, ${made}_hash = $3 WHERE hash = $1 AND ${made} IS NULL`, [
    hash,
    bytes,
    digest(bytes),
  ]);
}

/** What was made of a piece of media. @throws Refused (404) where it is not there */
export async function readMade(db: EntityManager, hash: string, made: Made): Promise<Buffer> {
  const [row]: { bytes: Buffer | null }[] = await db.query(`SELECT ${made} AS bytes FROM media WHERE hash = $1`, [
    hash,
  ]);
  if (!row?.bytes) throw notFound(made);
  return row.bytes;
}

/** Notes that somebody needs media, until they are gone for good. @throws Refused (422) where one is not there */
export async function useMedia(db: EntityManager, by: UsedBy, hashes: readonly string[]): Promise<void> {
  if (hashes.length === 0) return;
  const there: { hash: string }[] = await db.query('SELECT hash FROM media WHERE hash = ANY($1) FOR KEY SHARE', [
    hashes,
  ]);
  if (there.length < hashes.length)
    throw new Refused(422, 'A sound, a picture or footage of it is not in the store: it must be sent first.');
  await db.query('INSERT INTO media_uses SELECT unnest($1::text[]), $2 ON CONFLICT DO NOTHING', [hashes, by]);
}

/** Takes out for good what nobody needs, and nobody brought in lately. @returns how many went */
export async function dropUnusedMedia(db: EntityManager): Promise<number> {
  const [gone]: [{ hash: string }[], number] = await db.query(
    `DELETE FROM media m WHERE made_at < now() - interval '${DAYS_UNUSED} days'
       AND NOT EXISTS (SELECT FROM media_uses u WHERE u.hash = m.hash) RETURNING hash`,
  );
  await db.query('DELETE FROM media_parts WHERE of = ANY($1)', [gone.map((row) => row.hash)]);
  return gone.length;
}
