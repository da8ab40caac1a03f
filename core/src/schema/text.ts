import { z } from 'zod';

/** Words as people write them, over several lines: any script, nothing that cannot be shown. */
export const textOf = (most: number) =>
  z
    .string()
    .max(most, `is longer than ${most} characters`)
    .regex(/^(?:[^\p{Cc}\p{Cs}]|[\n\t])*$/u, 'holds a character that cannot be shown');

/** When something was made, as the clock of whoever made it said (ISO 8601, in UTC). */
export const MomentSchema = z.iso.datetime();
