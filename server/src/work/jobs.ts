import { CommitSchema, emptyShot, NewShotSchema, newId, parseRig, parseShot, type RigLink } from '@varrup/core';
import { readJson } from '../http/json.ts';
import { parseBody } from '../http/read.ts';
import { notFound, Refused, refusedFor } from '../http/refusal.ts';
import { type Committed, commitEdits } from '../store/commit.ts';
import { type Line, lineText } from '../store/edit-log.ts';
import { fold } from '../store/folding.ts';
import { mendShot } from '../store/mending.ts';
import { duplicateProduction } from '../store/productions.ts';
import { addRig, rigsFor } from '../store/rigs.ts';
import { createShot, duplicateShot } from '../store/shots.ts';
import type { Store } from '../store/store.ts';
import { openRevision, openVersion } from '../store/versions.ts';

/** The answer to edits that were taken. @param textOf the text of a line of the log */
export const committedText = ({ revision, since }: Committed, textOf: (line: Line) => string = lineText): string =>
  `{"revision":${revision},"edits":[${since.map(textOf).join(',')}]}`;

/** What reads whole documents. Each is done by the server itself where it is small, and by its helper where it may not be. */
export const jobs = {
  /** Takes edits. @returns the answer as JSON */
  async commit(store: Store, { id, body }: { id: string; body: Uint8Array }): Promise<string> {
    return committedText(await commitEdits(store, id, parseBody(CommitSchema, body)));
  },

  /** Makes a shot, from a document where one is sent. @returns its id */
  async create(store: Store, { production, body }: { production: string; body: Uint8Array }): Promise<string> {
    const { name, document } = parseBody(NewShotSchema, body);
    let shot = emptyShot(newId(), name);
    if (document !== undefined) {
      const parsed = parseShot(document, await rigsFor(store.database.manager, document));
      if (!parsed.ok) throw refusedFor(422, 'The document is wrong at', parsed.problems);
      shot = { ...parsed.value, name };
    }
    const { rigs: _, ...made } = shot;
    return store.change((db) => createShot(db, production, made));
  },

  /** Keeps a rig in the library. @returns its link */
  async keepRig(store: Store, { body }: { body: Uint8Array }): Promise<RigLink> {
    const parsed = parseRig(readJson(body));
    if (!parsed.ok) throw refusedFor(422, 'The rig cannot be kept:', parsed.problems);
    const { id, version } = parsed.value;
    const isNew = await store.change((db) => addRig(db, parsed.value));
    // A version never changes: shots link it.
    if (!isNew) throw new Refused(409, `There is a version ${version} of the rig ${id} already.`);
    return { rig: id, version };
  },

  /** Copies a shot. @returns the id of the copy */
  duplicate: (store: Store, { id }: { id: string }): Promise<string> =>
    store.change((db) => duplicateShot(store, db, id)),

  /** Makes a shot of the last state of one that reads. @returns its id */
  mend: (store: Store, { id }: { id: string }): Promise<string> => store.change((db) => mendShot(db, id)),

  /** Copies a production with its shots. @returns the id of the copy */
  duplicateProduction: (store: Store, { id }: { id: string }): Promise<string> => duplicateProduction(store, id),

  /** A named version as JSON. */
  async version(store: Store, { shot, id }: { shot: string; id: string }): Promise<string> {
    return JSON.stringify({ document: await openVersion(store, shot, id) });
  },

  /** A shot as it was after so many edits, as JSON. */
  async revision(store: Store, { shot, revision }: { shot: string; revision: number }): Promise<string> {
    return JSON.stringify({ document: await openRevision(store, shot, revision) });
  },

  /** Makes a snapshot of a shot. @returns what is wrong with it, where something is */
  async fold(store: Store, { id }: { id: string }): Promise<string | null> {
    // It may have gone to the bin meanwhile.
    return fold(store, id).catch((error) => {
      if (error instanceof Error && error.message === notFound('shot').message) return null;
      throw error;
    });
  },
} as const;

export type JobName = keyof typeof jobs;
export type JobArguments<Name extends JobName> = Parameters<(typeof jobs)[Name]>[1];
export type JobResult<Name extends JobName> = Awaited<ReturnType<(typeof jobs)[Name]>>;
