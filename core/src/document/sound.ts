import { z } from 'zod';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { FrameSchema } from '../schema/numbers.ts';

/** The sounds that come with Varrup. */
export const soundNames = ['thud', 'knock', 'creak', 'splash'] as const;
export type SoundName = (typeof soundNames)[number];

/** A sound placed at a frame. */
export const PlacedSoundSchema = z.strictObject({
  id: IdSchema,
  name: NameSchema,
  sound: z.enum(soundNames),
  /** The frame it begins on. */
  frame: FrameSchema,
  /** How loud: 1 is as it was made. */
  gain: z.number().min(0).max(4).default(1),
});
export type PlacedSound = z.infer<typeof PlacedSoundSchema>;
