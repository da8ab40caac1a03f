import { z } from 'zod';
import { defineKind } from './kind.ts';

/** A small lamp that shines all round, in its own colour. */
export const light = defineKind({
  kind: 'light',
  label: 'Light',
  shape: z.strictObject({}),
  channels: [{ id: 'brightness', label: 'brightness', unit: '', initial: 6, min: 0, max: 1000 }],
  colour: '#ffd9a0',
  bounds: () => [-0.1, -0.1, -0.1, 0.1, 0.1, 0.1],
});
