import { handleSlope } from '../../curve/handles.ts';
import type { Curve, Tuning } from '../../curve/key.ts';
import { keyIndexAt, type ShapeOfKey, withShape, withTuning } from '../../curve/reshape.ts';
import { type Thinned, thinned } from '../../curve/thin.ts';
import { findChannel, splitPath } from '../../document/channels.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords, countWords } from '../../document/words.ts';
import { defineCommand } from '../edit.ts';
import type { KeySelection } from '../retiming.ts';
import { countKeys, eachCurve, removeCurves } from './keys.ts';

/** What concerns the shape of whole curves and of many keys at once. */

/** Says the shape of picked keys in tension, continuity and bias. */
export const tuneKeys = defineCommand<{ keys: KeySelection; tuning: Tuning }>({
  name: 'key.tune',
  label: ({ keys }) => `tune ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, tuning }) =>
    eachCurve(shot, keys, (curve, frames) =>
      curve.type === 'number' ? frames.reduce((c, f) => withTuning(c, f, tuning), curve) : curve,
    ),
});

/** Gives picked keys the shape of another key. */
export const shapeAlike = defineCommand<{ keys: KeySelection; shape: ShapeOfKey }>({
  name: 'key.alike',
  label: ({ keys }) => `give ${countWords(countKeys(keys), 'key')} the copied shape`,
  apply: (shot, { keys, shape }) =>
    eachCurve(shot, keys, (curve, frames) =>
      curve.type === 'number' ? frames.reduce((c, f) => withShape(c, f, shape), curve) : curve,
    ),
});

/** How much motion thinning may change, by the unit of a channel: metres, radians, and numbers without a unit. */
export interface Tolerances {
  readonly m: number;
  readonly '°': number;
  readonly '': number;
}

export interface ThinReport {
  /** The shot it is of, and the shot it would become. */
  readonly before: Shot;
  readonly after: Shot;
  readonly removed: number;
  readonly of: number;
  /** The largest change of a channel in each unit. */
  readonly largest: Tolerances;
}

/**
 * Thins the picked keys, curve by curve, and says what that came to. Orientations are left alone. Between two steps something
 * else may be done, or the whole be given up: each gives the share that is done.
 */
export function* thinningOf(shot: Shot, keys: KeySelection, tolerances: Tolerances): Generator<number, ThinReport> {
  const largest = { m: 0, '°': 0, '': 0 };
  const curves = shot.curves.edit();
  const paths = Object.keys(keys);
  let removed = 0;
  for (const [i, path] of paths.entries()) {
    const unit = unitOf(shot, path);
    const thin = curves.get(path) && thinPicked(curves.at(path), keys[path], tolerances[unit]);
    if (thin && thin.removed > 0) {
      removed += thin.removed;
      largest[unit] = Math.max(largest[unit], thin.largest);
      curves.set(path, thin.curve);
    }
    yield (i + 1) / paths.length;
  }
  return {
    before: shot,
    after: removed > 0 ? { ...shot, curves: curves.done() } : shot,
    removed,
    of: countKeys(keys),
    largest,
  };
}

/** The same in one go. */
export function thinReport(shot: Shot, keys: KeySelection, tolerances: Tolerances): ThinReport {
  const steps = thinningOf(shot, keys, tolerances);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function thinPicked(curve: Curve, frames: readonly number[], tolerance: number): Thinned | null {
  if (curve.type !== 'number') return null;
  const picked = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
  return thinned(curve, tolerance, (i) => picked.has(i));
}

function unitOf(shot: Shot, path: string): keyof Tolerances {
  const { member, channel } = splitPath(path);
  return (shot.members.get(member) && findChannel(shot.members.at(member), channel, shot.rigs)?.unit) ?? '';
}

/** Takes away the picked keys that the motion can do without. A report of this very shot is taken as it is. */
export const thinKeys = defineCommand<{ keys: KeySelection; tolerances: Tolerances; report?: ThinReport }>({
  name: 'key.thin',
  label: ({ keys }) => `thin ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, tolerances, report }) =>
    report?.before === shot ? report.after : thinReport(shot, keys, tolerances).after,
});

/** A curve whose keys all say the same, and that does not move between or beyond them. */
export function isStill(curve: Curve): boolean {
  if (curve.type === 'orientation') return curve.keys.every((k) => String(k.value) === String(curve.keys[0].value));
  return curve.keys.every(
    (k, i) =>
      k.value === curve.keys[0].value &&
      handleSlope(curve, i, 'in') === 0 &&
      (k.out.kind === 'stepped' || handleSlope(curve, i, 'out') === 0),
  );
}

/** Those of the curves that never change. */
export const stillCurves = (shot: Shot, paths: readonly string[]): string[] =>
  paths.filter((p) => shot.curves.get(p) && isStill(shot.curves.at(p)));

/** Takes away curves that never change; their channels keep the value as a constant. */
export const removeStill = defineCommand<{ paths: readonly string[] }>({
  name: 'curve.removeStill',
  label: ({ paths }, shot) => `delete what never changes of ${channelWords(shot, stillCurves(shot, paths))}`,
  apply: (shot, { paths }) => removeCurves.apply(shot, { paths: stillCurves(shot, paths) }),
});
