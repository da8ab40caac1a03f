import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A bar with round ends that stands on one; at least as high as it is wide. */
export const capsule = defineKind({
  kind: 'capsule',
  label: 'Capsule',
  shape: z.strictObject({ radius: LengthSchema.default(0.15), height: LengthSchema.default(0.6) }),
  channels: [],
  colour: '#9a7f9c',
  bounds: (s) => standing(s.radius, Math.max(s.height, 2 * s.radius), s.radius),
});
