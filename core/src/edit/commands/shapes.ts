import { handleSlope } from '../../curve/handles.ts';
import type { Curve, Tuning } from '../../curve/key.ts';
import { keyIndexAt, type ShapeOfKey, withShape, withTuning } from '../../curve/reshape.ts';
import { type Thinned, thinned } from '../../curve/thin.ts';
import { findChannel, splitPath } from '../../document/channels.ts';
import type { Shot } from '../../document/shot.ts';
import { defineCommand } from '../edit.ts';
import type { KeySelection } from '../retiming.ts';
import { channelWords, countWords } from '../words.ts';
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
  readonly shot: Shot;
  readonly removed: number;
  readonly of: number;
  /** The largest change of a channel in each unit. */
  readonly largest: Tolerances;
}

/** Thins the picked keys and says what that came to. Orientations are left alone. */
export function thinReport(shot: Shot, keys: KeySelection, tolerances: Tolerances): ThinReport {
  const largest = { m: 0, '°': 0, '': 0 };
  let removed = 0;
  const next = eachCurve(shot, keys, (curve, frames, path) => {
    const unit = unitOf(shot, path);
    const thin = thinPicked(curve, frames, tolerances[unit]);
    if (!thin) return curve;
    removed += thin.removed;
    largest[unit] = Math.max(largest[unit], thin.largest);
    return thin.curve;
  });
  return { shot: next, removed, of: countKeys(keys), largest };
}

function thinPicked(curve: Curve, frames: readonly number[], tolerance: number): Thinned | null {
  if (curve.type !== 'number') return null;
  const picked = new Set(frames.map((f) => keyIndexAt(curve.keys, f)));
  return thinned(curve, tolerance, (i) => picked.has(i));
}

function unitOf(shot: Shot, path: string): keyof Tolerances {
  const { member, channel } = splitPath(path);
  return (shot.members[member] && findChannel(shot.members[member], channel)?.unit) ?? '';
}

/** Takes away the picked keys that the motion can do without. */
export const thinKeys = defineCommand<{ keys: KeySelection; tolerances: Tolerances }>({
  name: 'key.thin',
  label: ({ keys }) => `thin ${countWords(countKeys(keys), 'key')}`,
  apply: (shot, { keys, tolerances }) => thinReport(shot, keys, tolerances).shot,
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
  paths.filter((p) => shot.curves[p] && isStill(shot.curves[p]));

/** Takes away curves that never change; their channels keep the value as a constant. */
export const removeStill = defineCommand<{ paths: readonly string[] }>({
  name: 'curve.removeStill',
  label: ({ paths }, shot) => `delete what never changes of ${channelWords(shot, stillCurves(shot, paths))}`,
  apply: (shot, { paths }) => removeCurves.apply(shot, { paths: stillCurves(shot, paths) }),
});
