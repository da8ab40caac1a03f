import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { documentOf, editBetween } from '@varrup/core';
import { harbour, nightFerry, pictureFile } from '@varrup/demo';
import type { DataSource, EntityManager } from 'typeorm';
import { RigVersionEntity } from './entities/rig.ts';
import { commitEdits } from './store/commit.ts';
import { putMade, putMedia } from './store/media/index.ts';
import { putPicture } from './store/pictures.ts';
import { createProduction } from './store/productions.ts';
import { addPose, addRig } from './store/rigs.ts';
import { createShot } from './store/shots.ts';
import { Store } from './store/store.ts';
import { keepVersion } from './store/versions.ts';

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
  const there: unknown[] = await database.query(`SELECT name FROM house WHERE name = 'demo'`);
  if (there.length > 0) return;
  for (const { media, file } of nightFerry.media) await bringFootage(database, media, file);
  const earlier = nightFerry.earlier();
  const brought = new Map<string, string>();
  await database.transaction(async (db) => {
    const first: unknown[] = await db.query(
      `INSERT INTO house VALUES ('demo', 'brought in') ON CONFLICT DO NOTHING RETURNING name`,
    );
    if (first.length === 0) return;
    await createProduction(db, nightFerry.name, nightFerry.id);
    for (const shot of nightFerry.shots()) {
      const id = await createShot(db, nightFerry.id, documentOf(earlier[shot.id]?.shot ?? shot));
      await bringPicture(db, id, shot.name);
      brought.set(shot.id, id);
    }
  });
  await workOn(database, brought);
  // None of them was worked on last: they stand in the order of their names.
  await database.query('UPDATE shots SET changed_at = now() WHERE production_id = $1', [nightFerry.id]);
}

/** Lays under shots what they were before, as if somebody had worked on them: a version with its name, and the edit that leads on. */
async function workOn(database: DataSource, brought: ReadonlyMap<string, string>): Promise<void> {
  const store = new Store(database, () => undefined);
  const earlier = nightFerry.earlier();
  for (const shot of nightFerry.shots()) {
    const [before, id] = [earlier[shot.id], brought.get(shot.id)];
    const done = before && editBetween(before.shot, shot, 'shot.animate', 'chest, arms and head');
    if (!done || id === undefined) continue;
    await keepVersion(database.manager, id, before.name);
    const { inverse: _, ...edit } = done.edit;
    await commitEdits(store, id, { base: 0, edits: [edit] });
  }
}

const MEDIA = join(import.meta.dirname, '../../demo/media');

/** Brings footage of the demo in, with its poster. */
async function bringFootage(database: DataSource, media: string, file: string): Promise<void> {
  await putMedia(database, media, createReadStream(join(MEDIA, `${file}.webm`)));
  await putMade(database.manager, media, 'poster', await readFile(join(MEDIA, `${file}.jpg`)));
}

/** The same from the sources and from what is built of them. */
const PICTURES = join(import.meta.dirname, '../../demo/pictures');

/** Brings the picture of a demo shot's card, as `npm run shots` took it; without one the browser draws it when it is first seen. */
async function bringPicture(db: EntityManager, shotId: string, name: string): Promise<void> {
  const bytes = await readFile(join(PICTURES, pictureFile(name))).catch(() => null);
  if (bytes) await putPicture(db, shotId, 'image/webp', bytes);
}
