import { z } from 'zod';
import { axisIndex, defineDeformer } from './define.ts';

const AXIS = 0;
const TO = 1;
const CURVATURE = 2;
const FROM = 3;
const END = 4;

/**
 * Bends a form along its axis into an arc of a circle. The middle line keeps its length: a point at height `h` and
 * distance `t` towards the bend lands at `((1/k − t) sin kh, t cos kh + (1 − cos kh)/k)`. Above the top it goes on straight.
 */
export const bend = defineDeformer({
  kind: 'bend',
  label: 'Bend',
  about: 'Bows the form over to one side, its foot standing; the middle line keeps its length.',
  settings: z.strictObject({
    axis: z.enum(['x', 'y', 'z']).default('y'),
    towards: z.enum(['x', 'y', 'z']).default('x'),
  }),
  channels: [
    { id: 'angle', label: 'angle', unit: '°', initial: 0 },
    { id: 'from', label: 'from', unit: '', initial: 0, min: 0, max: 1 },
  ],
  shows: { channel: 'angle', at: Math.PI / 6 },
  affine: false,
  prepare({ axis, towards }, { values, at: v, bounds }, out, at) {
    const a = axisIndex[axis];
    const b = axisIndex[towards];
    const [low, high] = [bounds[a], bounds[a + 3]];
    const from = low + (high - low) * Math.min(values[v + 1], 0.999);
    out[at + AXIS] = a;
    // Towards its own axis nothing can bend: the next one is taken.
    out[at + TO] = a === b ? (a + 1) % 3 : b;
    out[at + FROM] = from;
    out[at + END] = high;
    out[at + CURVATURE] = high > from ? values[v] / (high - from) : 0;
  },
  move(m, at, point, p) {
    const a = p + m[at + AXIS];
    const b = p + m[at + TO];
    const k = m[at + CURVATURE];
    const from = m[at + FROM];
    const h = Math.min(point[a], m[at + END]) - from;
    if (h <= 0 || Math.abs(k) < 1e-9) return;
    const beyond = point[a] - from - h;
    const t = point[b];
    const sine = Math.sin(k * h);
    const cosine = Math.cos(k * h);
    point[a] = from + (1 / k - t) * sine + beyond * cosine;
    point[b] = t * cosine + (1 - cosine) / k + beyond * sine;
  },
});
