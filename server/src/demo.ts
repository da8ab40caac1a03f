import { documentOf } from '@varrup/core';
import { harbour, nightFerry } from '@varrup/demo';
import type { DataSource } from 'typeorm';
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
    for (const shot of nightFerry.shots()) await createShot(db, nightFerry.id, documentOf(shot));
  });
}
