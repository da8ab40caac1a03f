import { z } from 'zod';
import { recordOf } from '../../schema/bounded.ts';
import { ColourSchema, LengthSchema } from '../../schema/numbers.ts';
import { defineKind } from './kind.ts';

/** The most squares a picture has along one side. */
const MOST_SQUARES = 64;

/**
 * A cube about its centre whose front face carries a picture of coloured squares: rows from the top, a letter a square, and
 * for each letter its paint. A letter without paint lets the wood show.
 */
export const block = defineKind({
  kind: 'block',
  label: 'Picture block',
  shape: z.strictObject({
    size: LengthSchema.default(0.3),
    picture: z
      .array(z.string().min(1).max(MOST_SQUARES))
      .max(MOST_SQUARES)
      .refine((rows) => rows.every((row) => row.length === rows[0].length), 'must have rows of one length')
      .default(['bo', 'ob']),
    paints: recordOf(z.string().length(1), ColourSchema, 64).default({ b: '#2f5da8', o: '#b97b12' }),
  }),
  channels: [],
  colour: '#b08a5b',
  bounds: ({ size }) => [-size / 2, -size / 2, -size / 2, size / 2, size / 2, size / 2],
});
