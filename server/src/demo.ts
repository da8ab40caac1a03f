import { nightFerry } from '@varrup/demo';
import type { DataSource } from 'typeorm';
import { ProductionEntity } from './entities/production.ts';
import { createShot } from './store/shots.ts';

/** Puts the Night Ferry into a new database. */
export async function loadDemo(database: DataSource): Promise<void> {
  await database.transaction(async (db) => {
    await db.insert(ProductionEntity, { id: nightFerry.id, name: nightFerry.name });
    for (const shot of nightFerry.shots()) await createShot(db, nightFerry.id, shot);
  });
}
