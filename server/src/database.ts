import { DataSource } from 'typeorm';
import { EditEntity } from './entities/edit.ts';
import { PictureEntity } from './entities/picture.ts';
import { ProductionEntity } from './entities/production.ts';
import { ShotEntity } from './entities/shot.ts';
import { First1763900000001 } from './migrations/0001-first.ts';

/** Connects and migrates. `isNew` says that the database was empty before. */
export async function openDatabase(url: string): Promise<{ database: DataSource; isNew: boolean }> {
  const database = new DataSource({
    type: 'postgres',
    url,
    entities: [ProductionEntity, ShotEntity, EditEntity, PictureEntity],
    migrations: [First1763900000001],
    migrationsTransactionMode: 'each',
    synchronize: false,
  });
  await database.initialize();
  const done = await database.runMigrations();
  return { database, isNew: done.some((m) => m.name === First1763900000001.name) };
}
