import type { Curve, InHandle, Key, OrientationKey, OutHandle } from './key.ts';

/** Keys of either sort of curve; what is done with their frames and handles is the same. */
export type AnyKey = Key | OrientationKey;
export const keysOfCurve = (curve: Curve): readonly AnyKey[] => curve.keys;

/** A key whose handles reach `factor` times as far in time, for a run that is stretched or squeezed. */
export function stretchedKey<K extends AnyKey>(key: K, factor: number): K {
  const stretch = <H extends InHandle | OutHandle>(h: H): H =>
    h.kind === 'free' ? { ...h, frames: h.frames * factor } : h;
  return { ...key, in: stretch(key.in), out: stretch(key.out) };
}

/**
 * The handles of a run of keys played backwards: the first of the result belongs to the key that was last. What lay
 * between two keys lies between the same two again, so a held stretch stays held, with the value of the key it now comes
 * from. Done twice it gives back what was.
 */
export function turnedBack<K extends AnyKey>(run: readonly K[]): K[] {
  const n = run.length;
  const turned = run.map((key) => ({ ...key })).reverse();
  for (let i = 0; i < n; i++) {
    // From old key i to the one after it; the way round from the last to the first closes the ring.
    const after = (i + 1) % n;
    const [leave, arrive] = [run[i].out, run[after].in];
    const from = turned[n - 1 - after];
    const to = turned[n - 1 - i];
    if (leave.kind === 'stepped') {
      from.out = leave;
      to.in = arrive;
    } else {
      from.out = mirrored(arrive);
      to.in = mirrored(leave);
    }
  }
  return turned;
}

/** A handle seen with time running the other way. Free handles count away from their key, so they stay. */
const mirrored = <H extends InHandle>(handle: H): H =>
  handle.kind === 'tuned' ? { ...handle, bias: -handle.bias } : handle;
