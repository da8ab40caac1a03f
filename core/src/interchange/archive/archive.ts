import { z } from 'zod';
import type { Shot } from '../../document/shot.ts';
import type { Media } from '../../media/index.ts';
import { MediaHashSchema } from '../../media/index.ts';
import type { NewPose } from '../../rig/pose-book.ts';
import { IdSchema, NameSchema, RigVersionSchema } from '../../schema/ids.ts';

/**
 * Varrup's own archive: a shot with everything it needs, so that it opens anywhere as it was. It is a zip of JSON files and a manifest
 * that says what each is and what it is known by. See `docs/archive.md`.
 */
export interface Archive {
  readonly shot: Shot;
  /** The pose books of the rigs it links, by rig. */
  readonly poses: ReadonlyMap<string, readonly NewPose[]>;
  /** Its sounds and the pictures of its bodies. */
  readonly media: Media;
}

/** 2: sounds and pictures are in it. */
export const ARCHIVE_VERSION = 2;
export const MANIFEST = 'manifest.json';

export const archiveLimits = { packed: 300_000_000, unpacked: 800_000_000, files: 2_000 } as const;

/** A file of an archive: a plain name, in a folder of it or in none. */
const FileName = z
  .string()
  .regex(
    /^(?:[A-Za-z0-9_@-]+\/)?[A-Za-z0-9_@.-]+\.(?:json|png|jpeg|wav|mp3|ogg|flac)$/,
    'is not the name of a file of an archive',
  );
const Entry = { file: FileName, sha256: z.string().regex(/^[0-9a-f]{64}$/), bytes: z.number().int().min(0) };

export const ManifestSchema = z.strictObject({
  is: z.literal('varrup archive'),
  version: z.number().int().min(1),
  shot: z.strictObject({ ...Entry, name: NameSchema, document: z.number().int().min(1) }),
  rigs: z.array(z.strictObject({ ...Entry, rig: IdSchema, version: RigVersionSchema })).max(1_000),
  poses: z.array(z.strictObject({ ...Entry, rig: IdSchema, count: z.number().int().min(0) })).max(1_000),
  /** Each is known by its hash, which is that of its bytes. */
  media: z
    .array(z.strictObject({ file: FileName, sha256: MediaHashSchema, bytes: z.number().int().min(0) }))
    .max(1_000)
    .default([]),
});
export type Manifest = z.infer<typeof ManifestSchema>;
