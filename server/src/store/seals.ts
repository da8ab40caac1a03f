import { createHash } from 'node:crypto';

/**
 * Seals: a hash beside each row of what was put into it, so that what has been changed behind the server's back is found. A line of a log
 * is sealed together with the line before it, and the shot keeps the seal of its last line: none can be changed, taken out or cut off.
 */

/** What a line of the log is, as far as it is sealed. */
export interface SealedLine {
  readonly revision: number;
  readonly edit_id: string;
  readonly command: string;
  readonly label: string;
  readonly author: string;
  /** To the millisecond. */
  readonly made_at: Date;
  readonly patches: string;
  readonly inverse?: string | null;
}

/** The seal of some values that JSON can hold; the order of names in records does not count. */
export const sealOf = (...values: readonly unknown[]): string => digest(JSON.stringify(values, inOrder));

/** The seal with which a shot's log begins. @param snapshot the hash of its first snapshot */
export const firstSeal = (shot: string, snapshot: string): string => sealOf(shot, snapshot);

/** The seal of a line. @param before that of the line before it */
export const sealAfter = (before: string, line: SealedLine): string =>
  digest(
    JSON.stringify([
      before,
      line.revision,
      line.edit_id,
      line.command,
      line.label,
      line.author,
      line.made_at.getTime(),
      line.patches,
      line.inverse ?? null,
    ]),
  );

/** The hash of bytes or of a text. */
export const digest = (bytes: Buffer | string): string => createHash('sha256').update(bytes).digest('hex');

/** A database that keeps JSON gives its names back in another order. */
function inOrder(_name: string, value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
}

/** The seals of rows, each of all that a hand has put into it. */
export const sealOfProduction = (row: { id: string; name: string }): string => sealOf(row.id, row.name);

export const sealOfVersion = (row: { id: string; shotId: string; name: string; revision: number }): string =>
  sealOf(row.id, row.shotId, row.name, row.revision);

export const sealOfPose = (row: {
  id: string;
  rigId: string;
  name: string;
  tags: readonly string[];
  values: object;
}): string => sealOf(row.id, row.rigId, row.name, row.tags, row.values);

export const sealOfRig = (row: {
  rigId: string;
  version: number;
  name: string;
  changes: string;
  definition: object;
}): string => sealOf(row.rigId, row.version, row.name, row.changes, row.definition);
