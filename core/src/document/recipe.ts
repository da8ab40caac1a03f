import { z } from 'zod';
import { KeySchema } from '../curve/key.ts';
import { listOf, recordOf } from '../schema/bounded.ts';
import { IdSchema } from '../schema/ids.ts';

/** One setting of a recipe. Which there are, and what they may be, is for its kit to say. */
const SettingSchema = z.union([z.number().min(-1e9).max(1e9), z.string().max(80), z.boolean(), z.null()]);

export const recipeLimits = { paths: 200, keys: 20_000, settings: 80 } as const;

/**
 * What a kit has written, and how: its settings, so that they can be changed, and the keys, so that those a hand has touched
 * since can be told from those nobody has.
 */
export const RecipeSchema = z.strictObject({
  id: IdSchema,
  kit: z.string().regex(/^[a-z][a-zA-Z]{1,30}$/, 'is not the name of a kit'),
  member: IdSchema,
  settings: recordOf(z.string().max(40), SettingSchema, recipeLimits.settings),
  /** The keys as they were written, by channel path. */
  written: recordOf(z.string().max(101), listOf(KeySchema, recipeLimits.keys), recipeLimits.paths),
});
export type Recipe = z.infer<typeof RecipeSchema>;
export type RecipeSettings = Recipe['settings'];
