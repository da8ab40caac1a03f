import { z } from 'zod';
import { defineKind } from './kind.ts';

/** A camera: looks along its own -Z, with +Y up. */
export const camera = defineKind({
  kind: 'camera',
  label: 'Camera',
  shape: z.strictObject({}),
  channels: [{ id: 'view', label: 'view angle', unit: '°', initial: (35 * Math.PI) / 180, min: 0.02, max: 2.6 }],
  colour: '#2f5da8',
  bounds: () => [-0.12, -0.12, -0.2, 0.12, 0.12, 0.2],
});
