import type { Clip } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { Program } from '../evaluate/index.ts';

/** How a point of a body goes over one round of its clip. */

/** What is measured of it: its height, its place to and fro in the body's own space, in metres; how fast it goes, in metres a second. */
export type Measure = 'height' | 'forward' | 'speed';

/** Samples a frame. */
export const STUDY_SAMPLES = 4;

/**
 * Where a control is over one round, as its rig stays in place: three numbers a sample (aside, up, forward, seen from the rig wherever it
 * faces), from the clip's beginning to its end, ends included.
 * @throws where the member or the clip's rig is not in the shot
 */
export function studiedPath(shot: Shot, clip: Clip, member: string): Float64Array {
  const still: Shot = { ...shot, clips: shot.clips.with(clip.id, { ...clip, travelling: false }) };
  const program = new Program(still);
  const frame = program.createFrame();
  const slot = program.layout.slotOf.get(member);
  const rig = program.layout.slotOf.get(clip.rig);
  if (slot === undefined || rig === undefined) throw new Error(`${member} of ${clip.rig} is not in the shot.`);
  const count = clip.length * STUDY_SAMPLES + 1;
  const out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    program.evaluate(clip.first + i / STUDY_SAMPLES, frame);
    const w = frame.world;
    const from = [0, 1, 2].map((r) => w[slot * 16 + 12 + r] - w[rig * 16 + 12 + r]);
    for (let axis = 0; axis < 3; axis++) {
      const a = rig * 16 + axis * 4;
      const size = Math.hypot(w[a], w[a + 1], w[a + 2]) || 1;
      out[i * 3 + axis] = (from[0] * w[a] + from[1] * w[a + 1] + from[2] * w[a + 2]) / size;
    }
  }
  return out;
}

/**
 * A measure of a studied path, one number a sample. The speed is that of the body over the stage: the clip's travel is added to it.
 * @param rate frames a second
 */
export function studiedValues(path: Float64Array, measure: Measure, clip: Clip, rate: number): number[] {
  const count = path.length / 3;
  if (measure !== 'speed') {
    // Forward is how it goes to and fro in the body's own space: with the travel the line would only be steep.
    return Array.from({ length: count }, (_, i) => path[i * 3 + (measure === 'height' ? 1 : 2)]);
  }
  const step = clip.travel / clip.length / STUDY_SAMPLES;
  const at = (i: number, axis: number) => path[i * 3 + axis] + (axis === 2 ? step * i : 0);
  return Array.from({ length: count }, (_, i) => {
    const [a, b] = [Math.max(0, i - 1), Math.min(count - 1, i + 1)];
    const far = Math.hypot(...[0, 1, 2].map((axis) => at(b, axis) - at(a, axis)));
    return (far / ((b - a) / STUDY_SAMPLES)) * rate;
  });
}
