import { z } from 'zod';
import { LengthSchema } from '../../schema/numbers.ts';
import { defineKind } from './kind.ts';

/** A ring that lies about its middle: `radius` to the middle of its round bar, `thickness` half of that bar. */
export const ring = defineKind({
  kind: 'ring',
  label: 'Ring',
  shape: z.strictObject({ radius: LengthSchema.default(0.3), thickness: LengthSchema.default(0.06) }),
  channels: [],
  colour: '#c4653f',
  bounds: ({ radius: r, thickness: t }) => [-r - t, -t, -r - t, r + t, t, r + t],
});
