import { createHash } from 'node:crypto';
import { parseShot, type ShotDocument } from '@varrup/core';
import type { DataSource } from 'typeorm';
import { asRead, broughtUp } from '../store/kept.ts';
import { PART, readMedia } from '../store/media/index.ts';
import { hashOf, unpacked } from '../store/packing.ts';
import { replayed } from '../store/replay.ts';
import { rigsFor } from '../store/rigs.ts';

/** What was found in a database: how much there is, and each thing that is wrong, as a sentence. */
export interface Found {
  readonly shots: number;
  readonly edits: number;
  readonly problems: readonly string[];
}

/** Looks a whole database through: every shot reads as it is now, every snapshot is what was put in and what the log before it leads to, and so are sounds and pictures. */
export async function verify(database: DataSource, say: (line: string) => void = () => {}): Promise<Found> {
  const rows: { id: string; name: string; revision: number; snapshot_revision: number }[] = await database.query(
    'SELECT id, name, revision, snapshot_revision FROM shots ORDER BY name, id',
  );
  const problems: string[] = [];
  let edits = 0;
  for (const row of rows) {
    const own = await problemsOf(database, row);
    edits += own.edits;
    problems.push(...own.problems.map((problem) => `"${row.name}" (${row.id}): ${problem}`));
    say(`${own.problems.length === 0 ? 'ok   ' : 'WRONG'} ${row.name}, ${row.revision} edits`);
  }
  const spoilt = await spoiltMedia(database);
  problems.push(...spoilt.map((hash) => `the sound or picture ${hash} is not what was put in`));
  if (spoilt.length > 0) say(`WRONG sounds and pictures: ${spoilt.length}`);
  return { shots: rows.length, edits, problems };
}

/** Sounds, pictures and footage whose bytes are not those they are known by. */
async function spoiltMedia(database: DataSource): Promise<string[]> {
  const rows: { hash: string; size: string }[] = await database.query('SELECT hash, size FROM media ORDER BY hash');
  const spoilt: string[] = [];
  for (const { hash, size } of rows) {
    const sum = createHash('sha256');
    for (let at = 0; at < Number(size); at += PART) sum.update(await readMedia(database.manager, hash, at, PART));
    if (sum.digest('hex') !== hash) spoilt.push(hash);
  }
  return spoilt;
}

interface Row {
  readonly id: string;
  readonly revision: number;
  readonly snapshot_revision: number;
}

/** Goes along a shot's log from its first snapshot to its last edit. */
async function problemsOf(database: DataSource, row: Row): Promise<{ edits: number; problems: string[] }> {
  const problems: string[] = [];
  const snapshots: { revision: number; hash: string }[] = await database.query(
    'SELECT revision, hash FROM snapshots WHERE shot_id = $1 ORDER BY revision',
    [row.id],
  );
  const [first] = snapshots;
  if (!first) return { edits: 0, problems: ['has no snapshot'] };
  if (!snapshots.some((s) => s.revision === row.snapshot_revision))
    problems.push(`has no snapshot of its revision ${row.snapshot_revision}`);
  let document: ShotDocument | null = null;
  let edits = 0;
  for (const [i, snapshot] of snapshots.entries()) {
    const text = await textOf(database, row.id, snapshot.revision);
    if (hashOf(text) !== snapshot.hash)
      problems.push(`the snapshot of revision ${snapshot.revision} is not what was put in`);
    const kept = broughtUp(JSON.parse(text.toString()));
    if (document !== null && !sameParts(asRead(document), kept))
      problems.push(`the snapshot of revision ${snapshot.revision} is not what the log leads to`);
    const until = snapshots[i + 1]?.revision ?? row.revision;
    const lines: { revision: number; patches: string }[] = await database.query(
      'SELECT revision, patches FROM edits WHERE shot_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision',
      [row.id, snapshot.revision, until],
    );
    if (lines.length !== until - snapshot.revision)
      problems.push(`the log has ${lines.length} edits from ${snapshot.revision} to ${until}`);
    edits += lines.length;
    document = replayed(kept, lines);
  }
  const parsed = parseShot(document, await rigsFor(database.manager, document));
  if (!parsed.ok) problems.push(`does not read: ${parsed.problems[0].pointer} ${parsed.problems[0].sentence}`);
  return { edits, problems };
}

async function textOf(database: DataSource, shot: string, revision: number): Promise<Buffer> {
  const [row]: { document: Buffer }[] = await database.query(
    'SELECT document FROM snapshots WHERE shot_id = $1 AND revision = $2',
    [shot, revision],
  );
  return unpacked(row.document);
}

/** Whether two documents say the same, in whatever order their records and parts stand. */
function sameParts(a: unknown, b: unknown): boolean {
  const [left, right] = [JSON.parse(JSON.stringify(a)), JSON.parse(JSON.stringify(b))];
  const same = (x: unknown, y: unknown): boolean => {
    if (typeof x !== 'object' || typeof y !== 'object' || x === null || y === null) return x === y;
    const names = Object.keys(x);
    return (
      names.length === Object.keys(y).length &&
      names.every(
        (n) => Object.hasOwn(y, n) && same((x as Record<string, unknown>)[n], (y as Record<string, unknown>)[n]),
      )
    );
  };
  return same(left, right);
}
