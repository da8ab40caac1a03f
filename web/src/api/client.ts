import {
  applyEdit,
  type Bin,
  BinSchema,
  type BookedPose,
  type Commit,
  type Committed,
  CommittedSchema,
  ConflictSchema,
  type EditsSince,
  EditsSinceSchema,
  type Health,
  HealthSchema,
  type Here,
  type Home,
  HomeSchema,
  type LibraryRig,
  LibrarySchema,
  type ListQuery,
  type NewPose,
  type OpenShot,
  OpenShotSchema,
  OpenVersionSchema,
  PoseBookSchema,
  RefusalSchema,
  type Rig,
  type RigLink,
  type ShotDocument,
  type ShotSummary,
  ShotsPageSchema,
  type ShotsQuery,
  type VersionSummary,
  VersionsSchema,
} from '@varrup/core';
import { z } from 'zod';
import { editText } from '../shot/edit-text.ts';
import { person } from '../shot/person.ts';

/** So many edits are asked for, to take back one's own after a reload. */
const LAST_EDITS = 300;

/** A shot as the server gives it: its newest snapshot, which has been read, and what the edits since have made of it. */
export type GivenShot = Omit<OpenShot, 'edits'> & { readonly snapshot: OpenShot['document'] };

/** The server, as functions. What comes back is checked by the same schemas the server answers by. */

/** The server refused: its sentence, and its status. */
export class ServerRefusal extends Error {
  readonly status: number;
  constructor(status: number, sentence: string) {
    super(sentence);
    this.status = status;
  }
}

/** The shot has moved on since the revision an edit was made on. */
export class Conflict extends ServerRefusal {
  readonly since: EditsSince;
  constructor(sentence: string, since: EditsSince) {
    super(409, sentence);
    this.since = since;
  }
}

/** Nobody answers: no network, or the server is down. */
export class Unreachable extends Error {}

async function call(method: string, path: string, body?: unknown): Promise<unknown> {
  let response: Response;
  const isWritten = body instanceof Blob;
  try {
    response = await fetch(`/api${path}`, {
      method,
      // The server lets nobody change anything who does not say so.
      headers: {
        'x-varrup': person(),
        ...(body === undefined ? {} : { 'content-type': isWritten ? body.type : 'application/json' }),
      },
      body: body === undefined ? undefined : isWritten ? body : JSON.stringify(body),
    });
  } catch {
    throw new Unreachable('The server cannot be reached.');
  }
  // A server that is starting or stopping behind a proxy answers 502 or 503: as good as none.
  if (response.status === 502 || response.status === 503) throw new Unreachable('The server is not ready.');
  if (response.status === 204) return null;
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer;
  const conflict = ConflictSchema.safeParse(answer);
  if (response.status === 409 && conflict.success) throw new Conflict(conflict.data.error, conflict.data);
  const refusal = RefusalSchema.safeParse(answer);
  throw new ServerRefusal(response.status, refusal.success ? refusal.data.error : 'The server could not do that.');
}

/** Edits go as the text the journal has of them. */
const written = ({ base, edits }: Commit): Blob =>
  new Blob([`{"author":"${person()}","base":${base},"edits":[`, edits.map(editText).join(','), ']}'], {
    type: 'application/json',
  });

const CreatedSchema = z.object({ id: z.string() });
const created = async (path: string, body?: unknown) => CreatedSchema.parse(await call('POST', path, body)).id;

type Kind = 'productions' | 'shots';

const asked = (query: Readonly<Record<string, string | number | undefined>>): string =>
  new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) => (value === undefined ? [] : [[name, String(value)]])),
  ).toString();

export const api = {
  /** Whether the server is well, and how much room its disk has. */
  health: async (): Promise<Health> => HealthSchema.parse(await call('GET', '/health')),
  /** The productions that have what is searched for. */
  home: async (query: Partial<ListQuery> = {}): Promise<Home> =>
    HomeSchema.parse(await call('GET', `/productions?${asked(query)}`)),
  /** A page of shots. */
  shots: async (query: Partial<ShotsQuery>): Promise<ShotSummary[]> =>
    ShotsPageSchema.parse(await call('GET', `/shots?${asked(query)}`)).shots,
  bin: async (): Promise<Bin> => BinSchema.parse(await call('GET', '/bin')),
  newProduction: (name: string) => created('/productions', { name }),
  newShot: (production: string, name: string, document?: ShotDocument) =>
    created(`/productions/${production}/shots`, { name, document }),
  rename: (kind: Kind, id: string, name: string) => call('PATCH', `/${kind}/${id}`, { name }),
  duplicate: (kind: Kind, id: string) => created(`/${kind}/${id}/duplicate`),
  bringBack: (kind: Kind, id: string) => call('POST', `/${kind}/${id}/restore`),
  toBin: (kind: Kind, id: string) => call('DELETE', `/${kind}/${id}`),
  /** Makes a shot of the last state of one that can be read. */
  mend: (id: string) => created(`/shots/${id}/mend`),
  openShot: async (id: string): Promise<GivenShot> => {
    const { edits, document, ...rest } = OpenShotSchema.parse(await call('GET', `/shots/${id}`));
    return { ...rest, snapshot: document, document: edits.reduce(applyEdit, document) };
  },
  /** The last edits up to a revision, with what takes them back. */
  lastEdits: async (id: string, revision: number): Promise<EditsSince['edits']> => {
    const since = Math.max(0, revision - LAST_EDITS);
    const { edits, more } = EditsSinceSchema.parse(await call('GET', `/shots/${id}/edits?since=${since}&inverse`));
    // Where they do not all fit a page the last are missing.
    return more ? [] : edits;
  },
  /** All edits after a revision, page by page. */
  editsSince: async (id: string, revision: number): Promise<EditsSince> => {
    const edits: EditsSince['edits'] = [];
    for (let at = revision; ; at = edits.at(-1)!.revision) {
      const page = EditsSinceSchema.parse(await call('GET', `/shots/${id}/edits?since=${at}`));
      edits.push(...page.edits);
      if (!page.more) return { ...page, edits };
    }
  },
  commit: async (id: string, commit: Commit): Promise<Committed> =>
    CommittedSchema.parse(await call('POST', `/shots/${id}/edits`, written(commit))),
  here: (id: string, here: Here) => call('PUT', `/shots/${id}/here`, here),
  versions: async (id: string): Promise<VersionSummary[]> =>
    VersionsSchema.parse(await call('GET', `/shots/${id}/versions`)).versions,
  keepVersion: (id: string, name: string) => created(`/shots/${id}/versions`, { name }),
  version: async (id: string, version: string): Promise<ShotDocument> =>
    OpenVersionSchema.parse(await call('GET', `/shots/${id}/versions/${version}`)).document,
  /** A shot as it was after so many edits. */
  revision: async (id: string, revision: number): Promise<ShotDocument> =>
    OpenVersionSchema.parse(await call('GET', `/shots/${id}/revisions/${revision}`)).document,
  removeVersion: (id: string, version: string) => call('DELETE', `/shots/${id}/versions/${version}`),
  rigs: async (): Promise<LibraryRig[]> => LibrarySchema.parse(await call('GET', '/rigs')).rigs,
  rig: (link: RigLink): Promise<unknown> => call('GET', `/rigs/${link.rig}/versions/${link.version}`),
  addRig: (rig: Rig): Promise<unknown> => call('POST', '/rigs', rig),
  poses: async (rig: string): Promise<BookedPose[]> =>
    PoseBookSchema.parse(await call('GET', `/rigs/${rig}/poses`)).poses,
  addPose: (rig: string, pose: NewPose) => created(`/rigs/${rig}/poses`, pose),
  changePose: (rig: string, pose: string, words: Partial<Pick<NewPose, 'name' | 'tags'>>) =>
    call('PATCH', `/rigs/${rig}/poses/${pose}`, words),
  removePose: (rig: string, pose: string) => call('DELETE', `/rigs/${rig}/poses/${pose}`),
  /** Whether a piece of media is in the store already. */
  hasMedia: (hash: string) =>
    fetch(`/api/media/${hash}`, { method: 'HEAD' })
      .then((answer) => answer.ok)
      .catch(() => false),
  putPoster: (hash: string, poster: Blob) => call('PUT', `/media/${hash}/poster`, poster),
  putWaveform: (hash: string, waveform: Blob) => call('PUT', `/media/${hash}/waveform`, waveform),
  putMedia: (hash: string, bytes: Blob) => call('PUT', `/media/${hash}`, bytes),
  putPicture: (id: string, picture: Blob) => call('PUT', `/shots/${id}/picture`, picture),
  pictureAddress: (id: string, picturedAt: string) => `/api/shots/${id}/picture?at=${encodeURIComponent(picturedAt)}`,
};
