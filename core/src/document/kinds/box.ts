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
    /** How round its edges are; 0 is as sharp as things are. */
    rounding: z.number().min(0).max(10_000).default(0),
  }),
  channels: [],
  colour: '#b08a5b',
  bounds: (s) => standing(s.width / 2, s.height, s.depth / 2),
});
