import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A cone that stands on its base. */
export const cone = defineKind({
  kind: 'cone',
  label: 'Cone',
  shape: z.strictObject({ radius: LengthSchema.default(0.25), height: LengthSchema.default(0.6) }),
  channels: [],
  colour: '#b5734f',
  bounds: (s) => standing(s.radius, s.height, s.radius),
});
