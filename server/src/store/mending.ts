import {
  applyPatches,
  documentOf,
  migrate,
  type Patch,
  parseChanged,
  parseShot,
  type Shot,
  trusted,
} from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { Refused } from '../http/refusal.ts';
import { unpacked } from './packing.ts';
import { rigsFor, rigsOf } from './rigs.ts';
import { digest, firstSeal, type SealedLine, sealAfter } from './seals.ts';
import { headOf } from './shot-row.ts';
import { createShot } from './shots.ts';

/** What can be had back of a shot whose kept work has been damaged. */

/** A shot as it was at a revision that holds: all that led to it is as it was put in. */
export interface Holding {
  readonly shot: Shot;
  readonly revision: number;
}

/**
 * Makes a shot of another as it was at the last of its revisions that holds. The other stays as it is.
 * @returns its id
 * @throws Refused (409) where nothing of it holds
 */
export async function mendShot(db: EntityManager, id: string): Promise<string> {
  const head = await headOf(db, id);
  const last = await lastHolding(db, id);
  if (!last) throw new Refused(409, 'Nothing that is kept of the shot can be read. A backup may have it.');
  const name = `${last.shot.name.slice(0, 60)} (as it was at edit ${last.revision})`;
  return createShot(db, head.production_id, { ...documentOf(last.shot), name });
}

/** The last revision of a shot that holds: from the newest snapshot that is as it was put in, as far as the log goes on unbroken. */
export async function lastHolding(db: EntityManager, id: string): Promise<Holding | null> {
  const snapshots: { revision: number; hash: string }[] = await db.query(
    'SELECT revision, hash FROM snapshots WHERE shot_id = $1 ORDER BY revision DESC',
    [id],
  );
  for (const { revision, hash } of snapshots) {
    const shot = await snapshotThatHolds(db, id, revision, hash);
    if (shot) return furthest(db, id, { shot, revision }, revision === 0 ? firstSeal(id, hash) : null);
  }
  return null;
}

async function snapshotThatHolds(db: EntityManager, id: string, revision: number, hash: string): Promise<Shot | null> {
  try {
    const [row]: { document: Buffer }[] = await db.query(
      'SELECT document FROM snapshots WHERE shot_id = $1 AND revision = $2',
      [id, revision],
    );
    const text = await unpacked(row.document);
    if (digest(text) !== hash) return null;
    const document = trusted(migrate(JSON.parse(text.toString())));
    const parsed = parseShot(document, await rigsFor(db, document));
    return parsed.ok ? parsed.value : null;
  } catch {
    // It does not unpack, is no JSON, or its page in the database is spoilt.
    return null;
  }
}

/** How far the log leads on, each line the next, as it was put in, and reading. @param first the seal before the first line, where that is known */
async function furthest(db: EntityManager, id: string, from: Holding, first: string | null): Promise<Holding> {
  const lines: (SealedLine & { seal: string })[] = await db.query(
    `SELECT revision, edit_id, command, label, author, made_at, patches, inverse, seal
       FROM edits WHERE shot_id = $1 AND revision >= $2 ORDER BY revision`,
    [id, from.revision],
  );
  const before = lines[0]?.revision === from.revision ? lines.shift()!.seal : first;
  let seal = before;
  let { shot, revision } = from;
  for (const line of lines) {
    if (line.revision !== revision + 1 || (seal !== null && sealAfter(seal, line) !== line.seal)) break;
    const next = await withLine(db, shot, line.patches);
    if (!next) break;
    shot = next;
    revision = line.revision;
    seal = line.seal;
  }
  return { shot, revision };
}

/** The shot with a line of its log; null where that does not fit or does not read. */
async function withLine(db: EntityManager, shot: Shot, patches: string): Promise<Shot | null> {
  try {
    const patched = applyPatches(documentOf(shot), JSON.parse(patches) as Patch[]);
    const parsed = parseChanged(shot, patched, await rigsOf(db, shot, patched));
    return parsed.ok ? parsed.value : null;
  } catch {
    return null;
  }
}
