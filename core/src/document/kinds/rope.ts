import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { type Bounds, defineKind } from './kind.ts';

/** A rope that hangs from its left end to its right one: `span` apart, the right one lower by `drop`, and `sag` under the straight way. */
export const rope = defineKind({
  kind: 'rope',
  label: 'Rope',
  shape: z.strictObject({
    span: LengthSchema.default(2),
    drop: z.number().min(-1_000).max(1_000).default(0),
    sag: z.number().min(0).max(1_000).default(0.4),
    /** Half of how thick it is. */
    thickness: LengthSchema.default(0.025),
  }),
  channels: [],
  colour: '#c2a16b',
  bounds({ span, drop, sag, thickness: r }): Bounds {
    // The lowest place of −drop·t − 4·sag·t·(1 − t).
    const t = sag > 0 ? Math.min(1, Math.max(0, (drop + 4 * sag) / (8 * sag))) : drop > 0 ? 1 : 0;
    const low = Math.min(0, -drop, -drop * t - 4 * sag * t * (1 - t));
    return [-span / 2 - r, low - r, -r, span / 2 + r, Math.max(0, -drop) + r, r];
  },
});
