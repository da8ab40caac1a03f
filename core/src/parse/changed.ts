import type { z } from 'zod';
import type { Member } from '../document/member.ts';
import { SHOT_VERSION, type Shot, type ShotDocument, ShotSchema, shotTables } from '../document/shot.ts';
import type { Rigs } from '../rig/rigs.ts';
import type { TableShape } from '../schema/bounded.ts';
import { MOST_PROBLEMS, type Parsed, type Problem, pointer, problemsOf } from '../schema/problem.ts';
import { Table } from '../table/table.ts';
import {
  inconsistencies,
  isByPath,
  isFiled,
  lookAtClips,
  lookAtFormulas,
  lookAtPath,
  lookAtRecord,
  lookAtSpans,
  Problems,
} from './inconsistencies.ts';
import { parseShot } from './parse.ts';

type TableName = keyof typeof shotTables;

/**
 * Reads what patches have made of a document that has been read before: only what differs is looked at. It says what `parseShot` says of
 * the whole, and costs what has changed; where somebody comes, goes or is carried otherwise, the cast is looked through as a whole.
 * @param patched what `applyPatches` made of `before`: what it shares with it has been read
 */
export function parseChanged(before: Shot, patched: ShotDocument, rigs: Rigs): Parsed<Shot> {
  if (patched.version !== SHOT_VERSION)
    return { ok: false, problems: [{ pointer: '/version', sentence: 'is not for an edit to change' }] };
  const reading = new Reading(before, patched);
  if (!reading.isReadInParts) return parseShot(patched, rigs);
  const document = reading.read();
  if (reading.problems.length > 0) return { ok: false, problems: reading.problems };
  const shot: Shot = { ...document, rigs };
  const problems = reading.changesCast || rigs !== before.rigs ? inconsistencies(shot) : reading.lookThrough(shot);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: shot };
}

class Reading {
  readonly #before: ShotDocument;
  readonly #patched: ShotDocument;
  readonly problems: Problem[] = [];
  /** The keys of records that differ and are there, by table. */
  readonly #touched = new Map<TableName, string[]>();
  /** Whether somebody comes, goes, changes their channels or is carried otherwise. */
  changesCast = false;

  constructor(before: Shot, patched: ShotDocument) {
    this.#before = before;
    this.#patched = patched;
  }

  /** Whether the document has the parts that documents have, and its tables are tables: else it must be read as a whole. */
  get isReadInParts(): boolean {
    const names = Object.keys(this.#patched);
    return (
      names.length === Object.keys(ShotSchema.shape).length &&
      names.every((name) => Object.hasOwn(ShotSchema.shape, name)) &&
      Object.keys(shotTables).every((name) => this.#patched[name as TableName] instanceof Table)
    );
  }

  /** The document with what differs read. */
  read(): ShotDocument {
    const out = { ...this.#patched };
    for (const name of Object.keys(ShotSchema.shape) as (keyof ShotDocument)[]) {
      if (this.#before[name] === this.#patched[name]) continue;
      const part = Object.hasOwn(shotTables, name) ? this.#readTable(name as TableName) : this.#readPart(name);
      Object.assign(out, { [name]: part });
    }
    return out;
  }

  #readPart(name: keyof ShotDocument): unknown {
    const parsed = (ShotSchema.shape[name] as z.ZodType).safeParse(this.#patched[name]);
    if (!parsed.success) this.#tell([name], parsed.error);
    return parsed.data;
  }

  #readTable(name: TableName): Table<unknown> {
    const { key, value, most }: TableShape = shotTables[name];
    const before = this.#before[name] as Table<unknown>;
    const patched = this.#patched[name] as Table<unknown>;
    const touched: string[] = [];
    const draft = patched.edit();
    if (patched.size > most) {
      this.problems.push({ pointer: `/${name}`, sentence: `has ${patched.size} parts; ${most} are the most` });
      return patched;
    }
    before.changesTo(patched, (id, old, record) => {
      if (name === 'members') this.changesCast ||= !standsAlike(old as Member, record as Member);
      if (record === undefined || this.problems.length >= MOST_PROBLEMS) return;
      const named = key.safeParse(id);
      const parsed = value.safeParse(record);
      if (!named.success) this.#tell([name, id], named.error);
      else if (!parsed.success) this.#tell([name, id], parsed.error);
      else {
        touched.push(id);
        draft.set(id, sharing(parsed.data, record, old));
      }
    });
    this.#touched.set(name, touched);
    return draft.done();
  }

  #tell(path: readonly string[], error: z.ZodError): void {
    for (const { pointer: within, sentence } of problemsOf(error))
      if (this.problems.length < MOST_PROBLEMS) this.problems.push({ pointer: pointer(path) + within, sentence });
  }

  /** What is wrong with the shot, where only what differs can be. */
  lookThrough(shot: Shot): Problem[] {
    const problems = new Problems();
    lookAtSpans(shot, problems);
    for (const [table, ids] of this.#touched) {
      for (const id of ids) {
        if (isFiled(table)) lookAtRecord(shot, table, id, problems);
        if (isByPath(table)) lookAtPath(shot, table, id, problems);
      }
    }
    // A clip that goes leaves no record to be looked at, but spans may still name it.
    const differ = (['clips', 'tracks'] as const).some((table) => this.#patched[table] !== this.#before[table]);
    if (differ || this.#touched.has('curves')) lookAtClips(shot, problems);
    if (this.#touched.has('formulas')) lookAtFormulas(shot, problems);
    return problems.list;
  }
}

/** A record as it was read, with those of its parts that no patch has touched as they were: who remembers them by identity need not look again. */
function sharing(parsed: unknown, patched: unknown, before: unknown): unknown {
  if (!isRecord(parsed) || !isRecord(patched) || !isRecord(before)) return parsed;
  const out = { ...parsed };
  for (const name in out) if (patched[name] === before[name]) out[name] = before[name];
  return out;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Whether two versions of a member have the same channels and stand to the others in the same way. */
function standsAlike(a: Member | undefined, b: Member | undefined): boolean {
  if (!a || !isRecord(b)) return false;
  return (
    a.id === b.id &&
    a.parent === b.parent &&
    a.kind === b.kind &&
    a.shape === b.shape &&
    a.material === b.material &&
    a.custom === b.custom &&
    a.deformers === b.deformers &&
    a.holds === b.holds
  );
}
