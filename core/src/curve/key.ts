import { z } from 'zod';
import { listOf } from '../schema/bounded.ts';
import { FrameSchema, QuaternionSchema, ValueSchema } from '../schema/numbers.ts';

/** How far tension, continuity and bias may be pushed; the usual range is from -1 to 1. */
export const MOST_TUNED = 5;

/** What a free handle is: how far it reaches from its key. `frames` is never negative, on either side. */
const FreeHandleSchema = z.strictObject({
  kind: z.literal('free'),
  /** Reach in frames, away from the key. */
  frames: z.number().min(0).max(1_000_000),
  /** Rise in the channel's value from the key to the handle's end. */
  rise: ValueSchema,
});

/**
 * A handle said in tension, continuity and bias: it follows the neighbours as `smooth` does, but overshoots where it is told
 * to. All at 0 the curve goes through the key as from the key before straight to the key after.
 */
const TunedHandleSchema = z.strictObject({
  kind: z.literal('tuned'),
  /** 1 is level, 0 as the neighbours lie, -1 twice as steep. */
  tension: z.number().min(-MOST_TUNED).max(MOST_TUNED),
  /** 0 goes through, -1 makes a corner, 1 a corner the other way. */
  continuity: z.number().min(-MOST_TUNED).max(MOST_TUNED),
  /** 1 goes by the way it comes from, -1 by the way it goes to. */
  bias: z.number().min(-MOST_TUNED).max(MOST_TUNED),
});

const bare = <K extends string>(kind: K) => z.strictObject({ kind: z.literal(kind) });

/**
 * What shapes the curve as it arrives at a key:
 * `smooth` takes the slope from the neighbours and never overshoots; `flat` is level; `linear` points at the
 * neighbour; `free` is set by hand; `tuned` is said in tension, continuity and bias.
 */
export const InHandleSchema = z.discriminatedUnion('kind', [
  bare('smooth'),
  bare('flat'),
  bare('linear'),
  FreeHandleSchema,
  TunedHandleSchema,
]);
/** What shapes the curve as it leaves a key: the same, or `stepped`, which holds the value until the next key. */
export const OutHandleSchema = z.discriminatedUnion('kind', [
  bare('smooth'),
  bare('flat'),
  bare('linear'),
  bare('stepped'),
  FreeHandleSchema,
  TunedHandleSchema,
]);

export const KeySchema = z.strictObject({
  frame: FrameSchema,
  value: ValueSchema,
  in: InHandleSchema,
  out: OutHandleSchema,
  /** While joined, the two handles keep one direction. */
  joined: z.boolean(),
  /** A breakdown only steers the way between keys. */
  role: z.enum(['key', 'breakdown']).default('key'),
});

export const OrientationKeySchema = z.strictObject({
  frame: FrameSchema,
  value: QuaternionSchema,
  in: z.discriminatedUnion('kind', [bare('smooth'), bare('flat'), bare('linear')]),
  out: z.discriminatedUnion('kind', [bare('smooth'), bare('flat'), bare('linear'), bare('stepped')]),
  joined: z.boolean(),
  role: z.enum(['key', 'breakdown']).default('key'),
});

/** What a curve does before its first and after its last key. `travel` cycles and adds what a cycle gains. */
export const extensions = ['hold', 'slope', 'cycle', 'travel', 'swing'] as const;
const ExtensionSchema = z.enum(extensions);
export type Extension = z.infer<typeof ExtensionSchema>;

/** Keys of a curve. */
export const MAX_KEYS = 200_000;

/** Frames nearer than this are the same frame: keys come from hands and from arithmetic alike. */
export const SAME_FRAME = 1e-6;

const ordered = (keys: readonly { frame: number }[]) => keys.every((k, i) => i === 0 || k.frame > keys[i - 1].frame);
const ORDERED = 'must be in order of their frames, one key a frame';

/** After how many frames a curve that cycles begins again, where that is not the way from its first to its last key. */
const PeriodSchema = z.number().gt(0).max(1_000_000).optional();

export const NumberCurveSchema = z.strictObject({
  type: z.literal('number'),
  keys: listOf(KeySchema, MAX_KEYS, 1).refine(ordered, ORDERED),
  before: ExtensionSchema.default('hold'),
  after: ExtensionSchema.default('hold'),
  period: PeriodSchema,
});

export const OrientationCurveSchema = z.strictObject({
  type: z.literal('orientation'),
  keys: listOf(OrientationKeySchema, MAX_KEYS, 1).refine(ordered, ORDERED),
  before: ExtensionSchema.default('hold'),
  after: ExtensionSchema.default('hold'),
  period: PeriodSchema,
});

export const CurveSchema = z.discriminatedUnion('type', [NumberCurveSchema, OrientationCurveSchema]);

export type InHandle = z.infer<typeof InHandleSchema>;
export type OutHandle = z.infer<typeof OutHandleSchema>;
export type HandleKind = OutHandle['kind'];
/** The kinds that need no numbers of their own. */
export type PlainKind = Exclude<HandleKind, 'tuned'>;
/** A key's shape in three numbers. */
export type Tuning = Omit<z.infer<typeof TunedHandleSchema>, 'kind'>;
export type Key = z.infer<typeof KeySchema>;
export type OrientationKey = z.infer<typeof OrientationKeySchema>;
export type NumberCurve = z.infer<typeof NumberCurveSchema>;
export type OrientationCurve = z.infer<typeof OrientationCurveSchema>;
export type Curve = z.infer<typeof CurveSchema>;

/** A key as a hand sets it: smooth on both sides, joined. */
export const smoothKey = (frame: number, value: number): Key => ({
  frame,
  value,
  in: { kind: 'smooth' },
  out: { kind: 'smooth' },
  joined: true,
  role: 'key',
});
