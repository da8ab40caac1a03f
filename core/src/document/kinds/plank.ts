import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A board that lies on its flat side, along X: bowed up in its middle, or with its ends up where `bow` is below 0. */
export const plank = defineKind({
  kind: 'plank',
  label: 'Plank',
  shape: z.strictObject({
    length: LengthSchema.default(2),
    width: LengthSchema.default(0.22),
    thickness: LengthSchema.default(0.035),
    bow: z.number().min(-100).max(100).default(0),
    rounding: z.number().min(0).max(1_000).default(0.004),
  }),
  channels: [],
  colour: '#b08a5b',
  bounds: (s) => standing(s.length / 2, s.thickness + Math.abs(s.bow), s.width / 2),
});
