import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A flat ground, seen from both sides. */
export const plane = defineKind({
  kind: 'plane',
  label: 'Plane',
  shape: z.strictObject({ width: LengthSchema.default(4), depth: LengthSchema.default(4) }),
  channels: [],
  colour: '#d8cdb8',
  bounds: (s) => standing(s.width / 2, 0, s.depth / 2),
});
