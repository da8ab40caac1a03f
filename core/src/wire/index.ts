import { z } from 'zod';
import { migrate } from '../document/migrate.ts';
import { ShotSchema } from '../document/shot.ts';
import { EditSchema } from '../edit/edit.ts';
import { PatchesSchema } from '../edit/patch.ts';
import { BookedPoseSchema, NewPoseSchema } from '../rig/pose-book.ts';
import { listOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';

/** What the browser and the server say to each other: one schema a message, used at both doors. */

export const ShotSummarySchema = z.object({
  id: IdSchema,
  production: IdSchema,
  name: NameSchema,
  revision: z.number().int().min(0),
  /** How long it is. */
  frames: z.number().int(),
  rate: z.number(),
  changedAt: z.string(),
  /** When its picture was taken; null while it has none. */
  picturedAt: z.string().nullable(),
});
export type ShotSummary = z.infer<typeof ShotSummarySchema>;

export const ProductionSchema = z.object({
  id: IdSchema,
  name: NameSchema,
  /** When it, or a shot of it, was changed last. */
  changedAt: z.string(),
  /** How many shots it has; where the list is searched, how many were found in it. */
  shots: z.number().int(),
  /** The highest number that a name of a shot begins with. */
  lastNumber: z.number().int(),
});
/** A piece of work. */
export type Production = z.infer<typeof ProductionSchema>;

/** A list has no more than this; searching makes it shorter. */
export const MOST_LISTED = 10_000;
/** What a list is ordered by: what was worked on last comes first, or names. */
export const ListOrderSchema = z.enum(['recent', 'name']);
export type ListOrder = z.infer<typeof ListOrderSchema>;
/** What is asked of a list. A search finds words in names of shots and of productions. */
export const ListQuerySchema = z.object({
  search: z.string().max(80).default(''),
  order: ListOrderSchema.default('name'),
});
export type ListQuery = z.infer<typeof ListQuerySchema>;

export const HomeSchema = z.object({ productions: z.array(ProductionSchema) });
/** All productions, without their shots. */
export type Home = z.infer<typeof HomeSchema>;

/** Shots are asked for a page at a time, of one production or of all. */
export const ShotsQuerySchema = ListQuerySchema.extend({
  production: IdSchema.optional(),
  from: z.coerce.number().int().min(0).max(1_000_000).default(0),
  count: z.coerce.number().int().min(1).max(500).default(60),
});
export type ShotsQuery = z.infer<typeof ShotsQuerySchema>;
export const ShotsPageSchema = z.object({ shots: z.array(ShotSummarySchema) });

/** The bin shows so many, those binned last. */
export const MOST_IN_BIN = 500;
export const BinSchema = z.object({
  /** How many there are. */
  total: z.number().int(),
  items: z.array(
    z.object({
      type: z.enum(['production', 'shot']),
      id: IdSchema,
      name: NameSchema,
      /** The production a shot belongs to. */
      production: z.string().nullable(),
      binnedAt: z.string(),
    }),
  ),
});
export type Bin = z.infer<typeof BinSchema>;

export const NamedSchema = z.strictObject({ name: NameSchema });

/** A shot made from a document somebody holds, or an empty one. */
export const NewShotSchema = z.strictObject({ name: NameSchema, document: z.unknown().optional() });

export const VersionSummarySchema = z.object({
  id: IdSchema,
  name: NameSchema,
  /** How many edits the shot had had. */
  revision: z.number().int().min(0),
  keptAt: z.string(),
});
/** A named version of a shot. */
export type VersionSummary = z.infer<typeof VersionSummarySchema>;

export const VersionsSchema = z.object({ versions: z.array(VersionSummarySchema) });

export const OpenVersionSchema = z.object({ document: ShotSchema });

/** A rig of the library: its versions, newest first, and the shots that link it. */
export const LibraryRigSchema = z.object({
  id: IdSchema,
  name: NameSchema,
  versions: z.array(z.object({ version: z.number().int(), changes: z.string(), madeAt: z.string() })),
  usedIn: z.array(
    z.object({ shot: IdSchema, name: NameSchema, production: NameSchema, versions: z.array(z.number().int()) }),
  ),
  poses: z.number().int(),
});
export type LibraryRig = z.infer<typeof LibraryRigSchema>;

export const LibrarySchema = z.object({ rigs: z.array(LibraryRigSchema) });

export const PoseBookSchema = z.object({ poses: z.array(BookedPoseSchema) });

/** New words for a pose. */
export const PoseWordsSchema = NewPoseSchema.pick({ name: true, tags: true }).partial();

/** The most edits a shot can have: what the database counts in. */
export const MOST_REVISIONS = 2 ** 31 - 1;

/** Edits made on revision `base`, in order. */
export const CommitSchema = z.strictObject({
  base: z.number().int().min(0).max(MOST_REVISIONS),
  edits: listOf(EditSchema, 500, 1),
  /** Who has made them: what can be taken back later is one's own. */
  author: IdSchema.optional(),
});
export type Commit = z.infer<typeof CommitSchema>;

/** An edit in the log, with the revision it led to, who made it and when. */
export const LoggedEditSchema = EditSchema.extend({
  revision: z.number().int().min(1),
  author: z.string().optional(),
  madeAt: z.string().optional(),
  /** What takes it back, where that was asked for. */
  inverse: PatchesSchema.optional(),
});
export type LoggedEdit = z.infer<typeof LoggedEditSchema>;

/** Edits are taken: the revision they led to, and what was done between `base` and them, also by oneself. */
export const CommittedSchema = z.object({
  revision: z.number().int().min(0),
  edits: z.array(LoggedEditSchema).default([]),
});
export type Committed = z.infer<typeof CommittedSchema>;

export const EditsSinceSchema = z.object({
  revision: z.number().int().min(0),
  edits: z.array(LoggedEditSchema),
  /** Whether there are more after these. */
  more: z.boolean().default(false),
});
export type EditsSince = z.infer<typeof EditsSinceSchema>;

/** A shot as its newest snapshot, brought up to today, and the edits since. */
export const OpenShotSchema = z.object({
  production: z.object({ id: IdSchema, name: NameSchema }),
  revision: z.number().int().min(0),
  document: z.unknown().transform(migrate).pipe(ShotSchema),
  edits: z.array(LoggedEditSchema),
});
export type OpenShot = z.infer<typeof OpenShotSchema>;

/** A window at a shot, and the first of what is picked in it. */
export const HereSchema = z.strictObject({ window: IdSchema, picked: listOf(IdSchema, 50) });
export type Here = z.infer<typeof HereSchema>;

/** Who is at a shot: a person is whoever sits at a browser, by an id of its own. */
const PresentOneSchema = HereSchema.extend({ person: IdSchema });
export type Present = z.infer<typeof PresentOneSchema>;
export const PresentSchema = z.array(PresentOneSchema);

/** How the server is; the room on the disk of its database is told where that is known, in bytes. */
export const HealthSchema = z.object({
  status: z.literal('ok'),
  room: z.enum(['enough', 'low', 'full']).default('enough'),
  free: z.number().optional(),
});
export type Health = z.infer<typeof HealthSchema>;

/** Every refusal: a sentence for people, and where there is one, the place in what was sent. */
export const RefusalSchema = z.object({ error: z.string(), pointer: z.string().optional() });
export type Refusal = z.infer<typeof RefusalSchema>;

/** Refusal of a commit on a stale revision, with what is needed to catch up. */
export const ConflictSchema = RefusalSchema.extend(EditsSinceSchema.shape);
