import { setImmediate } from 'node:timers/promises';
import {
  applyPatches,
  type Commit,
  difference,
  documentOf,
  type Edit,
  linksIn,
  mediaOfOwn,
  meetings,
  newId,
  type Patch,
  PatchError,
  parseChanged,
  type Shot,
  sameMedia,
} from '@varrup/core';
import type { EntityManager } from 'typeorm';
import { Refused, refusedFor } from '../http/refusal.ts';
import type { Held } from './documents.ts';
import { append, known, type Line, linesAfter, lineText, type NewLine } from './edit-log.ts';
import { useMedia } from './media/index.ts';
import { rigsOf } from './rigs.ts';
import { sealAfter } from './seals.ts';
import { headOf, type ShotHead } from './shot-row.ts';
import type { Store } from './store.ts';

/** The revision edits led to, and the lines of the log between their base and them. */
export interface Committed {
  readonly revision: number;
  readonly since: readonly Line[];
}

/** Who makes edits that nobody has put a name to. */
const NOBODY = 'you';

/** Adds edits to a shot's log, see `commitAll`. @throws Refused */
export async function commitEdits(store: Store, id: string, commit: Commit): Promise<Committed> {
  const [result] = await commitAll(store, id, [commit]);
  if (result instanceof Refused) throw result;
  return result;
}

/**
 * Adds edits to a shot's log, of several who have sent theirs at the same time, in one transaction. Of each all are taken or none. Edits that
 * are there already, because the answer to their first sending was lost, are passed over. What is kept is what was read: the difference each
 * makes to the document, and what takes it back. Where others have changed the shot since `base` they come after those, if they are of other
 * places of the document.
 * @returns for each what it led to, or why it was refused: 409 with the edits since `base` where they meet those, 422 where they do not fit the document
 */
export function commitAll(
  store: Store,
  id: string,
  commits: readonly Commit[],
): Promise<readonly (Committed | Refused)[]> {
  return store.change(async (db) => {
    const log = await Log.of(store, db, id);
    await log.know(commits);
    const results: (Committed | Refused)[] = [];
    for (const commit of commits) {
      results.push(await log.take(commit).catch(refusal));
      // Others have their turn between them.
      if (commits.length > 1) await setImmediate();
    }
    await log.write();
    return results;
  });
}

function refusal(error: unknown): Refused {
  if (error instanceof Refused) return error;
  throw error;
}

/** Changes a shot as it is now by an edit of the server's own. @param make the patches; none where there is nothing to do */
export async function changeShot(
  store: Store,
  id: string,
  words: { readonly command: string; readonly label: string },
  make: (head: ShotHead) => Patch[],
): Promise<void> {
  await store.change(async (db) => {
    const log = await Log.of(store, db, id);
    const patches = make(log.head);
    if (patches.length === 0) return;
    await log.add([{ id: newId(), ...words, patches }], NOBODY);
    await log.write();
  });
}

/** A shot for which so many patches came to nothing is read anew. */
const MANY_REFUSED = 200;

/** A shot's log while lines are added to it: held in the database so that nobody else adds any, and written in one go. */
class Log {
  readonly head: ShotHead;
  readonly #store: Store;
  readonly #db: EntityManager;
  readonly #before: Held;
  #shot: Shot;
  #seal: string;
  /** The lines since the earliest base, those that are new among them. */
  readonly #lines: Line[] = [];
  readonly #fresh: NewLine[] = [];
  /** Which edits are in the log. */
  readonly #there = new Set<string>();

  private constructor(store: Store, db: EntityManager, head: ShotHead, before: Held) {
    this.#store = store;
    this.#db = db;
    this.head = head;
    this.#before = before;
    this.#shot = before.shot;
    this.#seal = head.seal;
  }

  static async of(store: Store, db: EntityManager, id: string): Promise<Log> {
    const head = await headOf(db, id, 'to change');
    return new Log(store, db, head, await store.documents.at(db, id, head.revision));
  }

  get #revision(): number {
    return this.head.revision + this.#fresh.length;
  }

  /** Reads what must be known of the log for these. */
  async know(commits: readonly Commit[]): Promise<void> {
    const earliest = Math.min(...commits.map(({ base }) => base));
    if (earliest < this.head.revision) this.#lines.push(...(await linesAfter(this.#db, this.head.id, earliest)));
    const ids = commits.flatMap(({ edits }) => edits.map((edit) => edit.id));
    for (const there of (await known(this.#db, this.head.id, ids)).keys()) this.#there.add(there);
  }

  /** @throws Refused */
  async take({ base, edits, author = NOBODY }: Commit): Promise<Committed> {
    refuseTwice(edits);
    if (base > this.head.revision) {
      const nothing = { revision: this.head.revision, edits: [] };
      throw new Refused(409, `The shot has ${this.head.revision} edits, not ${base}.`, nothing);
    }
    const since = this.#lines.filter((line) => line.revision > base);
    const sent = new Set(edits.map((edit) => edit.id));
    const fresh = edits.filter((edit) => !this.#there.has(edit.id));
    const others = since.filter((line) => !sent.has(line.edit_id));
    const theirs = others.flatMap((line) => JSON.parse(line.patches) as Patch[]);
    const mine = fresh.flatMap((edit) => edit.patches);
    if (meetings(mine, theirs).length > 0) throw this.#met(since);
    try {
      await this.add(fresh, author);
      return { revision: this.#revision, since };
    } catch (error) {
      // A table keeps the places of whatever was put into it, also by those who are refused.
      if (mine.length > MANY_REFUSED) this.#store.documents.forget(this.head.id);
      const isWrong = error instanceof Refused && error.status === 422;
      if (isWrong && others.length > 0 && (await this.#fitted(base, fresh))) throw this.#met(since);
      throw error;
    }
  }

  /** Adds edits, all or none. @throws Refused (422) */
  async add(edits: readonly Edit[], author: string): Promise<void> {
    const before = this.#shot;
    const lines: NewLine[] = [];
    let shot = before;
    let seal = this.#seal;
    for (const [i, edit] of edits.entries()) {
      const next = await applied(this.#db, shot, edit, i);
      const made = lineOf(edit, this.#revision + i + 1, author, shot, next);
      seal = sealAfter(seal, made);
      lines.push({ ...made, seal });
      shot = next;
    }
    if (!sameMedia(before, shot)) await useMedia(this.#db, `shot:${this.head.id}`, mediaOfOwn(shot));
    this.#shot = shot;
    this.#seal = seal;
    this.#fresh.push(...lines);
    for (const line of lines) this.#there.add(line.edit_id);
    this.#lines.push(...lines);
  }

  /** Writes what was added, and has it known when that is committed. */
  async write(): Promise<void> {
    if (this.#fresh.length === 0) return;
    const [{ id }, shot, before, revision, seal] = [this.head, this.#shot, this.#before, this.#revision, this.#seal];
    const size = this.#fresh.reduce((n, line) => n + line.patches.length, 0);
    await append(this.#db, id, this.#fresh);
    const links = shot.members === before.shot.members ? null : JSON.stringify(linksIn(shot));
    const frames = shot.range.last - shot.range.first + 1;
    await this.#db.query(
      `UPDATE shots SET revision = $2, name = $3, frames = $4, rate = $5, log_size = log_size + $6, changed_at = now(),
         links = coalesce($7::jsonb, links), seal = $8 WHERE id = $1`,
      [id, revision, shot.name, frames, shot.rate, size, links, seal],
    );
    this.#store.afterwards(this.#db, () => {
      this.#store.documents.keep(id, { revision, shot, size: before.size + size });
      this.#store.changed({ ...this.head, revision, seal, log_size: this.head.log_size + size });
    });
  }

  /** Whether edits fit the shot as it was: then it is those of others that they do not fit, as a key of somebody taken out. */
  async #fitted(base: number, edits: readonly Edit[]): Promise<boolean> {
    let { shot } = await this.#store.documents.at(this.#db, this.head.id, base);
    try {
      for (const [i, edit] of edits.entries()) shot = await applied(this.#db, shot, edit, i);
      return true;
    } catch (error) {
      if (error instanceof Refused) return false;
      throw error;
    }
  }

  /** A refusal because of others. */
  #met(since: readonly Line[]): Refused {
    return new Refused(409, 'Others have changed the same in the meantime.', {
      revision: this.#revision,
      edits: since.map((line) => JSON.parse(lineText(line))),
    });
  }
}

function refuseTwice(edits: readonly Edit[]): void {
  const seen = new Set<string>();
  for (const [i, edit] of edits.entries()) {
    if (seen.has(edit.id))
      throw new Refused(400, 'An edit cannot come twice in what is sent.', { pointer: `/edits/${i}/id` });
    seen.add(edit.id);
  }
}

/** The line of an edit: what it really changes, and what takes it back. */
function lineOf({ id, command, label }: Edit, revision: number, author: string, shot: Shot, next: Shot) {
  const made = difference(documentOf(shot), documentOf(next));
  // An edit that changes nothing is in the log all the same, so that it is known when it comes again.
  const { patches, inverse } = made.patches.length > 0 ? made : { patches: nothing(shot), inverse: nothing(shot) };
  const texts = { patches: JSON.stringify(patches), inverse: JSON.stringify(inverse) };
  return { revision, edit_id: id, command, label, author, made_at: new Date(), ...texts };
}

/** What changes nothing, at a place that nobody else changes. */
const nothing = (shot: Shot): Patch[] => [{ op: 'replace', path: '/version', value: shot.version }];

/** The shot with an edit, what has changed read. @throws Refused (422) */
async function applied(db: EntityManager, shot: Shot, edit: Edit, index: number): Promise<Shot> {
  const document = documentOf(shot);
  let patched = document;
  try {
    patched = applyPatches(document, edit.patches);
  } catch (error) {
    if (!(error instanceof PatchError)) throw error;
    const pointer = `/edits/${index}/patches/${error.index}`;
    throw new Refused(422, `Edit ${index + 1} does not fit the shot. ${error.message}`, { pointer });
  }
  const parsed = parseChanged(shot, patched, await rigsOf(db, shot, patched));
  if (!parsed.ok) throw refusedFor(422, 'After these edits the shot would be wrong at', parsed.problems);
  if (parsed.value.id !== shot.id)
    throw new Refused(422, 'An edit may not change the id of the shot.', { pointer: '/id' });
  return parsed.value;
}
