import type { Layout } from '../../evaluate/layout.ts';
import { invert, multiply } from '../../pose/affine.ts';
import { slantOf } from './mover.ts';
import type { Run } from './runs.ts';

/** The most moments that are looked at in all. */
const MOST_LOOKS = 400;

/** A node of a frame, and the one it is to be measured from; -1 is the stage. */
export interface Standing {
  readonly node: number;
  readonly on: number;
}

/**
 * How far each of some nodes is slanted to what it is to stand on, at most: what hangs askew in a body that is squashed. Move, turn and
 * size cannot say so.
 * @returns cosines, see {@link slantOf}
 */
export function mostSlanted(runs: readonly Run[], of: (layout: Layout) => readonly Standing[]): number[] {
  const all = runs.reduce((sum, run) => sum + run.last - run.first + 1, 0);
  const step = Math.max(1, Math.ceil(all / MOST_LOOKS));
  const relative = new Float64Array(16);
  const most: number[] = [];
  for (const { program, first, last } of runs) {
    const frame = program.createFrame();
    const nodes = of(program.layout);
    for (let time = first; time <= last; time += step) {
      program.evaluate(time, frame);
      nodes.forEach(({ node, on }, i) => {
        // On what has no size nothing stands any way.
        if (on >= 0 && !invert(relative, 0, frame.world, on * 16)) return;
        if (on >= 0) multiply(relative, 0, relative, 0, frame.world, node * 16);
        else relative.set(frame.world.subarray(node * 16, node * 16 + 16));
        most[i] = Math.max(most[i] ?? 0, slantOf(relative, 0));
      });
    }
  }
  return most;
}
