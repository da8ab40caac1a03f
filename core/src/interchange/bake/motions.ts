import type { Layout } from '../../evaluate/layout.ts';
import type { Motion, SceneNode, Track, TrackOf } from '../scene/scene.ts';
import type { Choices } from './choices.ts';
import { type Fitted, type FittedKey, fit } from './fit.ts';
import { farthest, type LaidTrack, type Reaches } from './measure.ts';
import { PLACE } from './mover.ts';
import type { PlannedNode } from './plan.ts';
import type { Run } from './runs.ts';
import { type Moment, Samples } from './samples.ts';
import { apart, type Part, type Series, seriesOf } from './series.ts';

/** How many times a frame everything is looked at. */
const LOOKS = 4;
/** How often keys are laid closer. */
const MOST_ATTEMPTS = 5;

/** What a motion came to. */
export interface Laid {
  readonly motion: Motion;
  readonly keys: number;
  /** How far anything is from where it was, at most. */
  readonly millimetres: number;
  readonly degrees: number;
}

/** The parts of a place, with how many numbers each has and where they stand. */
const partsOfPlace = [
  { of: 'translation', at: 0, width: 3 },
  { of: 'rotation', at: 3, width: 4 },
  { of: 'scale', at: 7, width: 3 },
] as const satisfies readonly { of: TrackOf; at: number; width: number }[];

/** Something that may become a track. */
interface Candidate {
  readonly node: number;
  readonly of: TrackOf;
  readonly part: Part;
}

/** How many numbers of all moments are kept at once: five arrays of them are some hundred and fifty megabytes. */
const AT_ONCE = 4_000_000;
/** However long a run is, as many numbers of a moment go together. */
const TOGETHER = 2_000;

/**
 * Makes a motion of a run: looks at every frame and between, and lays keys as was chosen. What hangs together is laid together, and a
 * large cast part by part, so that it stays in bounds.
 * @param onProgress is told how much is done, from 0 to 1
 */
export function layMotion(
  run: Run,
  planned: readonly PlannedNode[],
  reaches: Reaches,
  choices: Choices,
  rate: number,
  onProgress: (share: number) => void,
): Laid {
  const groups = groupsOf(planned, AT_ONCE / ((run.last - run.first + 1) * LOOKS));
  const laid = groups.map((group, g) => {
    onProgress(g / groups.length);
    return layGroup(run, planned, group, reaches, choices, rate);
  });
  const tracks = laid.flatMap((l) => l.motion.tracks);
  return {
    motion: { name: run.name, seconds: (run.last - run.first) / rate, tracks },
    keys: laid.reduce((sum, l) => sum + l.keys, 0),
    millimetres: Math.max(0, ...laid.map((l) => l.millimetres)),
    degrees: Math.max(0, ...laid.map((l) => l.degrees)),
  };
}

/** The nodes in parts of about so many numbers; those that hang on one another stay together. */
export function groupsOf(
  planned: readonly { readonly node: SceneNode; readonly member: string }[],
  most: number,
): Set<number>[] {
  const root = new Int32Array(planned.length);
  planned.forEach(({ node: { parent } }, n) => {
    // What everything stands on where up is another way does not move, and holds nothing together.
    root[n] = parent < 0 || planned[parent].member === '' ? n : root[parent];
  });
  const byRoot = new Map<number, number[]>();
  root.forEach((r, n) => {
    byRoot.set(r, [...(byRoot.get(r) ?? []), n]);
  });
  const groups: Set<number>[] = [new Set()];
  for (const nodes of byRoot.values()) {
    const last = groups[groups.length - 1];
    const isFull = last.size > 0 && (last.size + nodes.length) * PLACE > Math.max(most, TOGETHER);
    const group = isFull ? new Set<number>() : last;
    if (isFull) groups.push(group);
    for (const node of nodes) group.add(node);
  }
  return groups;
}

/** Lays the keys of some nodes. Where what nodes add up to goes further than the tolerance, they are laid again, closer. */
function layGroup(
  run: Run,
  planned: readonly PlannedNode[],
  group: ReadonlySet<number>,
  reaches: Reaches,
  choices: Choices,
  rate: number,
): Laid {
  const { candidates, samples } = look(run, planned, group);
  const nodes = planned.map((p) => p.node);
  const { keys, tolerance } = choices;
  const every = keys === 'every';
  const moments = momentsOf(run, samples, every ? rate / choices.rate : 1 / LOOKS);
  const moving = candidates.filter(({ part }) => samples.moves(moments, part));
  const still = candidates.filter((c) => !moving.includes(c)).map((c) => standing(c, samples, moments));
  for (let attempt = 0, share = 1 / 3; ; attempt++) {
    const tracks = moving.map(({ node, of, part }): LaidTrack => {
      const near = share * nearness(of, node, reaches, choices);
      const bent = keys === 'bent';
      const series = seriesOf(samples, moments, part, every ? null : { bent, tolerance: near });
      return { node, of, part, fitted: every ? atEvery(series, near) : fit(series, bent, near) };
    });
    const off = farthest(nodes, tracks, samples, moments, reaches);
    const [millimetres, degrees] = [off.metres * 1000, (off.radians * 180) / Math.PI];
    const over = Math.max(millimetres / tolerance.millimetres, degrees / tolerance.degrees);
    if (every || over <= 1 || attempt === MOST_ATTEMPTS) {
      const used = [...tracks, ...still].filter((track) => !saysNothing(track, nodes));
      const laid = used.map((track) => trackOf(track, run, rate));
      return {
        motion: { name: run.name, seconds: (run.last - run.first) / rate, tracks: laid },
        keys: used.reduce((sum, t) => sum + t.fitted.keys.length, 0),
        millimetres,
        degrees,
      };
    }
    share *= 0.7 / over;
  }
}

/** Everything of some nodes that moves in a run, and where its numbers are looked up. */
function look(
  run: Run,
  planned: readonly PlannedNode[],
  group: ReadonlySet<number>,
): { candidates: Candidate[]; samples: Samples } {
  const layout: Layout = run.program.layout;
  const candidates: Candidate[] = [];
  const movers = [];
  let at = 0;
  for (const [node, plan] of planned.entries()) {
    if (!group.has(node)) continue;
    if (run.rig !== null && !(plan.inClips && plan.member === run.rig)) continue;
    for (const read of [plan.place, plan.weights]) {
      if (!read) continue;
      const mover = read(layout);
      movers.push(mover);
      const parts = mover.is === 'place' ? partsOfPlace : [{ of: 'weights', at: 0, width: mover.width } as const];
      for (const { of, at: from, width } of parts)
        candidates.push({ node, of, part: { at: at + from, width, turns: of === 'rotation' } });
      at += mover.width;
    }
  }
  return { candidates, samples: new Samples(run.program, movers) };
}

/** The moments a run is looked at, a step apart, and its last one. */
function momentsOf({ first, last }: Run, samples: Samples, step: number): Moment[] {
  const moments: Moment[] = [];
  for (let n = 0; first + n * step < last - 1e-9; n++) moments.push(samples.moment(first + n * step));
  return [...moments, samples.moment(last)];
}

/** The one key of something that never moves. */
function standing({ node, of, part }: Candidate, samples: Samples, [first]: readonly Moment[]): LaidTrack {
  const { points, times } = seriesOf(samples, [first], part, null);
  return { node, of, part, fitted: { shape: 'linear', keys: [{ time: times[0], ...points[0] }] } };
}

/** A key at every moment, straight between; as few as say the same where nothing moves, or only jumps. */
function atEvery(series: Series, tolerance: number): Fitted {
  const plain = fit(series, false, Math.min(tolerance, 1e-9));
  if (plain.shape === 'step' || plain.keys.length === 1) return plain;
  const keys = series.points.map((point, i): FittedKey => ({ time: series.times[i], ...point }));
  return { shape: 'linear', keys };
}

/** How near a track must be, in its own numbers, for everything that hangs on its node to be within the tolerance. */
function nearness(of: TrackOf, node: number, { all, shapes }: Reaches, { tolerance }: Choices): number {
  const metres = tolerance.millimetres / 1000;
  if (of === 'translation') return metres;
  if (of === 'weights') return metres / Math.max(shapes[node], 1e-3);
  const reach = metres / Math.max(all[node], 1e-3);
  return of === 'scale' ? reach : Math.min(reach, (tolerance.degrees * Math.PI) / 180);
}

/** Whether a track only says what its node says anyway. */
function saysNothing({ fitted: { keys }, node, of }: LaidTrack, nodes: readonly SceneNode[]): boolean {
  if (keys.length > 1) return false;
  const { place, weights = [] } = nodes[node];
  const rest = of === 'weights' ? weights : place[of];
  const turns = of === 'rotation';
  return [1, -1].some(
    (sign) =>
      apart(
        turns,
        keys[0].value,
        rest.map((v) => (turns ? sign * v : v)),
      ) < 1e-9,
  );
}

function trackOf({ node, of, part: { width }, fitted }: LaidTrack, { first }: Run, rate: number): Track {
  const { keys, shape } = fitted;
  const times = new Float64Array(keys.length);
  const values = new Float64Array(keys.length * width * (shape === 'cubic' ? 3 : 1));
  keys.forEach(({ time, value, rateIn, rateOut }, i) => {
    // Never after the frame: what is asked for at a frame is what comes from it on.
    times[i] = notAfter((time - first) / rate);
    if (i > 0 && times[i] <= times[i - 1]) times[i - 1] = before(times[i]);
    if (shape !== 'cubic') values.set(value, i * width);
    else {
      const own = [...rateIn.map((v) => v * rate), ...value, ...rateOut.map((v) => v * rate)];
      values.set(own, i * width * 3);
    }
  });
  return { node, of, shape, times, values };
}

const single = new Float32Array(1);
const bits = new Int32Array(single.buffer);

/** The largest number of single precision that is not larger. Not negative. */
function notAfter(value: number): number {
  single[0] = value;
  return single[0] > value ? before(single[0]) : single[0];
}

/** The next smaller number of single precision. */
function before(value: number): number {
  single[0] = value;
  bits[0] -= 1;
  return single[0];
}
