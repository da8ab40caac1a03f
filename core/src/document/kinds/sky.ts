import { z } from 'zod';
import { defineKind } from './kind.ts';

/** The sky over the shot, with the hour of its day: it lights everything. The first one in the cast that is seen counts. */
export const sky = defineKind({
  kind: 'sky',
  label: 'Sky',
  shape: z.strictObject({
    /** Whether there is ground under it, to the horizon. */
    floor: z.enum(['ground', 'none']).default('ground'),
  }),
  channels: [
    { id: 'hour', label: 'hour', unit: '', initial: 14, min: 0, max: 24 },
    { id: 'haze', label: 'haze', unit: '', initial: 0.15, min: 0, max: 1 },
  ],
  colour: '#7fb2e0',
  bounds: () => [0, 0, 0, 0, 0, 0],
});
