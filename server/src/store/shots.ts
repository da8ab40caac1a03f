import { documentOf, linksIn, mediaOfOwn, newId, type ShotDocument } from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { PictureEntity } from '../entities/picture.ts';
import { ProductionEntity } from '../entities/production.ts';
import { ShotEntity } from '../entities/shot.ts';
import { notFound } from '../http/refusal.ts';
import { changeShot } from './commit.ts';
import { linesAfter, lineText, pageAfter } from './edit-log.ts';
import { keepSnapshot } from './folding.ts';
import { useMedia } from './media/index.ts';
import { unpacked } from './packing.ts';
import { headOf } from './shot-row.ts';
import type { Store } from './store.ts';

/** Shots in the database: opened, made, renamed, duplicated, listed. */

/**
 * A shot as JSON for whoever opens it: its newest snapshot as it is kept, and the edits since, all of one moment. Nothing of it is read
 * here: the desk reads it anyway.
 */
export async function openShot(store: Store, id: string): Promise<Buffer[]> {
  const { head, document, lines } = await store.read(async (db) => {
    const head = await headOf(db, id);
    const [row]: { document: Buffer }[] = await db.query(
      'SELECT document FROM snapshots WHERE shot_id = $1 AND revision = $2',
      [id, head.snapshot_revision],
    );
    return { head, document: row.document, lines: await linesAfter(db, id, head.snapshot_revision) };
  });
  const words = JSON.stringify({
    production: { id: head.production_id, name: head.production_name },
    revision: head.revision,
    snapshotRevision: head.snapshot_revision,
  });
  return [
    Buffer.from(`${words.slice(0, -1)},"edits":[${lines.map(lineText).join(',')}],"document":`),
    await unpacked(document),
    Buffer.from('}'),
  ];
}

/** The edits after a revision as JSON, as many as a page holds. */
export async function editsSince(store: Store, id: string, after: number, withInverse: boolean): Promise<string> {
  const { head, page } = await store.read(async (db) => {
    const head = await headOf(db, id);
    return { head, page: await pageAfter(db, id, after, withInverse) };
  });
  return `{"revision":${head.revision},"more":${page.more},"edits":[${page.lines.map(lineText).join(',')}]}`;
}

/** Puts a new shot into a production. The document gets the id of its row. */
export async function createShot(db: EntityManager, productionId: string, document: ShotDocument): Promise<string> {
  const production = await db.findOneBy(ProductionEntity, { id: productionId });
  if (!production || production.binnedAt) throw notFound('production');
  const shot = { ...document, id: newId() };
  await db.insert(ShotEntity, {
    id: shot.id,
    productionId,
    name: shot.name,
    frames: shot.range.last - shot.range.first + 1,
    rate: shot.rate,
    links: linksIn(shot),
    revision: 0,
    snapshotRevision: 0,
    changedAt: new Date(),
  });
  await useMedia(db, `shot:${shot.id}`, mediaOfOwn(shot));
  await keepSnapshot(db, shot.id, 0, JSON.stringify(shot));
  return shot.id;
}

/** Renames a shot by an edit of its own, so that every window hears of it. */
export const renameShot = (store: Store, id: string, name: string): Promise<void> =>
  changeShot(store, id, { command: 'shot.rename', label: `rename the shot to ${name}` }, (head) =>
    head.name === name ? [] : [{ op: 'replace', path: '/name', value: name }],
  );

/** A copy of a shot as it is now, in the same production or in another, with its picture. */
export async function duplicateShot(
  store: Store,
  db: EntityManager,
  id: string,
  productionId?: string,
  name?: string,
): Promise<string> {
  const head = await headOf(db, id, 'to change');
  const { shot } = await store.documents.at(db, id, head.revision);
  const copy = { ...documentOf(shot), name: name ?? `${shot.name.slice(0, 74)} copy` };
  const copyId = await createShot(db, productionId ?? head.production_id, copy);
  const picture = await db.findOneBy(PictureEntity, { shotId: id });
  if (picture) await db.insert(PictureEntity, { ...picture, shotId: copyId });
  return copyId;
}
