import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A box that stands on its base. */
export const box = defineKind({
  kind: 'box',
  label: 'Box',
  shape: z.strictObject({
    width: LengthSchema.default(0.5),
    height: LengthSchema.default(0.5),
    depth: LengthSchema.default(0.5),
  }),
  channels: [],
  colour: '#b08a5b',
  bounds: (s) => standing(s.width / 2, s.height, s.depth / 2),
});
