import { z } from 'zod';
import { CurveSchema } from '../curve/key.ts';
import { listOf, recordOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { FRAMES, ValueSchema } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';
import { PathSchema } from '../schema/path.ts';
import { RecipeSchema } from './recipe.ts';
import { LoopPartSchema } from './track.ts';

/** The shortest and the longest clip, in frames. */
export const clipFrames = { least: 4, most: 5_000 } as const;

/** The four poses of a step, in the order they come. */
export const stepPoses = ['contact', 'down', 'passing', 'up'] as const;
export type StepPose = (typeof stepPoses)[number];

/** What a frame of a clip is called. Frames of a clip count from 0 at its beginning. */
const LabelSchema = z.strictObject({ frame: z.number().int().min(0).max(clipFrames.most), pose: z.enum(stepPoses) });
export type PoseLabel = z.infer<typeof LabelSchema>;

/** Frames of a clip in which a foot is held to the ground. In a cycle it may begin before the seam and end after it. */
export const StanceSchema = z.strictObject({
  from: z.number().int().min(0).max(clipFrames.most),
  to: z
    .number()
    .int()
    .min(1)
    .max(2 * clipFrames.most),
});
export type Stance = z.infer<typeof StanceSchema>;

const Point = z.tuple([ValueSchema, ValueSchema, ValueSchema]).readonly();

/** A way over the stage that a clip is laid along. */
export const WaySchema = z.strictObject({
  /** What it goes through, on the stage, metres. */
  points: listOf(Point, 200, 2),
  /** How high the ground under it is: metres along the way seen from above, and height. In order. */
  ground: z
    .array(z.tuple([z.number().min(0).max(1e5), ValueSchema]).readonly())
    .min(1)
    .max(4_000),
});
export type Way = z.infer<typeof WaySchema>;

/** How a clip goes about where it meets others: what a span of it begins with, and what goes out with it. */
export const MannerSchema = z.strictObject({
  easeIn: z.number().int().min(0).max(10_000),
  easeOut: z.number().int().min(0).max(10_000),
  shape: z.enum(['soft', 'even']),
  /** Which of two that play at once has its way where both move the same: the higher. */
  rank: z.number().int().min(-100).max(100),
  loop: LoopPartSchema.nullable(),
  /** By how much it turns its body's way while it plays once, radians about +Y. */
  turn: z.number().min(-20).max(20),
  how: z.enum(['instead', 'onTop']),
  controls: listOf(PartIdSchema, 300).nullable(),
  edge: z.number().int().min(0).max(20),
  /** The key of the keyboard that starts and stops it where it is tried; null where it has none. */
  key: z
    .string()
    .regex(/^[a-z0-9]$/, 'is not a letter or a figure')
    .nullable(),
});
export type Manner = z.infer<typeof MannerSchema>;

/** How a clip goes about while nothing is said of it. */
export const plainManner: Manner = {
  easeIn: 0,
  easeOut: 0,
  shape: 'soft',
  rank: 0,
  loop: null,
  turn: 0,
  how: 'instead',
  controls: null,
  edge: 0,
  key: null,
};

/** A clip that may come after another: over how many frames, and by which arrow key. */
const FollowSchema = z.strictObject({
  over: z.number().int().min(0).max(240),
  by: z.enum(['up', 'down', 'left', 'right', 'end']),
});
/** What leads from a clip to one that follows it: an arrow key, or its own end. */
export type Follow = z.infer<typeof FollowSchema>;

/** What a clip keeps while another one of its rig is at work. */
const KeptSchema = z.strictObject({
  curves: recordOf(PathSchema, CurveSchema, 5_000),
  recipes: recordOf(IdSchema, RecipeSchema, 500),
});

/**
 * A named run of keys for one rig. While it is at work its keys are the shot's keys of the rig's controls, so that everything that
 * edits keys edits it; while another is, it keeps them.
 *
 * All its channels are measured from where the body is: they only repeat. How far the body gets is `travel`, one number, and
 * whether it goes there or stays in place is a switch. So plain and travelling channels cannot be mixed up.
 */
export const ClipSchema = z.strictObject({
  id: IdSchema,
  /** The member that is the rig. */
  rig: IdSchema,
  name: NameSchema,
  /** The frame of the shot it begins on. */
  first: z.number().int().min(FRAMES.first).max(FRAMES.last),
  length: z.number().int().min(clipFrames.least).max(clipFrames.most),
  /** It repeats, and the two ends of its seam are one key. */
  cycles: z.boolean(),
  /** How far the body gets in one length, along its own +Z, metres. */
  travel: z.number().min(-1_000).max(1_000),
  /** It goes over the stage; otherwise it stays in place. */
  travelling: z.boolean(),
  /** The second half is the mirror image of the first, or each half is for itself. */
  halves: z.enum(['mirrored', 'free']),
  labels: listOf(LabelSchema, 64),
  /** When each foot is held to the ground, by its control. */
  stances: recordOf(PartIdSchema, listOf(StanceSchema, 16), 64),
  /** The way it is laid along; null is straight ahead. */
  way: WaySchema.nullable(),
  manner: MannerSchema,
  /** Which clips of the rig may come after it, by their ids. */
  follows: recordOf(IdSchema, FollowSchema, 64),
  kept: KeptSchema.nullable(),
});
export type Clip = z.infer<typeof ClipSchema>;
