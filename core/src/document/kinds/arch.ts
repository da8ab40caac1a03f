import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A round arch that stands on two feet: as wide as told outside, its bend half a circle; at least half as high as wide. */
export const arch = defineKind({
  kind: 'arch',
  label: 'Arch',
  shape: z.strictObject({
    width: LengthSchema.default(1.2),
    height: LengthSchema.default(1.4),
    depth: LengthSchema.default(0.3),
    wall: LengthSchema.default(0.2),
  }),
  channels: [],
  colour: '#b3a48c',
  bounds: (s) => standing(s.width / 2, Math.max(s.height, s.width / 2), s.depth / 2),
});
