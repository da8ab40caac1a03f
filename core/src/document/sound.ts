import { z } from 'zod';
import { listOf } from '../schema/bounded.ts';
import { IdSchema, NameSchema } from '../schema/ids.ts';
import { MediaHashSchema } from '../schema/media-hash.ts';
import { FrameSchema } from '../schema/numbers.ts';

/** The sounds that come with Varrup. */
export const soundNames = ['thud', 'knock', 'creak', 'splash'] as const;
export type SoundName = (typeof soundNames)[number];

/** A sound that was brought in: which, and how long it is. */
const RecordingSchema = z.strictObject({ media: MediaHashSchema, seconds: z.number().positive().max(7_200) });
export type Recording = z.infer<typeof RecordingSchema>;

/** What is heard: a sound that comes with Varrup, or one that was brought in. */
const SoundSourceSchema = z.union([z.enum(soundNames), RecordingSchema]);
export type SoundSource = z.infer<typeof SoundSourceSchema>;

const SecondsSchema = z.number().min(0).max(7_200);

/** A sound placed at a frame. */
export const PlacedSoundSchema = z.strictObject({
  id: IdSchema,
  name: NameSchema,
  sound: SoundSourceSchema,
  /** The frame it begins on. */
  frame: FrameSchema,
  /** How loud: 1 is as it was made. */
  gain: z.number().min(0).max(4).default(1),
  /** The part of it that is heard, in seconds of it; all of it without. */
  part: z.strictObject({ from: SecondsSchema, until: SecondsSchema }).optional(),
  /** Seconds it takes to come, and to go. */
  fade: z.strictObject({ in: SecondsSchema, out: SecondsSchema }).optional(),
  /** Its beats, in seconds of it, in order. */
  beats: listOf(SecondsSchema, 10_000).optional(),
});
export type PlacedSound = z.infer<typeof PlacedSoundSchema>;

/** The part of a sound that is heard, in seconds of it. @param whole how long all of it is */
export function heardPart({ part }: Pick<PlacedSound, 'part'>, whole: number): { from: number; until: number } {
  const from = Math.min(part?.from ?? 0, whole);
  return { from, until: Math.max(from, Math.min(part?.until ?? whole, whole)) };
}
