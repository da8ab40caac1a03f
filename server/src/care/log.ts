import { parseShot, type ShotDocument } from '@varrup/core';
import type { DataSource } from 'typeorm';
import { asRead, broughtUp } from '../store/kept.ts';
import { unpacked } from '../store/packing.ts';
import { replayed } from '../store/replay.ts';
import { rigsFor } from '../store/rigs.ts';
import { digest, firstSeal, type SealedLine, sealAfter } from '../store/seals.ts';
import { type Row, verifyRow } from './row.ts';
import type { Tell } from './told.ts';

interface Snapshot {
  readonly revision: number;
  readonly hash: string;
}

/** So many lines are read at once. */
const AT_ONCE = 500;

/** Goes along a shot's log from its first snapshot to its last edit. @returns how many edits there are */
export async function verifyLog(database: DataSource, id: string, tell: Tell): Promise<number> {
  const [row]: Row[] = await database.query(
    `SELECT id, name, production_id, frames, rate, links, revision, snapshot_revision, snapshots, seal
       FROM shots WHERE id = $1`,
    [id],
  );
  const snapshots: Snapshot[] = await database.query(
    'SELECT revision, hash FROM snapshots WHERE shot_id = $1 ORDER BY revision',
    [id],
  );
  if (snapshots.length === 0) tell('has no snapshot');
  else if (snapshots.length !== row.snapshots) tell(`has ${snapshots.length} snapshots, not ${row.snapshots}`);
  if (!snapshots.some((s) => s.revision === row.snapshot_revision))
    tell(`has no snapshot of its revision ${row.snapshot_revision}`);

  const walk = new Walk(database, row, snapshots, tell);
  const edits = await walk.goAlong();
  if (walk.document) {
    const parsed = parseShot(walk.document, await rigsFor(database.manager, walk.document));
    if (!parsed.ok) tell(`does not read: ${parsed.problems[0].pointer} ${parsed.problems[0].sentence}`);
    await verifyRow(database, row, parsed.ok ? parsed.value : null, tell);
  } else tell('does not read as it is now');
  return edits;
}

/** A walk along a log: what the shot is at the revision reached, as far as that can be told. */
class Walk {
  document: ShotDocument | null = null;
  readonly #database: DataSource;
  readonly #row: Row;
  readonly #snapshots: Map<number, Snapshot>;
  readonly #tell: Tell;
  #seal: string | null;
  #revision = 0;

  constructor(database: DataSource, row: Row, snapshots: readonly Snapshot[], tell: Tell) {
    this.#database = database;
    this.#row = row;
    this.#snapshots = new Map(snapshots.map((s) => [s.revision, s]));
    this.#tell = tell;
    this.#seal = snapshots.length > 0 ? firstSeal(row.id, snapshots[0].hash) : null;
  }

  async goAlong(): Promise<number> {
    let count = 0;
    await this.#atSnapshot(0);
    for (let goesOn = true; goesOn; ) {
      const lines: (SealedLine & { seal: string })[] = await this.#database.query(
        `SELECT revision, edit_id, command, label, author, made_at, patches, inverse, seal
           FROM edits WHERE shot_id = $1 AND revision > $2 ORDER BY revision LIMIT ${AT_ONCE}`,
        [this.#row.id, this.#revision],
      );
      for (const line of lines) await this.#over(line);
      count += lines.length;
      goesOn = lines.length === AT_ONCE;
    }
    if (count !== this.#row.revision) this.#tell(`the log has ${count} edits, and the shot says ${this.#row.revision}`);
    else if (this.#seal !== this.#row.seal) this.#tell('the log does not end with the edit that was put in last');
    return count;
  }

  async #over(line: SealedLine & { seal: string }): Promise<void> {
    if (line.revision !== this.#revision + 1) {
      this.#tell(`edits ${this.#revision + 1} to ${line.revision - 1} are missing`);
      this.#seal = null;
      this.document = null;
    }
    if (this.#seal !== null && sealAfter(this.#seal, line) !== line.seal)
      this.#tell(`edit ${line.revision} is not what was put in`);
    this.#seal = line.seal;
    this.#revision = line.revision;
    try {
      this.document &&= replayed(this.document, [line]);
    } catch {
      this.#tell(`edit ${line.revision} does not fit what was before it`);
      this.document = null;
    }
    await this.#atSnapshot(line.revision);
  }

  /** Holds the snapshot of a revision, where there is one, against what the log led to, and goes on from it. */
  async #atSnapshot(revision: number): Promise<void> {
    const snapshot = this.#snapshots.get(revision);
    if (!snapshot) return;
    const kept = await this.#read(snapshot);
    if (!kept) return;
    if (this.document !== null && !sameParts(asRead(this.document), asRead(kept)))
      this.#tell(`the snapshot of revision ${revision} is not what the log leads to`);
    this.document = kept;
  }

  async #read({ revision, hash }: Snapshot): Promise<ShotDocument | null> {
    try {
      const [row]: { document: Buffer }[] = await this.#database.query(
        'SELECT document FROM snapshots WHERE shot_id = $1 AND revision = $2',
        [this.#row.id, revision],
      );
      const text = await unpacked(row.document);
      if (digest(text) !== hash) this.#tell(`the snapshot of revision ${revision} is not what was put in`);
      return broughtUp(JSON.parse(text.toString()));
    } catch {
      this.#tell(`the snapshot of revision ${revision} does not unpack`);
      return null;
    }
  }
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
