import { z } from 'zod';
import { IdSchema } from '../../schema/ids.ts';
import { FRAMES } from '../../schema/numbers.ts';

const frame = z.number().int().min(FRAMES.first).max(FRAMES.last);

/**
 * How keys are laid: one at every frame, straight between; or as few as are needed within a tolerance, bent by tangents or straight
 * between.
 */
export const layings = ['every', 'bent', 'straight'] as const;

/**
 * What becomes of a rig's travel: its node carries it, a joint of its own between node and skeleton does, or nobody does and the
 * rig stays in place.
 */
export const travels = ['node', 'joint', 'none'] as const;

/** What is handed on of a shot, and how. */
export const ChoicesSchema = z.strictObject({
  /** The shot as one motion over these frames, both included; null for none of it. */
  frames: z.strictObject({ first: frame, last: frame }).nullable(),
  /** The clips that become motions of their own. */
  clips: z.array(IdSchema).max(500),
  /** Those of the cast who go along, with all that belongs to them; null is everybody. */
  members: z.array(IdSchema).max(5_000).nullable(),
  keys: z.enum(layings),
  /** Frames a second where there is a key at every frame. */
  rate: z.number().min(1).max(240),
  /** How far the motion may be from what it was, where keys are as few as needed. */
  tolerance: z.strictObject({
    millimetres: z.number().min(0.001).max(100),
    degrees: z.number().min(0.0001).max(10),
  }),
  travel: z.enum(travels),
  /** All joints, or only those that something hangs on. */
  joints: z.enum(['all', 'deforming']),
  /** Names as every receiver takes them, or as they are. */
  plainNames: z.boolean(),
  /** Which way is up where it goes to, and how many of its units a metre is. */
  up: z.enum(['y', 'z']),
  scale: z.number().min(1e-4).max(1e4),
});
export type Choices = z.infer<typeof ChoicesSchema>;

/** What is taken where nobody says: everything, as exact as the eye can ask. */
export const usualChoices: Omit<Choices, 'frames' | 'clips' | 'rate'> = {
  members: null,
  keys: 'bent',
  tolerance: { millimetres: 0.05, degrees: 0.005 },
  travel: 'node',
  joints: 'all',
  plainNames: true,
  up: 'y',
  scale: 1,
};
