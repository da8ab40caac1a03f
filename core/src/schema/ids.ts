import { customAlphabet } from 'nanoid';
import { z } from 'zod';

/** Ids start with a letter or digit, so that no id can ever be a name the language itself uses (`__proto__`). */
export const IdSchema = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9-]{0,39}$/, 'is not an id');

/** Versions of a rig are counted from 1. */
export const RigVersionSchema = z.number().int().min(1).max(100_000);

/** An id that is stable for life; names are free and may change, ids never do. */
export type Id = z.infer<typeof IdSchema>;

/** A new random id of 12 letters and digits (62 bits: a clash within one production is out of the question). */
export const newId: () => Id = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);

/** Marks that turn the direction of all that follows, and break a line. */
const TURNING = /[\u202a-\u202e\u2066-\u2069\u2028\u2029]/g;

/** A name as people type it: any script, nothing that cannot be shown, 1 to 80 characters, no blank ends. */
export const NameSchema = z
  .string()
  // They come with what is pasted, and are left out of it.
  .overwrite((name) => name.replace(TURNING, ''))
  .trim()
  .min(1, 'is empty: give it a name')
  .max(80, 'is longer than 80 characters')
  .regex(/^[^\p{Cc}\p{Cs}]*$/u, 'holds a character that cannot be shown');
