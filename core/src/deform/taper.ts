import { z } from 'zod';
import { axisIndex, defineDeformer } from './define.ts';

/** Makes a form narrower or wider towards its top, evenly from the foot on. */
export const taper = defineDeformer({
  kind: 'taper',
  label: 'Taper',
  about: 'Narrower or wider towards the top; the foot stays as it is.',
  settings: z.strictObject({ axis: z.enum(['x', 'y', 'z']).default('y') }),
  channels: [{ id: 'top', label: 'top', unit: '', initial: 1, min: 0, max: 10 }],
  shows: { channel: 'top', at: 0.5 },
  affine: false,
  prepare({ axis }, { values, at: v, bounds }, out, at) {
    const a = axisIndex[axis];
    const height = bounds[a + 3] - bounds[a];
    out[at] = a;
    out[at + 1] = bounds[a];
    out[at + 2] = height > 0 ? (values[v] - 1) / height : 0;
  },
  move(m, at, point, p) {
    const a = m[at];
    const scale = 1 + (point[p + a] - m[at + 1]) * m[at + 2];
    point[p + ((a + 1) % 3)] *= scale;
    point[p + ((a + 2) % 3)] *= scale;
  },
});
