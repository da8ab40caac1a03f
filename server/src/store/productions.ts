import { newId } from '@varrup/core';
import { type EntityManager, IsNull } from 'typeorm';
import { ProductionEntity, type ProductionRow } from '../entities/production.ts';
import { ShotEntity } from '../entities/shot.ts';
import { notFound } from '../http/refusal.ts';
import { sealOfProduction } from './seals.ts';
import { duplicateShot } from './shots.ts';
import type { Store } from './store.ts';

/** A production that is in use. @throws Refused (404) for one that is unknown or in the bin */
export async function productionInUse(db: EntityManager, id: string): Promise<ProductionRow> {
  const row = await db.findOneBy(ProductionEntity, { id });
  if (!row || row.binnedAt) throw notFound('production');
  return row;
}

/** Makes a production. @param id one of its own, where that is not to be drawn @returns its id */
export async function createProduction(db: EntityManager, name: string, id: string = newId()): Promise<string> {
  await db.insert(ProductionEntity, { id, name, seal: sealOfProduction({ id, name }) });
  return id;
}

/** A copy of a production with its shots. @returns its id */
export function duplicateProduction(store: Store, id: string): Promise<string> {
  return store.change(async (db) => {
    const row = await productionInUse(db, id);
    const copy = await createProduction(db, `${row.name.slice(0, 74)} copy`);
    const shots = await db.findBy(ShotEntity, { productionId: row.id, binnedAt: IsNull() });
    for (const shot of shots) await duplicateShot(store, db, shot.id, copy, shot.name);
    return copy;
  });
}
