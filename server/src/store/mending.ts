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
import { headOf } from './shot-row.ts';
import { createShot } from './shots.ts';

/**
 * Makes a shot of another as it was at the last of its revisions that reads, where what is kept of it since does not.
 * @returns its id
 * @throws Refused (409) where nothing of it reads
 */
export async function mendShot(db: EntityManager, id: string): Promise<string> {
  const head = await headOf(db, id);
  const snapshots: { revision: number; document: Buffer }[] = await db.query(
    'SELECT revision, document FROM snapshots WHERE shot_id = $1 ORDER BY revision DESC',
    [id],
  );
  for (const { revision, document } of snapshots) {
    const first = await read(db, (await unpacked(document)).toString());
    if (!first) continue;
    const good = await furthest(db, id, first, revision);
    const name = `${good.shot.name.slice(0, 60)} (as it was at edit ${good.revision})`;
    return createShot(db, head.production_id, { ...documentOf(good.shot), name });
  }
  throw new Refused(409, 'Nothing that is kept of the shot can be read. A backup may have it.');
}

async function read(db: EntityManager, text: string): Promise<Shot | null> {
  const document = trusted(migrate(JSON.parse(text)));
  const parsed = parseShot(document, await rigsFor(db, document));
  return parsed.ok ? parsed.value : null;
}

/** How far the log leads from a snapshot on with each edit reading. */
async function furthest(
  db: EntityManager,
  id: string,
  first: Shot,
  from: number,
): Promise<{ shot: Shot; revision: number }> {
  const lines: { revision: number; patches: string }[] = await db.query(
    'SELECT revision, patches FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision',
    [id, from],
  );
  let shot = first;
  let revision = from;
  for (const line of lines) {
    try {
      const patched = applyPatches(documentOf(shot), JSON.parse(line.patches) as Patch[]);
      const parsed = parseChanged(shot, patched, await rigsOf(db, shot, patched));
      if (!parsed.ok) break;
      shot = parsed.value;
      revision = line.revision;
    } catch {
      // A patch that does not fit, or is none: it ends here.
      break;
    }
  }
  return { shot, revision };
}
