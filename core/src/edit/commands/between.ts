import type { Curve } from '../../curve/key.ts';
import { keyIndexAt, orientationValueAt, withKey, withOrientationKey, withoutKeys } from '../../curve/reshape.ts';
import { valueAt } from '../../curve/sample.ts';
import type { AnyKey } from '../../curve/turn-back.ts';
import { withoutLoose } from '../../document/loose.ts';
import type { Shot } from '../../document/shot.ts';
import { channelWords } from '../../document/words.ts';
import { quaternionBetween, quaternionExp, quaternionLog, quaternionMultiply } from '../../pose/quaternion.ts';
import { type Quaternion, withinBounds } from '../../schema/numbers.ts';
import { defineCommand } from '../edit.ts';

/** The keys on both sides of a frame that a breakdown there lies between; null at and beyond a curve's ends. */
export function neighboursAt<K extends AnyKey>(keys: readonly K[], frame: number): { before: K; after: K } | null {
  const before = keys.findLast((k) => k.frame < frame - 1e-6);
  const after = keys.find((k) => k.frame > frame + 1e-6);
  return before && after ? { before, after } : null;
}

/**
 * A value between two, or past them: 0 is the first, 1 the second. Orientations go on about the same axis, the shortest way.
 */
export function valueBetween(from: number | Quaternion, to: number | Quaternion, share: number): number | Quaternion {
  if (typeof from === 'number' || typeof to === 'number') {
    return withinBounds((from as number) + ((to as number) - (from as number)) * share);
  }
  const whole = quaternionBetween(from, to);
  const short: Quaternion = whole[3] < 0 ? [-whole[0], -whole[1], -whole[2], -whole[3]] : whole;
  const [x, y, z] = quaternionLog(short);
  return quaternionMultiply(from, quaternionExp([x * share, y * share, z * share]));
}

/**
 * Places channels between the keys before and after a frame: a breakdown, or the key that is there already with another
 * value. Channels that have no key on both sides are left alone.
 * @param share 0 as the key before, 1 as the key after; less and more go past them
 */
export const placeBetween = defineCommand<{ paths: readonly string[]; frame: number; share: number }>({
  name: 'key.between',
  label: ({ paths, frame, share }, shot) =>
    `place ${channelWords(shot, paths)} ${Math.round(share * 100)} % of the way at ${Math.round(frame)}`,
  apply(shot, { paths, frame, share }) {
    const curves = shot.curves.edit();
    let { loose } = shot;
    let changed = false;
    for (const path of paths) {
      const curve = curves.get(path);
      const ends = curve && neighboursAt<AnyKey>(curve.keys, frame);
      if (!curve || !ends) continue;
      const value = valueBetween(ends.before.value, ends.after.value, share);
      const fresh = keyIndexAt(curve.keys, frame) < 0;
      const keyed =
        curve.type === 'number'
          ? withKey(curve, frame, value as number)
          : withOrientationKey(curve, frame, value as Quaternion);
      const at = keyIndexAt(keyed.keys, frame);
      const keys = keyed.keys as AnyKey[];
      curves.set(
        path,
        fresh ? ({ ...keyed, keys: keys.with(at, { ...keys[at], role: 'breakdown' }) } as typeof curve) : keyed,
      );
      loose = withoutLoose(loose, path, frame);
      changed = true;
    }
    return changed ? { ...shot, curves: curves.done(), loose } : shot;
  },
});

/** How far along its way between its neighbours a channel stands at a frame; null where that says nothing. */
export function shareAt(shot: Shot, path: string, frame: number): number | null {
  const curve = shot.curves.get(path);
  const ends = curve && neighboursAt<AnyKey>(curve.keys, frame);
  if (!curve || !ends) return null;
  if (curve.type === 'orientation') {
    const [from, to] = [ends.before.value as Quaternion, ends.after.value as Quaternion];
    const angle = (a: Quaternion, b: Quaternion) => {
      const q = quaternionBetween(a, b);
      return 2 * Math.atan2(Math.hypot(q[0], q[1], q[2]), Math.abs(q[3]));
    };
    const whole = angle(from, to);
    return whole > 1e-9 ? angle(from, orientationValueAt(curve, frame)) / whole : null;
  }
  const [from, to] = [ends.before.value as number, ends.after.value as number];
  return Math.abs(to - from) > 1e-9 ? (valueAt(curve, frame) - from) / (to - from) : null;
}

/** Takes the breakdowns between two frames out of a curve. */
export function withoutBreakdowns<C extends Curve>(curve: C, from: number, to: number): C {
  const frames = (curve.keys as readonly AnyKey[])
    .filter((k) => k.role === 'breakdown' && k.frame > from + 1e-6 && k.frame < to - 1e-6)
    .map((k) => k.frame);
  return frames.length > 0 ? (withoutKeys(curve, frames) ?? curve) : curve;
}
