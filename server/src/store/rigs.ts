import {
  type BookedPose,
  type LibraryRig,
  linkName,
  linksIn,
  mediaOfRig,
  type NewPose,
  newId,
  parseRig,
  type Rig,
  type RigLink,
  Rigs,
  type Shot,
  type ShotDocument,
} from '@varrup/core';
import { type DataSource, type EntityManager, IsNull } from 'typeorm';
import { ProductionEntity } from '../entities/production.ts';
import { PoseEntity, type PoseRow, RigVersionEntity } from '../entities/rig.ts';
import { ShotEntity } from '../entities/shot.ts';
import { notFound, Refused } from '../http/refusal.ts';
import { useMedia } from './media/index.ts';
import { sealOfPose, sealOfRig } from './seals.ts';

/** The rig library in the database. */

/** A pose book holds no more than this. */
const MOST_POSES = 2_000;

/** One version of a rig, as it was put in. @throws Refused (404) */
export async function rigVersion(db: EntityManager, { rig, version }: RigLink): Promise<Rig> {
  const row = await db
    .getRepository(RigVersionEntity)
    .createQueryBuilder('rig')
    .addSelect('rig.definition')
    .where({ rigId: rig, version })
    .getOne();
  if (!row) throw notFound('version of a rig');
  return row.definition;
}

/** Definitions read from a database already. A version never changes, so what is known of one holds as long as the database is open. */
const read = new WeakMap<DataSource, Map<string, Rig>>();

/** As many are kept ready; the one that was wanted longest ago goes first. */
const MOST_READY = 200;

/** The rigs a document links, as far as the library has them. Reading the document says which links lead nowhere. */
export async function rigsFor(db: EntityManager, document: unknown): Promise<Rigs> {
  const ready = read.get(db.connection) ?? new Map<string, Rig>();
  read.set(db.connection, ready);
  const rigs: Rig[] = [];
  for (const link of linksIn(document)) {
    const name = linkName(link);
    const rig = ready.get(name) ?? (await readRig(db, link));
    if (!rig) continue;
    rigs.push(rig);
    ready.delete(name);
    ready.set(name, rig);
  }
  for (const name of ready.keys()) if (ready.size > MOST_READY) ready.delete(name);
  return Rigs.of(rigs);
}

/** The rigs of a document that has come of a shot: the very same where it links no others. */
export async function rigsOf(db: EntityManager, before: Shot, document: ShotDocument): Promise<Rigs> {
  if (document.members === before.members) return before.rigs;
  const same = JSON.stringify(linksIn(document)) === JSON.stringify(linksIn(before));
  return same ? before.rigs : rigsFor(db, document);
}

async function readRig(db: EntityManager, link: RigLink): Promise<Rig | null> {
  const definition = await rigVersion(db, link).catch((error) => {
    if (error instanceof Refused) return null;
    throw error;
  });
  const parsed = definition && parseRig(definition);
  return parsed?.ok ? parsed.value : null;
}

/** Puts a version of a rig in. @returns false where it is there already */
export async function addRig(db: EntityManager, rig: Rig): Promise<boolean> {
  const { id: rigId, version, name, changes } = rig;
  if (await db.existsBy(RigVersionEntity, { rigId, version })) return false;
  await useMedia(db, `rig:${rigId}`, mediaOfRig(rig));
  const seal = sealOfRig({ rigId, version, name, changes, definition: rig });
  await db.insert(RigVersionEntity, { rigId, version, name, changes, definition: rig as never, seal });
  return true;
}

export async function library(db: EntityManager): Promise<LibraryRig[]> {
  const versions = await db.find(RigVersionEntity, { order: { rigId: 'ASC', version: 'DESC' } });
  const shots = await db.find(ShotEntity, { where: { binnedAt: IsNull() }, order: { name: 'ASC' } });
  const productions = new Map(
    (await db.find(ProductionEntity, { where: { binnedAt: IsNull() } })).map((p) => [p.id, p.name]),
  );
  const poses = await db.find(PoseEntity, { select: { id: true, rigId: true } });
  const rigs = new Map<string, LibraryRig>();
  for (const { rigId, version, name, changes, madeAt } of versions) {
    const rig = rigs.get(rigId) ?? { id: rigId, name, versions: [], usedIn: [], poses: 0 };
    rig.versions.push({ version, changes, madeAt: madeAt.toISOString() });
    rigs.set(rigId, rig);
  }
  for (const shot of shots) {
    const production = productions.get(shot.productionId);
    if (production === undefined) continue;
    for (const rig of new Set(shot.links.map((l) => l.rig))) {
      const linked = shot.links.filter((l) => l.rig === rig).map((l) => l.version);
      rigs.get(rig)?.usedIn.push({ shot: shot.id, name: shot.name, production, versions: linked });
    }
  }
  for (const pose of poses) {
    const rig = rigs.get(pose.rigId);
    if (rig) rig.poses++;
  }
  return [...rigs.values()].sort((a, b) => a.name.localeCompare(b.name));
}

const booked = ({ id, name, tags, values, madeAt }: PoseRow): BookedPose => ({
  id,
  name,
  tags,
  values,
  madeAt: madeAt.toISOString(),
});

/** A rig's pose book, oldest first. */
export async function poseBook(db: EntityManager, rigId: string): Promise<BookedPose[]> {
  return (await db.find(PoseEntity, { where: { rigId }, order: { madeAt: 'ASC', id: 'ASC' } })).map(booked);
}

/** Puts a pose into a rig's book. @throws Refused (404, 409) */
export async function addPose(db: EntityManager, rigId: string, pose: NewPose): Promise<string> {
  if (!(await db.existsBy(RigVersionEntity, { rigId }))) throw notFound('rig');
  if ((await db.countBy(PoseEntity, { rigId })) >= MOST_POSES)
    throw new Refused(409, `The pose book holds ${MOST_POSES} poses already; take one out first.`);
  const id = newId();
  const row = { id, rigId, name: pose.name, tags: pose.tags, values: pose.values };
  await db.insert(PoseEntity, { ...row, values: row.values as never, seal: sealOfPose(row) });
  return id;
}

export async function renamePose(
  db: EntityManager,
  rigId: string,
  id: string,
  words: Partial<Pick<NewPose, 'name' | 'tags'>>,
): Promise<void> {
  const row = await db.findOneBy(PoseEntity, { id, rigId });
  if (!row) throw notFound('pose');
  if (Object.keys(words).length > 0)
    await db.update(PoseEntity, { id }, { ...words, seal: sealOfPose({ ...row, ...words }) });
}

export async function removePose(db: EntityManager, rigId: string, id: string): Promise<void> {
  const { affected } = await db.delete(PoseEntity, { id, rigId });
  if (affected === 0) throw notFound('pose');
}
