import { DataSource } from 'typeorm';
import { PictureEntity } from './entities/picture.ts';
import { ProductionEntity } from './entities/production.ts';
import { PoseEntity, RigVersionEntity } from './entities/rig.ts';
import { ShotEntity } from './entities/shot.ts';
import { VersionEntity } from './entities/version.ts';
import { First1763900000001 } from './migrations/0001-first.ts';
import { Versions1764100000002 } from './migrations/0002-versions.ts';
import { Rigs1764200000003 } from './migrations/0003-rigs.ts';
import { Snapshots1764300000004 } from './migrations/0004-snapshots.ts';
import { House1764400000005 } from './migrations/0005-house.ts';
import { Media1764500000006 } from './migrations/0006-media.ts';
import { MediaParts1764600000007 } from './migrations/0007-media-parts.ts';
import { Seals1764700000008 } from './migrations/0008-seals.ts';

/** How the database has become what it is, oldest first. */
export const migrations = [
  First1763900000001,
  Versions1764100000002,
  Rigs1764200000003,
  Snapshots1764300000004,
  House1764400000005,
  Media1764500000006,
  MediaParts1764600000007,
  Seals1764700000008,
] as const;

/** Connects to a database that is of today. @param connections how many at once, at most */
export const connect = (url: string, connections: number): Promise<DataSource> =>
  new DataSource({
    type: 'postgres',
    url,
    entities: [ProductionEntity, ShotEntity, PictureEntity, VersionEntity, RigVersionEntity, PoseEntity],
    migrations: [...migrations],
    migrationsTransactionMode: 'each',
    synchronize: false,
    poolSize: connections,
  }).initialize();

/** What a database is that a newer Varrup has brought further than this one knows. */
export class NewerDatabase extends Error {}

/** Brings a database up to today. @throws NewerDatabase, before anything is changed */
export async function migrate(database: DataSource): Promise<void> {
  if (await openedByANewer(database)) throw new NewerDatabase('The data are of a newer Varrup.');
  await database.runMigrations();
}

/** Whether a newer Varrup has brought the database further than this one knows. */
export async function openedByANewer(database: DataSource): Promise<boolean> {
  const [{ there }]: { there: boolean }[] = await database.query(
    `SELECT to_regclass('migrations') IS NOT NULL AS there`,
  );
  if (!there) return false;
  const done: { name: string }[] = await database.query('SELECT name FROM migrations');
  const known = new Set<string>(migrations.map((migration) => migration.name));
  return done.some(({ name }) => !known.has(name));
}

/** Connects and migrates. */
export async function openDatabase(url: string): Promise<DataSource> {
  const database = await connect(url, 10);
  await migrate(database);
  return database;
}
