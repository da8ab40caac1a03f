import { z } from 'zod';
import { listOf, recordOf } from '../schema/bounded.ts';
import { NameSchema } from '../schema/ids.ts';
import { ValueSchema } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';

/**
 * What a rig was built of: which of its joints are a leg, a tail, a trunk. Its controls follow from that, and are made anew where it is built
 * on. A rig that came from elsewhere has none.
 */

const Chain = (least: number, most: number) => listOf(PartIdSchema, most, least);

/** A word that tells legs from legs: fore, hind. */
const Which = z.string().regex(/^[a-z]{0,12}$/, 'is not one small word');

export const RigPartSchema = z.discriminatedUnion('kind', [
  /** From the hips to the chest. */
  z.strictObject({ kind: z.literal('trunk'), joints: Chain(1, 40) }),
  /** From the first joint of the neck to the head. */
  z.strictObject({ kind: z.literal('head'), joints: Chain(1, 20) }),
  /** Thigh, shin, ankle; and what the foot rolls over, where it has it. */
  z.strictObject({ kind: z.literal('leg'), which: Which, joints: Chain(3, 4) }),
  /** Upper arm, forearm, hand. */
  z.strictObject({ kind: z.literal('arm'), which: Which, joints: Chain(3, 3) }),
  /** Any chain that two controls bend, at its root and at its tip. */
  z.strictObject({ kind: z.literal('tail'), joints: Chain(1, 40) }),
  /** Joints that look at something. */
  z.strictObject({ kind: z.literal('look'), joints: Chain(1, 8) }),
  /** A joint that a dial turns: a jaw, a lid. */
  z.strictObject({
    kind: z.literal('dial'),
    joints: Chain(1, 1),
    label: NameSchema,
    axis: z.enum(['x', 'y', 'z']),
    /** How far it is turned where the dial stands at one, degrees. */
    degrees: z.number().min(-360).max(360),
  }),
]);
export type RigPart = z.infer<typeof RigPartSchema>;

const Limit = z.strictObject({ min: ValueSchema.optional(), max: ValueSchema.optional() });

export const RigPlanSchema = z.strictObject({
  /** Of each joint what it is called, which axes it turns about, and how far (radians, by `turn.x`). */
  joints: recordOf(
    PartIdSchema,
    z.strictObject({
      name: NameSchema,
      turn: z.string().regex(/^x?y?z?$/, 'names axes: x, y and z'),
      limits: recordOf(z.string().regex(/^turn\.[xyz]$/, 'is not turn.x, turn.y or turn.z'), Limit, 3),
    }),
    400,
  ),
  parts: listOf(RigPartSchema, 80),
});
export type RigPlan = z.infer<typeof RigPlanSchema>;
