import { z } from 'zod';
import { IdSchema } from '../schema/ids.ts';

/** What one draws with. A soft rubber takes away what is under it; a tone lies even, however often it is gone over. */
export const drawingTools = ['pencil', 'rubber', 'tone'] as const;
export type DrawingTool = (typeof drawingTools)[number];

export const strokeTints = ['graphite', 'blue', 'vermilion', 'ochre', 'moss', 'teal', 'plum'] as const;
export type StrokeTint = (typeof strokeTints)[number];

/** Sheets of a drawing, one over another; the first lies undermost. */
export const DRAWING_SHEETS = 3;

/** A line that was drawn, on a panel or for a note. */
export const StrokeSchema = z.strictObject({
  id: IdSchema,
  /** The panel or the note it was drawn on. */
  on: IdSchema,
  sheet: z
    .number()
    .int()
    .min(0)
    .max(DRAWING_SHEETS - 1),
  /** Drawn after those with less. */
  place: z.number().min(0).max(1e15),
  tool: z.enum(drawingTools),
  tint: z.enum(strokeTints),
  /** How wide it is at full pressure, in widths of the picture. */
  wide: z.number().min(0.0005).max(0.3),
  /** Where it goes, packed: see `packPoints`. */
  points: z
    .string()
    .max(24_000, 'is too long a line')
    .regex(/^-?\d{1,6}( -?\d{1,6})*$/, 'are no points of a line'),
});
export type Stroke = z.infer<typeof StrokeSchema>;
