import { z } from 'zod';
import { IdSchema, RigVersionSchema } from '../../schema/ids.ts';
import { defineKind } from './kind.ts';

/** The version of a rig that a shot links. */
export const RigLinkSchema = z.strictObject({ rig: IdSchema, version: RigVersionSchema });

/** A rig of the library, linked and not copied. Its controls are members of their own, which it carries. */
export const rig = defineKind({
  kind: 'rig',
  label: 'Rig',
  shape: RigLinkSchema,
  channels: [],
  colour: '#6b6f75',
  bounds: (link, rigs) => rigs.find(link)?.bounds ?? [0, 0, 0, 0, 0, 0],
});
