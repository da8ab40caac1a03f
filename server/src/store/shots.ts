import {
  applyEdit,
  type Commit,
  documentOf,
  type EditsSince,
  type LoggedEdit,
  linksIn,
  migrate,
  newId,
  PatchError,
  parseShot,
  type ShotDocument,
  type ShotSummary,
  trusted,
} from '@varrup/core';
import { type EntityManager, MoreThan } from 'typeorm';
import { EditEntity, type EditRow } from '../entities/edit.ts';
import { PictureEntity } from '../entities/picture.ts';
import { ProductionEntity } from '../entities/production.ts';
import { ShotEntity, type ShotRow } from '../entities/shot.ts';
import { notFound, Refused, refusedFor } from '../http/refusal.ts';
import { rigsFor } from './rigs.ts';

/** Shots in the database. Everything here runs in the transaction of the manager it is given. */

/** How many edits gather in the log before they are folded into a new snapshot. */
const FOLD_EVERY = 50;

/** A shot that is in use. @throws Refused (404) for one that is unknown or in the bin */
async function findRow(db: EntityManager, id: string, lock = false): Promise<ShotRow> {
  const query = db.getRepository(ShotEntity).createQueryBuilder('shot').addSelect('shot.snapshot').where({ id });
  const row = await (lock ? query.setLock('pessimistic_write') : query).getOne();
  if (!row || row.binnedAt) throw notFound('shot');
  return row;
}

/** The document as it is now: the snapshot, brought up to the version of today, and the edits since. */
async function currentDocument(db: EntityManager, row: ShotRow): Promise<ShotDocument> {
  const edits = await logged(db, row.id, row.snapshotRevision);
  return edits.reduce<ShotDocument>(applyEdit, trusted(migrate(row.snapshot)));
}

async function logged(db: EntityManager, shotId: string, after: number): Promise<LoggedEdit[]> {
  const rows = await db.find(EditEntity, { where: { shotId, revision: MoreThan(after) }, order: { revision: 'ASC' } });
  return rows.map(loggedEdit);
}

const loggedEdit = ({ editId, command, label, patches, revision }: EditRow): LoggedEdit => ({
  id: editId,
  command,
  label,
  patches,
  revision,
});

/** What the list says of a document. */
const listed = (shot: ShotDocument) => ({
  name: shot.name,
  frames: shot.range.last - shot.range.first + 1,
  rate: shot.rate,
  links: linksIn(shot),
});

export async function openShot(db: EntityManager, id: string) {
  const row = await findRow(db, id);
  const production = await db.findOneByOrFail(ProductionEntity, { id: row.productionId });
  return {
    production: { id: production.id, name: production.name },
    revision: row.revision,
    document: await currentDocument(db, row),
  };
}

/** Puts a new shot into a production. The document gets the id of its row. */
export async function createShot(db: EntityManager, productionId: string, document: ShotDocument): Promise<string> {
  const production = await db.findOneBy(ProductionEntity, { id: productionId });
  if (!production || production.binnedAt) throw notFound('production');
  const snapshot = { ...document, id: newId() };
  await db.insert(ShotEntity, {
    id: snapshot.id,
    productionId,
    ...listed(snapshot),
    revision: 0,
    // TypeORM's type for a partial jsonb is deeper than the compiler follows; the value is a whole shot.
    snapshot: snapshot as never,
    snapshotRevision: 0,
    changedAt: new Date(),
  });
  return snapshot.id;
}

export async function editsSince(db: EntityManager, id: string, after: number): Promise<EditsSince> {
  const row = await findRow(db, id);
  return { revision: row.revision, edits: await logged(db, id, after) };
}

/**
 * Adds edits to a shot's log. Edits that are there already, because the answer to their first sending was lost, are
 * passed over. All of them are taken or none.
 * @throws Refused 409 with the edits since `base` when others came in between; 422 when the edits do not fit the document
 */
export async function commitEdits(db: EntityManager, id: string, commit: Commit): Promise<number> {
  refuseUnstorable(commit);
  const row = await findRow(db, id, true);
  const since = await logged(db, id, commit.base);
  const known = new Set(since.map((e) => e.id));
  const fresh = commit.edits.filter((e) => !known.has(e.id));
  const others = since.filter((e) => !commit.edits.some((mine) => mine.id === e.id));
  if (commit.base > row.revision) {
    throw new Refused(409, `The shot has ${row.revision} edits, not ${commit.base}.`, {
      revision: row.revision,
      edits: [],
    });
  }
  if (others.length > 0) {
    throw new Refused(409, 'The shot was changed elsewhere in the meantime.', { revision: row.revision, edits: since });
  }
  if (fresh.length === 0) return row.revision;

  const document = await applied(db, await currentDocument(db, row), fresh);
  const revision = row.revision + fresh.length;
  await db.insert(
    EditEntity,
    fresh.map((e, i) => ({
      shotId: id,
      revision: row.revision + 1 + i,
      editId: e.id,
      command: e.command,
      label: e.label,
      patches: e.patches as never,
    })),
  );
  const fold = revision - row.snapshotRevision >= FOLD_EVERY;
  await db.update(
    ShotEntity,
    { id },
    {
      ...listed(document),
      revision,
      changedAt: new Date(),
      ...(fold ? { snapshot: document as never, snapshotRevision: revision } : {}),
    },
  );
  await db.update(ProductionEntity, { id: row.productionId }, { changedAt: new Date() });
  return revision;
}

/** PostgreSQL's JSON holds neither the character 0 nor half of a surrogate pair. */
function refuseUnstorable(commit: Commit): void {
  if (/\\u(0000|d[89a-f][0-9a-f]{2})/i.test(JSON.stringify(commit.edits))) {
    throw new Refused(422, 'The edits hold a character that cannot be stored.', { pointer: '/edits' });
  }
}

/** The document with the edits, checked as a whole. */
async function applied(db: EntityManager, document: ShotDocument, edits: Commit['edits']): Promise<ShotDocument> {
  let next = document;
  edits.forEach((edit, i) => {
    try {
      next = applyEdit(next, edit);
    } catch (error) {
      if (!(error instanceof PatchError)) throw error;
      const pointer = `/edits/${i}/patches/${error.index}`;
      throw new Refused(422, `Edit ${i + 1} does not fit the shot. ${error.message}`, { pointer });
    }
  });
  const parsed = parseShot(next, await rigsFor(db, next));
  if (!parsed.ok) throw refusedFor(422, 'After these edits the shot would be wrong at', parsed.problems);
  if (next.id !== document.id) throw new Refused(422, 'An edit may not change the id of the shot.', { pointer: '/id' });
  return documentOf(parsed.value);
}

/** Renames a shot by an edit of its own, so that every window hears of it. */
export async function renameShot(db: EntityManager, id: string, name: string): Promise<void> {
  const { revision, document } = await openShot(db, id);
  if (document.name === name) return;
  const patches = [{ op: 'replace' as const, path: '/name', value: name }];
  const edit = { id: newId(), command: 'shot.rename', label: `rename the shot to ${name}`, patches };
  await commitEdits(db, id, { base: revision, edits: [edit] });
}

/** A copy of a shot as it is now, in the same production, with its picture. */
export async function duplicateShot(
  db: EntityManager,
  id: string,
  productionId?: string,
  name?: string,
): Promise<string> {
  const row = await findRow(db, id);
  const document = await currentDocument(db, row);
  const copy = { ...document, name: name ?? `${document.name.slice(0, 74)} copy` };
  const copyId = await createShot(db, productionId ?? row.productionId, copy);
  const picture = await db.findOneBy(PictureEntity, { shotId: id });
  if (picture) await db.insert(PictureEntity, { ...picture, shotId: copyId });
  return copyId;
}

export async function summaries(db: EntityManager): Promise<ShotSummary[]> {
  const rows = await db.find(ShotEntity, { order: { name: 'ASC', createdAt: 'ASC' } });
  const pictures = await db.find(PictureEntity, { select: { shotId: true, takenAt: true } });
  const taken = new Map(pictures.map((p) => [p.shotId, p.takenAt.toISOString()]));
  return rows
    .filter((row) => !row.binnedAt)
    .map((row) => ({
      id: row.id,
      production: row.productionId,
      name: row.name,
      revision: row.revision,
      frames: row.frames,
      rate: row.rate,
      changedAt: row.changedAt.toISOString(),
      picturedAt: taken.get(row.id) ?? null,
    }));
}
