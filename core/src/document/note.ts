import { z } from 'zod';
import { CurveSchema } from '../curve/key.ts';
import { listOf, recordOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { FRAMES, QuaternionSchema, ValueSchema } from '../schema/numbers.ts';
import { PathSchema } from '../schema/path.ts';
import { MomentSchema, textOf } from '../schema/text.ts';

const wholeFrame = z.number().int().min(FRAMES.first).max(FRAMES.last);
const PointSchema = z.tuple([ValueSchema, ValueSchema, ValueSchema]).readonly();

/** Who said something: a person by their id, and what they were called then. */
export const AuthorSchema = z.strictObject({ id: IdSchema, name: NameSchema });
export type Author = z.infer<typeof AuthorSchema>;

/** How the stage was looked at: what a drawing on it was drawn over. Metres, and radians of the upright angle of view. */
const ViewSchema = z.strictObject({
  eye: PointSchema,
  target: PointSchema,
  fov: z.number().min(0).max(3.2),
  /** Height seen, for a view without perspective; null for one with. */
  flat: z.number().gt(0).max(1e6).nullable(),
  /** Through the shot's camera, whatever it sees then. */
  camera: z.boolean(),
});
export type NoteView = z.infer<typeof ViewSchema>;

/** What a note is on. */
const SubjectSchema = z.discriminatedUnion('is', [
  z.strictObject({
    is: z.literal('stage'),
    view: ViewSchema,
    /** The point it is pinned to, in the space of a member: what is drawn goes where that goes. */
    pin: z.strictObject({ member: IdSchema, at: PointSchema }).nullable(),
  }),
  /** On a curve, at a value; what is drawn there is measured in hundreds of frames, and in so much of its value. */
  z.strictObject({ is: z.literal('curve'), path: PathSchema, value: ValueSchema, per: z.number().gt(0).max(1e9) }),
  z.strictObject({ is: z.literal('channel'), path: PathSchema }),
  /** On the sheet: a member's row, or the whole of it. */
  z.strictObject({ is: z.literal('sheet'), member: IdSchema.nullable() }),
  z.strictObject({ is: z.literal('finding'), check: textOf(60), member: IdSchema.nullable(), says: textOf(600) }),
]);
export type NoteSubject = z.infer<typeof SubjectSchema>;

export const noteStates = ['open', 'done', 'dropped'] as const;
export type NoteState = (typeof noteStates)[number];

/** What a reviewer says at a frame, or over a span of frames. */
export const NoteSchema = z
  .strictObject({
    id: IdSchema,
    author: AuthorSchema,
    madeAt: MomentSchema,
    /** How many edits the shot had had. */
    revision: z.number().int().min(0),
    first: wholeFrame,
    last: wholeFrame,
    on: SubjectSchema,
    text: textOf(4_000),
    state: z.enum(noteStates),
    answers: listOf(z.strictObject({ author: AuthorSchema, madeAt: MomentSchema, text: textOf(4_000) }), 200),
  })
  .refine(({ first, last }) => first <= last, 'ends before it begins');
export type Note = z.infer<typeof NoteSchema>;

/** A fix that is shown and not made: other curves, and other constant values, for some channels. */
export const SuggestionSchema = z.strictObject({
  id: IdSchema,
  author: AuthorSchema,
  madeAt: MomentSchema,
  name: NameSchema,
  /** The note it goes with. */
  note: IdSchema.nullable(),
  /** By path; null where the channel is to have no curve. */
  curves: recordOf(PathSchema, CurveSchema.nullable(), 5_000),
  values: recordOf(PathSchema, z.union([ValueSchema, QuaternionSchema]), 5_000),
});
export type Suggestion = z.infer<typeof SuggestionSchema>;
