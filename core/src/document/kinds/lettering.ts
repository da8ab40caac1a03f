import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A letter is four units wide and six high, and one stands apart from the next by one. */
export const LETTER = { wide: 4, high: 6, apart: 1 } as const;

/** How wide a line of letters is, metres. */
export const lineWidth = (text: string, height: number): number =>
  Math.max(1, text.length * (LETTER.wide + LETTER.apart) - LETTER.apart) * (height / LETTER.high);

/** Letters cut of a board, standing on their feet: capitals, figures and points. */
export const lettering = defineKind({
  kind: 'lettering',
  label: 'Lettering',
  shape: z.strictObject({
    text: z
      .string()
      .min(1, 'is empty: a lettering needs a letter')
      .max(60, 'is longer than 60 letters')
      .regex(/^[^\p{Cc}\p{Cs}]*$/u, 'holds a character that cannot be shown')
      .default('FERRY'),
    height: LengthSchema.default(0.3),
    depth: LengthSchema.default(0.04),
    /** How thick its strokes are, as a share of its height. */
    weight: z.number().min(0.02).max(0.3).default(0.14),
  }),
  channels: [],
  colour: '#2b3a4a',
  // Strokes reach beyond the middle of their ends by half their weight.
  bounds: (s) => standing(lineWidth(s.text, s.height) / 2 + (s.weight * s.height) / 2, s.height, s.depth / 2),
});
