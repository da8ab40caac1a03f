import { type MediaKind, mediaHash, mediaKindOf, mediaKinds, mediaLimits } from '@varrup/core';
import sharp from 'sharp';
import type { EntityManager } from 'typeorm';
import { notFound, Refused } from '../http/refusal.ts';

/** Sounds and pictures that were brought in: put in once, never changed, and kept for as long as somebody needs them. */

/** What of the house needs a piece of media. */
export type UsedBy = `shot:${string}` | `rig:${string}`;

/** Who brought something in has so long to put it to use. */
const DAYS_UNUSED = 7;

/**
 * Puts a piece of media in, once.
 * @param hash what the sender says it is known by @throws Refused (415, 422) where it is something else, or broken
 */
export async function putMedia(db: EntityManager, hash: string, bytes: Buffer): Promise<void> {
  const kind = mediaKindOf(bytes);
  if (!kind) throw new Refused(415, 'It is no sound (WAV, MP3, OGG, FLAC) and no picture (PNG, JPEG).');
  if (mediaHash(bytes) !== hash) throw new Refused(422, 'What came is not what was sent: its hash is another one.');
  if (mediaKinds[kind].of === 'picture' && !(await isPicture(bytes, kind)))
    throw new Refused(415, 'The picture is broken, or has more pixels than can be shown.');
  await db.query(
    `INSERT INTO media (hash, kind, bytes) VALUES ($1, $2, $3) ON CONFLICT (hash) DO UPDATE SET made_at = now()`,
    [hash, kind, bytes],
  );
}

/** Whether bytes are a picture from the first pixel to the last: it is decoded, off the main thread. */
async function isPicture(bytes: Buffer, kind: MediaKind): Promise<boolean> {
  try {
    const picture = sharp(bytes, { limitInputPixels: mediaLimits.pixels, failOn: 'error', pages: 1 });
    if ((await picture.metadata()).format !== kind) return false;
    await picture.stats();
    return true;
  } catch {
    return false;
  }
}

/** How much there is of a piece of media, and what it is. @throws Refused (404) */
export async function aboutMedia(db: EntityManager, hash: string): Promise<{ kind: MediaKind; size: number }> {
  const [row]: { kind: MediaKind; size: number }[] = await db.query(
    'SELECT kind, length(bytes) AS size FROM media WHERE hash = $1',
    [hash],
  );
  if (!row) throw notFound('sound or picture');
  return row;
}

/** Some of the bytes of a piece of media that is there. @param first counted from 0 */
export async function readMedia(db: EntityManager, hash: string, first: number, count: number): Promise<Buffer> {
  const [row]: { bytes: Buffer }[] = await db.query(
    'SELECT substring(bytes FROM $2::int FOR $3::int) AS bytes FROM media WHERE hash = $1',
    [hash, first + 1, count],
  );
  return row?.bytes ?? Buffer.alloc(0);
}

/** Notes that somebody needs media, until they are gone for good. @throws Refused (422) where one is not there */
export async function useMedia(db: EntityManager, by: UsedBy, hashes: readonly string[]): Promise<void> {
  if (hashes.length === 0) return;
  const there: { hash: string }[] = await db.query('SELECT hash FROM media WHERE hash = ANY($1) FOR KEY SHARE', [
    hashes,
  ]);
  if (there.length < hashes.length)
    throw new Refused(422, 'A sound or a picture of it is not in the store: it must be sent first.');
  await db.query('INSERT INTO media_uses SELECT unnest($1::text[]), $2 ON CONFLICT DO NOTHING', [hashes, by]);
}

/** Takes out for good what nobody needs, and nobody brought in lately. @returns how many went */
export async function dropUnusedMedia(db: EntityManager): Promise<number> {
  const [, gone]: [unknown, number] = await db.query(
    `DELETE FROM media m WHERE made_at < now() - interval '${DAYS_UNUSED} days'
       AND NOT EXISTS (SELECT FROM media_uses u WHERE u.hash = m.hash)`,
  );
  return gone;
}
