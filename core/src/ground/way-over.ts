import type { Way } from '../document/clip.ts';
import type { Shot } from '../document/shot.ts';
import { frameOf } from '../evaluate/program.ts';
import { CompiledWay } from '../evaluate/way.ts';
import { Ground } from './ground.ts';

/** How far apart the ground under a way is looked at, metres. */
const EVERY = 0.01;
/** Ground this much above where a point was put still counts as under it: a step, not a roof. */
const STEP_UP = 0.45;
/** Heights that leave a straight line by no more than this are on it, metres. */
const STRAIGHT = 5e-4;

/**
 * A way through points of the stage, with the ground it goes over: the floor, slopes and steps as they stand at a frame.
 * @param points on the ground, metres; two at least
 */
export function wayOver(shot: Shot, points: Way['points'], frame: number): Way {
  const plan = new CompiledWay({ points, ground: [[0, 0]] });
  const ground = new Ground(shot);
  const now = frameOf(shot, frame);
  const place = new Float64Array(3);
  const count = Math.min(4_000, Math.max(2, Math.ceil(plan.length / EVERY) + 1));
  let last = points[0][1];
  const heights = Array.from({ length: count }, (_, i): readonly [number, number] => {
    const d = (plan.length * i) / (count - 1);
    plan.placeAt(d, place);
    last = ground.heightAt(now, place[0], place[1], last + STEP_UP);
    return [d, last];
  });
  return { points: [...points], ground: thinnedLine(heights) };
}

/**
 * The ground at a place of the stage, as a point a way may go through.
 * @param under height of the point before it, metres: a step above that is still ground, a roof is not
 */
export function wayPoint(shot: Shot, x: number, z: number, under: number, frame: number): Way['points'][number] {
  return [x, new Ground(shot).heightAt(frameOf(shot, frame), x, z, under + STEP_UP), z];
}

/** The points of a line that it cannot do without, the first and the last among them. */
function thinnedLine(line: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const out = [line[0]];
  let from = 0;
  for (let i = 2; i < line.length; i++) {
    const [a, b] = [line[from], line[i]];
    const straight = line
      .slice(from + 1, i)
      .every(([d, y]) => Math.abs(a[1] + ((b[1] - a[1]) * (d - a[0])) / (b[0] - a[0]) - y) <= STRAIGHT);
    if (straight && i - from < 200) continue;
    from = i - 1;
    out.push(line[from]);
  }
  out.push(line[line.length - 1]);
  return out;
}
