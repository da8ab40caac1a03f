import { z } from 'zod';
import { IdSchema } from '../../schema/ids.ts';
import { defineKind } from './kind.ts';

/** A camera: looks along its own -Z, with +Y up. */
export const camera = defineKind({
  kind: 'camera',
  label: 'Camera',
  shape: z.strictObject({
    /** Who of the cast is kept sharp, however far away; nobody where it is null or not there: then `focus` says what is sharp. */
    follow: IdSchema.nullable().default(null),
  }),
  channels: [
    { id: 'view', label: 'view angle', unit: '°', initial: (35 * Math.PI) / 180, min: 0.02, max: 2.6 },
    { id: 'focus', label: 'focus', unit: 'm', initial: 4, min: 0.01, max: 10_000 },
    /** How wide it is open, as an f-number; at 0 all is sharp. */
    { id: 'aperture', label: 'aperture', unit: '', initial: 0, min: 0, max: 64 },
  ],
  colour: '#2f5da8',
  bounds: () => [-0.12, -0.12, -0.2, 0.12, 0.12, 0.2],
});
