import { z } from 'zod';
import { NameSchema } from '../schema/ids.ts';
import { MediaHashSchema } from '../schema/media-hash.ts';
import { ColourSchema } from '../schema/numbers.ts';

/** The patterns that are made by code, at any size. */
export const patternNames = [
  'planks',
  'parquet',
  'brick',
  'tile',
  'paper',
  'felt',
  'rust',
  'water',
  'stripes',
  'checks',
] as const;
export type PatternName = (typeof patternNames)[number];

/** How many metres one repeat of a pattern or one picture takes. */
export const coverScale = { least: 0.01, most: 100 } as const;
const ScaleSchema = z.number().min(coverScale.least).max(coverScale.most);

/**
 * What lies on a form: it is projected from three sides, so that nobody unwraps anything. A pattern goes from the member's own colour to
 * a second one; a picture is multiplied with the member's colour.
 */
const CoverSchema = z.discriminatedUnion('is', [
  z.strictObject({
    is: z.literal('pattern'),
    pattern: z.enum(patternNames),
    second: ColourSchema,
    scale: ScaleSchema,
    /** How uneven it is, from 0 (drawn with a ruler) to 1. */
    grain: z.number().min(0).max(1),
  }),
  z.strictObject({
    is: z.literal('picture'),
    media: MediaHashSchema,
    /** How wide it lies, in metres. */
    scale: ScaleSchema,
    /** How many times as high as wide it is. */
    aspect: z.number().min(0.01).max(100),
  }),
]);
export type Cover = z.infer<typeof CoverSchema>;

/** What a form is made of. Whoever has one has the channels of a surface as well. */
export const MaterialSchema = z.strictObject({ name: NameSchema, cover: CoverSchema.nullable() });
export type Material = z.infer<typeof MaterialSchema>;

/** The channels of a surface. Without a material a form is dull paint. */
export const surfaceChannels = [
  { id: 'surface.roughness', label: 'roughness', initial: 0.82, min: 0, max: 1 },
  { id: 'surface.metal', label: 'metal', initial: 0, min: 0, max: 1 },
  { id: 'surface.glow', label: 'glow', initial: 0, min: 0, max: 20 },
  { id: 'surface.clear', label: 'clear', initial: 0, min: 0, max: 1 },
] as const;
