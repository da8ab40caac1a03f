import { z } from 'zod';
import { listOf, recordOf } from '../schema/bounded.ts';
import { NameSchema } from '../schema/ids.ts';
import { QuaternionSchema, ValueSchema } from '../schema/numbers.ts';

/** The name of a rig's channel in a pose: `handL.move.x`. */
const PoseChannel = z
  .string()
  .regex(/^[a-zA-Z][a-zA-Z0-9]{0,27}\.[a-zA-Z][A-Za-z0-9.]{0,40}$/, 'is not a channel of a rig');

/** What the channels of a rig hold in a pose: numbers in metres and radians, or orientations. Channels not named are left alone. */
export const PoseValuesSchema = recordOf(PoseChannel, z.union([ValueSchema, QuaternionSchema]), 5_000);
export type PoseValues = z.infer<typeof PoseValuesSchema>;

/** A pose as it is put into a rig's pose book. */
export const NewPoseSchema = z.strictObject({
  name: NameSchema,
  tags: listOf(NameSchema, 20).default([]),
  values: PoseValuesSchema,
});
export type NewPose = z.infer<typeof NewPoseSchema>;

/** A pose of a rig's pose book. It belongs to the rig, whatever its version, and is there in every shot that links it. */
export const BookedPoseSchema = NewPoseSchema.extend({ id: z.string(), madeAt: z.string() });
export type BookedPose = z.infer<typeof BookedPoseSchema>;
