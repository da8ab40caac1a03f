import { z } from 'zod';
import { defineKind } from './kind.ts';

/** Holds others together: it has no form of its own, only a place. */
export const group = defineKind({
  kind: 'group',
  label: 'Group',
  shape: z.strictObject({}),
  channels: [],
  colour: '#6b6f75',
  bounds: () => [0, 0, 0, 0, 0, 0],
});
