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
import { append, known, type Line, linesAfter, lineText, type Taken } from './edit-log.ts';
import { useMedia } from './media/index.ts';
import { rigsOf } from './rigs.ts';
import { headOf, type ShotHead } from './shot-row.ts';
import type { Store } from './store.ts';

/** The revision edits led to, and the lines of the log between their base and them. */
export interface Committed {
  readonly revision: number;
  readonly since: readonly Line[];
}

/**
 * Adds edits to a shot's log. Edits that are there already, because the answer to their first sending was lost, are passed over. All of
 * them are taken or none; what is kept is what was read: the difference each makes to the document, and what takes it back. Where others
 * have changed the shot since `base` they come after those, if they are of other places of the document.
 * @throws Refused 409 with the edits since `base` where they meet those; 422 when the edits do not fit the document
 */
export async function commitEdits(
  store: Store,
  id: string,
  { base, edits, author = NOBODY }: Commit,
): Promise<Committed> {
  refuseTwice(edits);
  return store.change(async (db) => {
    const head = await headOf(db, id, 'to change');
    if (base > head.revision) {
      const nothing = { revision: head.revision, edits: [] };
      throw new Refused(409, `The shot has ${head.revision} edits, not ${base}.`, nothing);
    }
    const since = base < head.revision ? await linesAfter(db, id, base) : [];
    const there = await known(
      db,
      id,
      edits.map((e) => e.id),
    );
    const fresh = edits.filter((e) => !there.has(e.id));
    const others = since.filter((line) => !there.has(line.edit_id));
    const theirs = others.flatMap((line) => JSON.parse(line.patches) as Patch[]);
    const mine = fresh.flatMap((edit) => edit.patches);
    if (meetings(mine, theirs).length > 0) throw met(head, since);
    try {
      return { revision: await take(store, db, head, author, fresh), since };
    } catch (error) {
      // A table keeps the places of whatever was put into it, also by those who are refused.
      if (mine.length > MANY_REFUSED) store.documents.forget(id);
      const isWrong = error instanceof Refused && error.status === 422;
      if (isWrong && others.length > 0 && (await fits(store, db, id, base, fresh))) throw met(head, since);
      throw error;
    }
  });
}

/** A shot for which so many patches came to nothing is read anew. */
const MANY_REFUSED = 200;

/** Whether edits fit the shot as it was: then it is those of others that they do not fit, as a key of somebody taken out. */
async function fits(
  store: Store,
  db: EntityManager,
  id: string,
  base: number,
  edits: readonly Edit[],
): Promise<boolean> {
  let { shot } = await store.documents.at(db, id, base);
  try {
    for (const [i, edit] of edits.entries()) shot = await applied(db, shot, edit, i);
    return true;
  } catch (error) {
    if (error instanceof Refused) return false;
    throw error;
  }
}

/** Who makes edits that nobody has put a name to. */
const NOBODY = 'you';

/** Refuses edits because of others. */
const met = (head: ShotHead, since: readonly Line[]) =>
  new Refused(409, 'Others have changed the same in the meantime.', {
    revision: head.revision,
    edits: since.map((line) => JSON.parse(lineText(line))),
  });

/** Changes a shot as it is now by an edit of the server's own. @param make the patches; none where there is nothing to do */
export async function changeShot(
  store: Store,
  id: string,
  words: { readonly command: string; readonly label: string },
  make: (head: ShotHead) => Patch[],
): Promise<void> {
  await store.change(async (db) => {
    const head = await headOf(db, id, 'to change');
    const patches = make(head);
    if (patches.length > 0) await take(store, db, head, NOBODY, [{ id: newId(), ...words, patches }]);
  });
}

function refuseTwice(edits: readonly Edit[]): void {
  const seen = new Set<string>();
  for (const [i, edit] of edits.entries()) {
    if (seen.has(edit.id))
      throw new Refused(400, 'An edit cannot come twice in what is sent.', { pointer: `/edits/${i}/id` });
    seen.add(edit.id);
  }
}

async function take(
  store: Store,
  db: EntityManager,
  head: ShotHead,
  author: string,
  edits: readonly Edit[],
): Promise<number> {
  if (edits.length === 0) return head.revision;
  const before = await store.documents.at(db, head.id, head.revision);
  const taken: Taken[] = [];
  let shot = before.shot;
  for (const [i, edit] of edits.entries()) {
    const next = await applied(db, shot, edit, i);
    const { patches, inverse } = difference(documentOf(shot), documentOf(next));
    // An edit that changes nothing is in the log all the same, so that it is known when it comes again.
    const nothing = patches.length === 0;
    taken.push({ ...edit, patches: nothing ? NOTHING(shot) : patches, inverse: nothing ? NOTHING(shot) : inverse });
    shot = next;
  }
  const revision = head.revision + edits.length;
  const size = await append(db, head.id, head.revision + 1, author, taken);
  const sameCast = shot.members === before.shot.members;
  if (!sameMedia(before.shot, shot)) await useMedia(db, `shot:${head.id}`, mediaOfOwn(shot));
  await db.query(
    `UPDATE shots SET revision = $2, name = $3, frames = $4, rate = $5, log_size = log_size + $6, changed_at = now(),
       links = coalesce($7::jsonb, links) WHERE id = $1`,
    [
      head.id,
      revision,
      shot.name,
      shot.range.last - shot.range.first + 1,
      shot.rate,
      size,
      sameCast ? null : JSON.stringify(linksIn(shot)),
    ],
  );
  await db.query('UPDATE productions SET changed_at = now() WHERE id = $1', [head.production_id]);
  store.afterwards(db, () => {
    store.documents.keep(head.id, { revision, shot, size: before.size + size });
    store.changed({ ...head, revision, log_size: head.log_size + size });
  });
  return revision;
}

/** What changes nothing, at a place that nobody else changes. */
const NOTHING = (shot: Shot): Patch[] => [{ op: 'replace', path: '/version', value: shot.version }];

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
