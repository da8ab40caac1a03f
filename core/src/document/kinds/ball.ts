import { z } from 'zod';
import { ColourSchema, LengthSchema } from '../../schema/numbers.ts';
import { defineKind } from './kind.ts';

/** A ball about its centre. A band of a second colour round it shows how it rolls. */
export const ball = defineKind({
  kind: 'ball',
  label: 'Ball',
  shape: z.strictObject({
    radius: LengthSchema.default(0.2),
    band: ColourSchema.nullable().default(null),
  }),
  channels: [],
  colour: '#c96a4a',
  bounds: ({ radius: r }) => [-r, -r, -r, r, r, r],
});
