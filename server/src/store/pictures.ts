import type { EntityManager } from 'typeorm';
import { PictureEntity } from '../entities/picture.ts';
import { digest } from './seals.ts';

/** Puts the picture of a shot's card in, in the place of the one before. */
export async function putPicture(db: EntityManager, shotId: string, mime: string, bytes: Buffer): Promise<void> {
  await db.upsert(PictureEntity, { shotId, mime, bytes, hash: digest(bytes), takenAt: new Date() }, ['shotId']);
}
