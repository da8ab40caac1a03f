import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A cylinder that stands on its base. */
export const cylinder = defineKind({
  kind: 'cylinder',
  label: 'Cylinder',
  shape: z.strictObject({ radius: LengthSchema.default(0.2), height: LengthSchema.default(0.5) }),
  channels: [],
  colour: '#8d9a7b',
  bounds: (s) => standing(s.radius, s.height, s.radius),
});
