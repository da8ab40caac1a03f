import { z } from 'zod';
import { listOf } from './bounded.ts';
import { ValueSchema } from './numbers.ts';

/** How a formula calls one of its inputs: letters and digits, a letter first. */
export const InputNameSchema = z
  .string()
  .regex(/^[a-zA-Z][a-zA-Z0-9_]{0,23}$/, 'must be up to 24 letters and digits, a letter first');

export const formulaLimits = { text: 2_000, inputs: 24 } as const;

/**
 * A channel computed from time and other channels. Inputs are known by their paths, so nobody's new name breaks them; what
 * they are called here is the formula's own affair.
 */
export const FormulaSchema = z.strictObject({
  text: z.string().min(1).max(formulaLimits.text),
  inputs: listOf(z.strictObject({ name: InputNameSchema, path: z.string().max(101) }), formulaLimits.inputs),
  /** Instead of the channel's keys, or added to them. */
  mode: z.enum(['instead', 'add']).default('instead'),
});
export type Formula = z.infer<typeof FormulaSchema>;

/** The largest value a formula may give; what is beyond is cut, and what is no number leaves the channel as it was. */
export const FormulaValueSchema = ValueSchema;
