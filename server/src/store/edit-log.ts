import type { EntityManager } from 'typeorm';
import type { SealedLine } from './seals.ts';

/** The log of a shot's edits: lines are added and never changed. */

/** A line of the log as it is sent: its patches are the text they are kept as. */
export interface Line extends SealedLine {
  /** What takes it back, where that was asked for; lines of the first Varrups have none. */
  readonly inverse?: string | null;
}

const COLUMNS = 'revision, edit_id, command, label, author, made_at, patches';

/** A page of the log holds no more edits, and goes no further once it has so many characters. */
const PAGE_EDITS = 500;
const PAGE_SIZE = 8e6;

/** The lines after a revision, oldest first, all of them. */
export const linesAfter = (db: EntityManager, shot: string, revision: number): Promise<Line[]> =>
  db.query(`SELECT ${COLUMNS} FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision`, [shot, revision]);

/** A page of the lines after a revision, with what takes them back if that is asked for, and whether there are more. */
export async function pageAfter(
  db: EntityManager,
  shot: string,
  revision: number,
  withInverse: boolean,
): Promise<{ lines: Line[]; more: boolean }> {
  const sizes: { revision: number; size: number }[] = await db.query(
    'SELECT revision, octet_length(patches) AS size FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision LIMIT $3',
    [shot, revision, PAGE_EDITS + 1],
  );
  let size = 0;
  let count = 0;
  while (count < Math.min(sizes.length, PAGE_EDITS) && (count === 0 || size < PAGE_SIZE)) size += sizes[count++].size;
  const last = sizes[count - 1]?.revision ?? revision;
  const lines: Line[] = await db.query(
    `SELECT ${COLUMNS}${withInverse ? ', inverse' : ''} FROM edits
     WHERE shot_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision`,
    [shot, revision, last],
  );
  return { lines, more: count < sizes.length };
}

/** Which of these edits the log has already, and the revisions they led to. */
export async function known(db: EntityManager, shot: string, ids: readonly string[]): Promise<Map<string, number>> {
  const rows: { edit_id: string; revision: number }[] = await db.query(
    'SELECT edit_id, revision FROM edits WHERE shot_id = $1 AND edit_id = ANY($2)',
    [shot, ids],
  );
  return new Map(rows.map((row) => [row.edit_id, row.revision]));
}

/** A line as the wire has it. */
export function lineText({ revision, edit_id: id, command, label, author, made_at, patches, inverse }: Line): string {
  const words = JSON.stringify({ id, command, label, author, madeAt: made_at.toISOString(), revision });
  return `${words.slice(0, -1)},"patches":${patches}${inverse ? `,"inverse":${inverse}` : ''}}`;
}

/** A line that is put into the log: with what takes it back, and its seal. */
export interface NewLine extends Line {
  readonly inverse: string;
  readonly seal: string;
}

/** Adds lines to a shot's log. */
export async function append(db: EntityManager, shot: string, lines: readonly NewLine[]): Promise<void> {
  const column = <Name extends keyof NewLine>(name: Name) => lines.map((line) => line[name]);
  await db.query(
    `INSERT INTO edits (shot_id, revision, edit_id, command, label, author, made_at, patches, inverse, seal)
     SELECT $1, * FROM unnest($2::int[], $3::text[], $4::text[], $5::text[], $6::text[], $7::timestamptz[], $8::text[],
       $9::text[], $10::text[])`,
    [
      shot,
      column('revision'),
      column('edit_id'),
      column('command'),
      column('label'),
      column('author'),
      column('made_at'),
      column('patches'),
      column('inverse'),
      column('seal'),
    ],
  );
}
