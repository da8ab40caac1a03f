import { z } from 'zod';
import { listOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { FRAMES } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';

const frame = z.number().int().min(FRAMES.first).max(FRAMES.last);

/** A clip as it is laid on a track: from when to when, from where in it, how fast, and how it comes and goes. */
export const ClipSpanSchema = z.strictObject({
  id: IdSchema,
  clip: IdSchema,
  /** The frame of the shot it begins on, and how many frames it plays there. */
  from: frame,
  length: z.number().int().min(1).max(100_000),
  /** The frame of the clip it begins with, counted from the clip's own beginning. */
  into: z.number().min(-100_000).max(100_000),
  /** Frames of the clip to a frame of the shot. */
  speed: z.number().min(0.05).max(20),
  /** Frames over which it comes and goes where no neighbour on its track says it. */
  easeIn: z.number().int().min(0).max(10_000),
  easeOut: z.number().int().min(0).max(10_000),
  shape: z.enum(['soft', 'even']),
  /** In place of what lies below, or the difference to the clip's own first frame on top of it. */
  how: z.enum(['instead', 'onTop']),
  strength: z.number().min(0).max(1),
  /** Whether it goes on in step with the span before it on its track, where the two overlap and both repeat. */
  inStep: z.boolean(),
  /** Controls that it moves, by their names in the rig; all of them where it is null. */
  controls: listOf(PartIdSchema, 300).nullable(),
});
export type ClipSpan = z.infer<typeof ClipSpanSchema>;

/** The most spans of one track. */
export const MOST_SPANS = 500;

/** A track of a rig: clips one after another. Of several the one with the higher rank lies over the other. */
export const ClipTrackSchema = z.strictObject({
  id: IdSchema,
  /** The member that is the rig. */
  rig: IdSchema,
  name: NameSchema,
  rank: z.number().min(-1e9).max(1e9),
  muted: z.boolean(),
  /** Where any track of the rig is alone, those that are not are silent. */
  alone: z.boolean(),
  locked: z.boolean(),
  spans: listOf(ClipSpanSchema, MOST_SPANS),
});
export type ClipTrack = z.infer<typeof ClipTrackSchema>;

/** The frame on which a span is over: the first one that is not its own. */
export const endOf = ({ from, length }: Pick<ClipSpan, 'from' | 'length'>): number => from + length;
