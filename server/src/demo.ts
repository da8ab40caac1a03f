import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { documentOf } from '@varrup/core';
import { harbour, nightFerry, pictureFile } from '@varrup/demo';
import type { DataSource, EntityManager } from 'typeorm';
import { PictureEntity } from './entities/picture.ts';
import { ProductionEntity } from './entities/production.ts';
import { RigVersionEntity } from './entities/rig.ts';
import { addPose, addRig } from './store/rigs.ts';
import { createShot } from './store/shots.ts';

/**
 * Puts the harbour's rigs into the library, as far as they are not there: a newer Varrup brings newer versions with it. A pose
 * book comes with the first version of its rig, and is the animators' own from then on.
 */
export async function loadRigs(database: DataSource): Promise<void> {
  await database.transaction(async (db) => {
    const there = new Set((await db.find(RigVersionEntity)).map((r) => `${r.rigId}@${r.version}`));
    for (const { id, versions, poses } of harbour) {
      const isNew = !versions.some(({ version }) => there.has(`${id}@${version}`));
      for (const { version, make } of versions) if (!there.has(`${id}@${version}`)) await addRig(db, make());
      if (isNew) for (const pose of poses()) await addPose(db, id, pose);
    }
  });
}

/** Brings the Night Ferry in, once: all of it or nothing, and not again when somebody has thrown it away. */
export async function loadDemo(database: DataSource): Promise<void> {
  await database.transaction(async (db) => {
    const first: unknown[] = await db.query(
      `INSERT INTO house VALUES ('demo', 'brought in') ON CONFLICT DO NOTHING RETURNING name`,
    );
    if (first.length === 0) return;
    await db.insert(ProductionEntity, { id: nightFerry.id, name: nightFerry.name });
    for (const shot of nightFerry.shots()) {
      const id = await createShot(db, nightFerry.id, documentOf(shot));
      await bringPicture(db, id, shot.name);
    }
  });
}

/** The same from the sources and from what is built of them. */
const PICTURES = join(import.meta.dirname, '../../demo/pictures');

/** Brings the picture of a demo shot's card, as `npm run shots` took it; without one the browser draws it when it is first seen. */
async function bringPicture(db: EntityManager, shotId: string, name: string): Promise<void> {
  const bytes = await readFile(join(PICTURES, pictureFile(name))).catch(() => null);
  if (bytes) await db.insert(PictureEntity, { shotId, mime: 'image/webp', bytes, takenAt: new Date() });
}
