import { z } from 'zod';
import { deformers } from '../deform/kinds.ts';
import { NameSchema } from '../schema/ids.ts';

/** Short, and of letters and digits alone: it is part of the ids of the channels. */
const DeformerIdSchema = z.string().regex(/^[a-z0-9]{1,12}$/, 'is not an id of a deformer');

const deformerOf = <Name extends string, Settings extends z.ZodType>(d: { kind: Name; settings: Settings }) =>
  z.strictObject({ id: DeformerIdSchema, name: NameSchema, kind: z.literal(d.kind), settings: d.settings });

/** One deformer of a member's stack. Its channels are called `deform.id.channel`. */
export const DeformerSchema = z.discriminatedUnion('kind', [
  deformerOf(deformers.squash),
  deformerOf(deformers.bend),
  deformerOf(deformers.twist),
  deformerOf(deformers.taper),
]);
export type MemberDeformer = z.infer<typeof DeformerSchema>;

/** The most deformers a member can have. */
export const MOST_DEFORMERS = 16;

/** The id of one of a deformer's channels. */
export const deformChannel = (deformer: string, channel: string): string => `deform.${deformer}.${channel}`;
