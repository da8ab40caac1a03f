import { z } from 'zod';
import { CurveSchema } from '../curve/key.ts';
import { FormulaSchema } from '../schema/formula.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { ValueSchema } from '../schema/numbers.ts';
import { PartIdSchema } from '../schema/part-id.ts';

/** What an animator had made for a channel that a newer version of the rig no longer has: kept until it is wanted or dropped. */
export const AsideSchema = z.strictObject({
  id: IdSchema,
  /** The member that is the rig. */
  rig: IdSchema,
  control: PartIdSchema,
  channel: z.string().max(60),
  /** What people called it: `cap · tilt`. */
  name: NameSchema,
  /** The version of the rig it was made for. */
  version: z.number().int().min(1),
  value: ValueSchema.nullable(),
  curve: CurveSchema.nullable(),
  formula: FormulaSchema.nullable(),
});
export type Aside = z.infer<typeof AsideSchema>;
