import { z } from 'zod';
import { listOf, recordOf } from '../schema/bounded.ts';
import { IdSchema } from '../schema/ids.ts';
import { FrameSchema } from '../schema/numbers.ts';

const CheckIdSchema = z.string().regex(/^[a-z][a-zA-Z]{1,30}$/, 'is not the name of a check');

/** A finding that is to be left alone: which check, of whom, around which frame. */
export const IgnoredSchema = z.strictObject({
  check: CheckIdSchema,
  member: IdSchema,
  /** Null for findings that belong to no frame. */
  frame: FrameSchema.nullable(),
});
export type Ignored = z.infer<typeof IgnoredSchema>;

/** How this shot is checked, where it differs from how every shot is. */
export const WatchSchema = z.strictObject({
  /** Tolerances by check, in the check's unit. */
  tolerances: recordOf(CheckIdSchema, z.number().min(0).max(1e6), 500),
  ignored: listOf(IgnoredSchema, 5_000),
});
export type Watch = z.infer<typeof WatchSchema>;
