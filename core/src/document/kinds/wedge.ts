import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A ramp that stands on its base and rises towards -X. */
export const wedge = defineKind({
  kind: 'wedge',
  label: 'Wedge',
  shape: z.strictObject({
    width: LengthSchema.default(1),
    height: LengthSchema.default(0.5),
    depth: LengthSchema.default(0.8),
  }),
  channels: [],
  colour: '#a89880',
  bounds: (s) => standing(s.width / 2, s.height, s.depth / 2),
});
