import { documentOf, newId, type ShotDocument, type VersionSummary } from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { VersionEntity } from '../entities/version.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { asRead } from './kept.ts';
import { sealOfVersion } from './seals.ts';
import { headOf } from './shot-row.ts';
import type { Store } from './store.ts';

/** Named versions of shots in the database: names of revisions. */

/** A shot keeps no more than this. */
const MOST_VERSIONS = 200;

/** Keeps the shot as it is now under a name. @throws Refused (409) when the shot has as many as it may */
export async function keepVersion(db: EntityManager, shotId: string, name: string): Promise<string> {
  const { revision } = await headOf(db, shotId, 'to change');
  if ((await db.countBy(VersionEntity, { shotId })) >= MOST_VERSIONS) {
    throw new Refused(409, `The shot keeps ${MOST_VERSIONS} versions already; delete one first.`);
  }
  const id = newId();
  await db.insert(VersionEntity, { id, shotId, name, revision, seal: sealOfVersion({ id, shotId, name, revision }) });
  return id;
}

/** The versions of a shot, newest first. */
export async function versionsOf(db: EntityManager, shotId: string): Promise<VersionSummary[]> {
  await headOf(db, shotId);
  const rows = await db.find(VersionEntity, { where: { shotId }, order: { keptAt: 'DESC' } });
  return rows.map(({ id, name, revision, keptAt }) => ({ id, name, revision, keptAt: keptAt.toISOString() }));
}

/** The document of a version. @throws Refused (404) */
export async function openVersion(store: Store, shotId: string, id: string): Promise<ShotDocument> {
  return store.read(async (db) => {
    const row = await db.findOneBy(VersionEntity, { id, shotId });
    if (!row) throw notFound('version');
    const document = documentOf((await store.documents.at(db, shotId, row.revision)).shot);
    return asRead(document);
  });
}

/** The document of a shot as it was after so many edits. @throws Refused (404) where it has not had so many */
export async function openRevision(store: Store, shotId: string, revision: number): Promise<ShotDocument> {
  return store.read(async (db) => {
    const head = await headOf(db, shotId);
    if (revision > head.revision) throw notFound('revision');
    return asRead(documentOf((await store.documents.at(db, shotId, revision)).shot));
  });
}

export async function removeVersion(db: EntityManager, shotId: string, id: string): Promise<void> {
  const { affected } = await db.delete(VersionEntity, { id, shotId });
  if (affected === 0) throw notFound('version');
}
