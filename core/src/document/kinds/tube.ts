import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A tube that stands on its end, open at both; no thicker than it is wide. */
export const tube = defineKind({
  kind: 'tube',
  label: 'Tube',
  shape: z.strictObject({
    radius: LengthSchema.default(0.2),
    wall: LengthSchema.default(0.03),
    height: LengthSchema.default(0.6),
  }),
  channels: [],
  colour: '#8b8f96',
  bounds: (s) => standing(s.radius, s.height, s.radius),
});
