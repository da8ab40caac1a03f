import { z } from 'zod';
import { rotationOrders } from '../pose/rotation-order.ts';
import type { Rigs } from '../rig/rigs.ts';
import { listOf, recordOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { QuaternionSchema, ValueSchema } from '../schema/numbers.ts';
import { ChannelIdSchema } from '../schema/path.ts';
import { DeformerSchema, MOST_DEFORMERS } from './deformer.ts';
import { HoldSchema, MOST_HOLDS } from './hold.ts';
import { type Bounds, type KindName, kinds } from './kinds/index.ts';
import { MaterialSchema } from './material.ts';

/** A channel an animator added to a member. Its id stays when its name changes. */
export const CustomChannelSchema = z.strictObject({
  id: IdSchema,
  name: NameSchema,
  initial: ValueSchema.default(0),
});
export type CustomChannel = z.infer<typeof CustomChannelSchema>;

const common = {
  id: IdSchema,
  name: NameSchema,
  /** Whose space it lives in; `null` is the stage. */
  parent: IdSchema.nullable(),
  /** Its place among its siblings: lower comes first. */
  rank: z.number(),
  /** A locked member cannot be picked or changed in the stage. */
  locked: z.boolean().default(false),
  /** Three angles in a chosen order, or one orientation that takes the shortest way. */
  rotation: z.enum(['angles', 'orientation']).default('angles'),
  order: z.enum(rotationOrders).default('zxy'),
  /** Values of channels that differ from their initial value and have no curve. */
  values: recordOf(ChannelIdSchema, ValueSchema, 1_000).default({}),
  /** The constant orientation, used while `rotation` is `orientation` and it has no curve. */
  orientation: QuaternionSchema.default([0, 0, 0, 1]),
  /** The channels that "key every channel" means for this member, where the animator has chosen them. */
  keyed: listOf(z.string().max(60), 200).optional(),
  custom: listOf(CustomChannelSchema, 64).default([]),
  /** What bends its form out of shape, the first one first. */
  deformers: listOf(DeformerSchema, MOST_DEFORMERS).default([]),
  /** What its form is made of; paint where there is none. */
  material: MaterialSchema.optional(),
  /** Who carries it from which frame on, instead of its parent; by frame. */
  holds: listOf(HoldSchema, MOST_HOLDS).default([]),
};

const memberOf = <Name extends string, Shape extends z.ZodType>(kind: { kind: Name; shape: Shape }) =>
  z.strictObject({ ...common, kind: z.literal(kind.kind), shape: kind.shape });

export const MemberSchema = z.discriminatedUnion('kind', [
  memberOf(kinds.ball),
  memberOf(kinds.box),
  memberOf(kinds.cylinder),
  memberOf(kinds.cone),
  memberOf(kinds.capsule),
  memberOf(kinds.tube),
  memberOf(kinds.ring),
  memberOf(kinds.arch),
  memberOf(kinds.plank),
  memberOf(kinds.rope),
  memberOf(kinds.lettering),
  memberOf(kinds.wedge),
  memberOf(kinds.steps),
  memberOf(kinds.plane),
  memberOf(kinds.block),
  memberOf(kinds.piece),
  memberOf(kinds.group),
  memberOf(kinds.camera),
  memberOf(kinds.light),
  memberOf(kinds.sky),
  memberOf(kinds.rig),
  memberOf(kinds.control),
]);

/** One of the cast: something that stands in the shot and can be animated. */
export type Member = z.infer<typeof MemberSchema>;

/** The form of a member of kind `K`. */
export type ShapeOf<K extends KindName> = Extract<Member, { kind: K }>['shape'];

/** The box around a member's form in its own space. */
export function boundsOf(member: Member, rigs: Rigs): Bounds {
  const bounds = kinds[member.kind].bounds as (shape: unknown, rigs: Rigs) => Bounds;
  return bounds(member.shape, rigs);
}
