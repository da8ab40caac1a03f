import { z } from 'zod';
import { listOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { FRAMES } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';

/** A part that repeats has at least this many frames. */
export const SHORTEST_LOOP = 2;

/** The most points with which a span's time or strength is bent. */
const MOST_POINTS = 200;

const frame = z.number().int().min(FRAMES.first).max(FRAMES.last);

/** A part of a clip that repeats, frames from the clip's beginning: what is before it and after it plays once. */
export const LoopPartSchema = z
  .strictObject({ from: z.number().int().min(0).max(5_000), to: z.number().int().min(1).max(5_000) })
  .refine(({ from, to }) => to - from >= SHORTEST_LOOP, `is shorter than ${SHORTEST_LOOP} frames`);
export type LoopPart = z.infer<typeof LoopPartSchema>;

/** Frames after the span's beginning, in order, none twice. */
const inOrder = (points: readonly { readonly at: number }[]) =>
  points.every((p, i) => i === 0 || p.at > points[i - 1].at);
const after = z.number().min(-100_000).max(100_000);

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
  /** What of the clip repeats for as long as the span lasts; null where it plays as the clip does. */
  loop: LoopPartSchema.nullable(),
  /**
   * Its time, bent: which frame of the clip is played how many frames after the span's beginning, with a smooth curve through. It says what `into`, `speed`
   * and `loop` say otherwise, and may hold and go backwards.
   */
  time: listOf(z.strictObject({ at: after, clip: after }), MOST_POINTS, 2)
    .refine(inOrder, 'is not in order')
    .nullable(),
  /** Frames over which it comes and goes where no neighbour on its track says it. */
  easeIn: z.number().int().min(0).max(10_000),
  easeOut: z.number().int().min(0).max(10_000),
  shape: z.enum(['soft', 'even']),
  /** In place of what lies below, or on top of it the difference to its base. */
  how: z.enum(['instead', 'onTop']),
  /** What a span on top is the difference to: a frame of its own clip (null) or of another one of the rig, counted from that clip's beginning. */
  base: z.strictObject({ clip: IdSchema.nullable(), frame: after }),
  strength: z.number().min(0).max(1),
  /** Shares of its strength along its frames: keys, with the span's own shape between them. Empty where it keeps its strength. */
  levels: listOf(z.strictObject({ at: after, share: z.number().min(0).max(1) }), MOST_POINTS).refine(
    inOrder,
    'is not in order',
  ),
  /** Whether it goes on in step with the span before it on its track, where the two overlap and both repeat. */
  inStep: z.boolean(),
  /** By how much it turns the way of its body while it plays, radians about +Y: the body walks round, and its feet stand where they are put. */
  turn: z.number().min(-20).max(20),
  /** Controls that it moves, by their names in the rig; all of them where it is null. */
  controls: listOf(PartIdSchema, 300).nullable(),
  /** Over how many controls along a chain the part comes to its full strength, from its edge inwards. */
  edge: z.number().int().min(0).max(20),
});
export type ClipSpan = z.infer<typeof ClipSpanSchema>;

/** What a span is while nothing is said of it, beside which clip it plays and when. */
export const plainSpan = {
  into: 0,
  speed: 1,
  loop: null,
  time: null,
  easeIn: 0,
  easeOut: 0,
  shape: 'soft',
  how: 'instead',
  base: { clip: null, frame: 0 },
  strength: 1,
  levels: [],
  inStep: true,
  turn: 0,
  controls: null,
  edge: 0,
} as const satisfies Partial<ClipSpan>;

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
  /** It stands for the rig's own keys, and has no spans: silent, they are not heard; alone, nothing else is. A rig has one at most. */
  own: z.boolean(),
  spans: listOf(ClipSpanSchema, MOST_SPANS),
});
export type ClipTrack = z.infer<typeof ClipTrackSchema>;

/** The frame on which a span is over: the first one that is not its own. */
export const endOf = ({ from, length }: Pick<ClipSpan, 'from' | 'length'>): number => from + length;
