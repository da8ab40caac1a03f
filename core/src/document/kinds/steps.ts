import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind, standing } from './kind.ts';

/** A flight of steps that stands on its base and goes down towards +X. The top step is `count` rises high. */
export const steps = defineKind({
  kind: 'steps',
  label: 'Steps',
  shape: z.strictObject({
    count: z.number().int().min(1).max(200).default(4),
    tread: LengthSchema.default(0.5),
    rise: LengthSchema.default(0.25),
    depth: LengthSchema.default(1.6),
  }),
  channels: [],
  colour: '#a9a193',
  bounds: (s) => standing((s.count * s.tread) / 2, s.count * s.rise, s.depth / 2),
});
