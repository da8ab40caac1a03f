import { z } from 'zod';
import { defineKind } from './kind.ts';

/** A small lamp in its own colour, that shines all round, or along its own -Z in a cone. */
export const light = defineKind({
  kind: 'light',
  label: 'Light',
  shape: z.strictObject({
    beam: z.enum(['round', 'cone']).default('round'),
    /** How wide its cone is from its middle to its edge, degrees; and how much of that fades, from 0 to 1. */
    spread: z.number().min(1).max(85).default(30),
    soft: z.number().min(0).max(1).default(0.3),
  }),
  channels: [{ id: 'brightness', label: 'brightness', unit: '', initial: 6, min: 0, max: 1000 }],
  colour: '#ffd9a0',
  bounds: () => [-0.1, -0.1, -0.1, 0.1, 0.1, 0.1],
});
