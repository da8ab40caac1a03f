import { handleReach } from '../../curve/handles.ts';
import type { InHandle, Key, NumberCurve, OutHandle } from '../../curve/key.ts';
import { keyIndexAt, withKey } from '../../curve/reshape.ts';
import { valueAt } from '../../curve/sample.ts';
import { withPinned } from '../../curve/split.ts';
import type { Shot } from '../../document/shot.ts';
import { chartOf } from '../../spacing/chart.ts';
import { defineCommand } from '../edit.ts';
import { placeBetween, withoutBreakdowns } from './between.ts';

/** Edits of spacing: what is done on the timing chart, on the ribbon and on the beads. */

/**
 * How frames may be laid out between two keys. `slowIn` cushions into the second key, `slowOut` out of the first. `halves`
 * and `thirds` go half or a third of what is left at each frame, and so settle into the second key.
 */
export const spacings = ['even', 'slowOut', 'slowIn', 'slowBoth', 'halves', 'thirds'] as const;
export type Spacing = (typeof spacings)[number];

const ends: Record<'even' | 'slowOut' | 'slowIn' | 'slowBoth', readonly ['linear' | 'flat', 'linear' | 'flat']> = {
  even: ['linear', 'linear'],
  slowOut: ['flat', 'linear'],
  slowIn: ['linear', 'flat'],
  slowBoth: ['flat', 'flat'],
};

export const spacingWords: Record<Spacing, string> = {
  even: 'even',
  slowOut: 'slow out',
  slowIn: 'slow in',
  slowBoth: 'slow out and in',
  halves: 'halves',
  thirds: 'thirds',
};

/** Breakdowns of a run of halves or thirds end when less than this is left: the rest is one cushion. */
const LEAST_LEFT = 1 / 16;

interface Place {
  readonly paths: readonly string[];
  readonly frame: number;
}

/**
 * Lays out the frames between two keys anew. Breakdowns between them go, since they only steered the way; other keys do not.
 */
export const spaceBetween = defineCommand<Place & { spacing: Spacing }>({
  name: 'spacing.set',
  label: ({ spacing, frame }) => `${spacingWords[spacing]} around ${Math.round(frame)}`,
  apply(shot, { paths, frame, spacing }) {
    const chart = chartOf(shot, paths, frame);
    if (!chart) return shot;
    const { from, to } = chart;
    const curves = shot.curves.edit();
    for (const path of chart.paths) {
      const bare = withoutBreakdowns(curves.get(path) as NumberCurve, from, to);
      const next =
        spacing === 'halves' || spacing === 'thirds'
          ? geometric(bare, from, to, spacing === 'halves' ? 1 / 2 : 1 / 3)
          : withEnds(bare, from, to, { kind: ends[spacing][0] }, { kind: ends[spacing][1] });
      curves.set(path, next);
    }
    return { ...shot, curves: curves.done() };
  },
});

/** Sets the handles inside a stretch and leaves what lies outside it as it was. */
function withEnds(curve: NumberCurve, from: number, to: number, out: OutHandle, into: InHandle): NumberCurve {
  const [a, b] = [keyIndexAt(curve.keys, from), keyIndexAt(curve.keys, to)];
  const apart = (key: Key, side: 'in' | 'out', kind: string): boolean => key.joined && key[side].kind === kind;
  const keys = [...curve.keys];
  keys[a] = { ...keys[a], out, joined: apart(keys[a], 'in', out.kind) };
  keys[b] = { ...keys[b], in: into, joined: apart(keys[b], 'out', into.kind) };
  return { ...curve, keys };
}

/** At each frame the same part of what is left, held in place by breakdowns as long as it matters. */
function geometric(curve: NumberCurve, from: number, to: number, part: number): NumberCurve {
  const [a, b] = [curve.keys[keyIndexAt(curve.keys, from)], curve.keys[keyIndexAt(curve.keys, to)]];
  // Outside the stretch nothing may move, though it gets new neighbours.
  let next = withPinned(withPinned(curve, keyIndexAt(curve.keys, from), 'in'), keyIndexAt(curve.keys, to), 'out');
  let left = 1;
  for (let f = Math.floor(from) + 1; f < to - 1e-6 && left * (1 - part) >= LEAST_LEFT; f++) {
    left *= 1 - part;
    next = withKey(next, f, b.value - (b.value - a.value) * left);
    const i = keyIndexAt(next.keys, f);
    const smooth: Key = {
      ...next.keys[i],
      in: { kind: 'smooth' },
      out: { kind: 'smooth' },
      joined: true,
      role: 'breakdown',
    };
    next = { ...next, keys: next.keys.with(i, smooth) };
  }
  return withEnds(next, from, to, { kind: 'linear' }, { kind: 'flat' });
}

/** Turns the spacing between two keys about: what was slow at the first is slow at the second. */
export const turnSpacing = defineCommand<Place>({
  name: 'spacing.turn',
  label: ({ frame }) => `turn the spacing about around ${Math.round(frame)}`,
  apply(shot, { paths, frame }) {
    const chart = chartOf(shot, paths, frame);
    if (!chart) return shot;
    const curves = shot.curves.edit();
    for (const path of chart.paths)
      curves.set(path, turnedAbout(curves.get(path) as NumberCurve, chart.from, chart.to));
    return { ...shot, curves: curves.done() };
  },
});

function turnedAbout(curve: NumberCurve, from: number, to: number): NumberCurve {
  const [a, b] = [keyIndexAt(curve.keys, from), keyIndexAt(curve.keys, to)];
  const [first, last] = [curve.keys[a], curve.keys[b]];
  const inside = curve.keys.slice(a + 1, b).map(
    (key): Key => ({
      ...key,
      frame: from + to - key.frame,
      value: first.value + last.value - key.value,
      in: asIn(key.out),
      out: key.in,
    }),
  );
  const keys = curve.keys.toSpliced(a + 1, b - a - 1, ...inside.reverse());
  return withEnds({ ...curve, keys }, from, to, last.in, asIn(first.out));
}

/** A handle seen from the other side. A stepped stretch turned about would begin at its end: it goes straight instead. */
const asIn = (handle: OutHandle): InHandle => (handle.kind === 'stepped' ? { kind: 'linear' } : handle);

/** Puts one frame of the chart at a share of the way: a breakdown there holds it in place. */
export const placeTick = defineCommand<Place & { tick: number; share: number }>({
  name: 'spacing.tick',
  label: ({ tick, share }) => `put frame ${tick} at ${Math.round(share * 100)} % of the way`,
  apply(shot, { paths, frame, tick, share }) {
    const chart = chartOf(shot, paths, frame);
    if (!chart || tick <= chart.from || tick >= chart.to) return shot;
    return placed(shot, chart, tick, share);
  },
});

function placed(
  shot: Shot,
  chart: { from: number; to: number; paths: readonly string[] },
  tick: number,
  share: number,
) {
  const values = new Map(
    chart.paths.map((path) => {
      const { keys } = shot.curves.get(path) as NumberCurve;
      const [a, b] = [keys[keyIndexAt(keys, chart.from)].value, keys[keyIndexAt(keys, chart.to)].value];
      return [path, a + (b - a) * share];
    }),
  );
  const keyed = placeBetween.apply(shot, { paths: chart.paths, frame: tick, share: 0.5 });
  const curves = keyed.curves.edit();
  for (const [path, value] of values) curves.set(path, withKey(curves.get(path) as NumberCurve, tick, value));
  return { ...keyed, curves: curves.done() };
}

/** Puts one frame where the curves are at another moment: a bead slid along its arc. A breakdown there holds it in place. */
export const slideBead = defineCommand<{ paths: readonly string[]; frame: number; to: number }>({
  name: 'spacing.bead',
  label: ({ frame }) => `slide frame ${frame} along its arc`,
  apply(shot, { paths, frame, to }) {
    const curves = shot.curves.edit();
    for (const path of paths) {
      const curve = curves.get(path);
      if (curve?.type !== 'number') continue;
      const fresh = keyIndexAt(curve.keys, frame) < 0;
      const keyed = withKey(curve, frame, valueAt(curve, to));
      const i = keyIndexAt(keyed.keys, frame);
      curves.set(path, fresh ? { ...keyed, keys: keyed.keys.with(i, { ...keyed.keys[i], role: 'breakdown' }) } : keyed);
    }
    return { ...shot, curves: curves.done() };
  },
});

/**
 * Slides the moment between two neighbouring keys: what shows at the middle of the stretch comes `by` frames later (or
 * earlier), and everything around it gives way. The values the curve goes through stay; only when changes.
 */
export const slideSpacing = defineCommand<{ paths: readonly string[]; frame: number; by: number }>({
  name: 'spacing.slide',
  label: ({ frame, by }) => `slide the spacing around ${Math.round(frame)} ${by > 0 ? 'later' : 'earlier'}`,
  apply(shot, { paths, frame, by }) {
    if (by === 0) return shot;
    const curves = shot.curves.edit();
    for (const path of paths) {
      const curve = curves.get(path);
      if (curve?.type === 'number') curves.set(path, slid(curve, frame, by));
    }
    return { ...shot, curves: curves.done() };
  },
});

/** How much of a stretch its middle may slide each way: beyond this time would stand still at a key. */
const MOST_SLIDE = 0.36;

function slid(curve: NumberCurve, frame: number, by: number): NumberCurve {
  const i = curve.keys.findLastIndex((k) => k.frame <= frame + 1e-6);
  const [a, b] = [curve.keys[i], curve.keys[i + 1]];
  if (!a || !b || a.out.kind === 'stepped') return curve;
  const gap = b.frame - a.frame;
  const shift = Math.min(MOST_SLIDE, Math.max(-MOST_SLIDE, by / gap));
  const free = freed(curve, i);
  const [x1, x2] = [free.out.frames / gap, 1 - free.into.frames / gap];
  // The middle of a Bézier lies at (1 + 3·x1 + 3·x2) / 8 of its time, so both handles together carry 3/8 of the shift.
  const wanted = x1 + x2 + (shift * 8) / 3;
  let [nx1, nx2] = [x1 + (shift * 4) / 3, x2 + (shift * 4) / 3];
  if (nx2 > 1) [nx1, nx2] = [Math.min(1, wanted - 1), 1];
  if (nx1 < 0) [nx1, nx2] = [0, Math.max(0, wanted)];
  const keys = [...curve.keys];
  keys[i] = { ...a, out: { kind: 'free', frames: nx1 * gap, rise: free.out.rise }, joined: false };
  keys[i + 1] = { ...b, in: { kind: 'free', frames: (1 - nx2) * gap, rise: free.into.rise }, joined: false };
  return { ...curve, keys };
}

function freed(curve: NumberCurve, i: number) {
  const out = handleReach(curve, i, 'out')!;
  const into = handleReach(curve, i + 1, 'in')!;
  return { out, into };
}
