import { PartIdSchema } from '../../schema/part-id.ts';
import { defineKind } from './kind.ts';
import { RigLinkSchema } from './rig.ts';

/** What an animator takes hold of: one control of a linked rig. Which channels it has is the rig's affair. */
export const control = defineKind({
  kind: 'control',
  label: 'Control',
  shape: RigLinkSchema.extend({ control: PartIdSchema }),
  channels: [],
  colour: '#6b6f75',
  bounds(link, rigs) {
    const found = rigs.control(link);
    if (!found) return [0, 0, 0, 0, 0, 0];
    const { reach: r, off } = found;
    return [off[0] - r, off[1] - r, off[2] - r, off[0] + r, off[1] + r, off[2] + r];
  },
});
