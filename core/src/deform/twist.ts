import { z } from 'zod';
import { axisIndex, defineDeformer } from './define.ts';

/** Turns each slice of a form about the axis, evenly from none at the foot to the whole angle at the top. */
export const twist = defineDeformer({
  kind: 'twist',
  label: 'Twist',
  about: 'Winds the form about its axis, from none at the foot to all of it at the top.',
  settings: z.strictObject({ axis: z.enum(['x', 'y', 'z']).default('y') }),
  channels: [{ id: 'angle', label: 'angle', unit: '°', initial: 0 }],
  shows: { channel: 'angle', at: Math.PI / 4 },
  affine: false,
  prepare({ axis }, { values, at: v, bounds }, out, at) {
    const a = axisIndex[axis];
    const height = bounds[a + 3] - bounds[a];
    out[at] = a;
    out[at + 1] = bounds[a];
    out[at + 2] = height > 0 ? values[v] / height : 0;
  },
  move(m, at, point, p) {
    const a = m[at];
    const b = p + ((a + 1) % 3);
    const c = p + ((a + 2) % 3);
    const angle = (point[p + a] - m[at + 1]) * m[at + 2];
    const sine = Math.sin(angle);
    const cosine = Math.cos(angle);
    const [x, y] = [point[b], point[c]];
    point[b] = x * cosine - y * sine;
    point[c] = x * sine + y * cosine;
  },
});
