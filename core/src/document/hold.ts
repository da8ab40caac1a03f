import { z } from 'zod';
import { IdSchema } from '../schema/ids.ts';
import { FrameSchema, ValueSchema } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';

/** The most changes of carrier a member can have. */
export const MOST_HOLDS = 200;

/**
 * A change of who carries a member. From its frame on the member goes with its new carrier as it stood to it at that frame, so
 * that nothing jumps, whatever is changed before or after; but what is planted stays where it was planted. Its channels go on meaning what they meant: a move from where the
 * space it lives in was then.
 */
export const HoldSchema = z.strictObject({
  frame: FrameSchema,
  by: z.discriminatedUnion('is', [
    /** Its parent again, or for a control what its rig says. */
    z.strictObject({ is: z.literal('own') }),
    /**
     * Nobody: its space stands on the stage where it was told to, a matrix of three rows and four columns, column by column. A
     * control that stands so is planted, and stays when the body before or after is posed anew.
     */
    z.strictObject({ is: z.literal('stage'), at: z.array(ValueSchema).length(12) }),
    /** Another member, or a joint of a rig. */
    z.strictObject({ is: z.literal('member'), member: IdSchema, joint: PartIdSchema.nullable().default(null) }),
  ]),
});
export type Hold = z.infer<typeof HoldSchema>;
