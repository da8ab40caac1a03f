import type { InHandle, NumberCurve, OutHandle } from './key.ts';
import { smoothSlope } from './slopes.ts';
import { tunedSlope } from './tuning.ts';

/** How far a handle reaches from its key: frames away from it (never negative) and rise in value. */
export interface Reach {
  readonly frames: number;
  readonly rise: number;
}

/**
 * A handle may reach almost to the next key, not quite: two handles of the full length would stop time for an
 * instant in the middle, where no computer could say which value the curve has.
 */
const FULL_REACH = 1 - 1e-6;

/**
 * Where the handle on one side of a key ends, whatever its kind. A handle that is longer than the way to the next key
 * is shortened along its direction, so that time never runs backwards.
 * @returns null beyond the curve's ends and on the side where the curve is stepped
 */
export function handleReach(curve: NumberCurve, index: number, side: 'in' | 'out'): Reach | null {
  const { keys } = curve;
  const key = keys[index];
  const other = keys[side === 'out' ? index + 1 : index - 1];
  if (!other) return null;
  const duration = Math.abs(other.frame - key.frame);
  const handle: InHandle | OutHandle = key[side];
  switch (handle.kind) {
    case 'stepped':
      return null;
    case 'flat':
      return { frames: duration / 3, rise: 0 };
    case 'linear':
      return { frames: duration / 3, rise: (other.value - key.value) / 3 };
    case 'smooth':
      return { frames: duration / 3, rise: (smoothSlope(curve, index) * (other.frame - key.frame)) / 3 };
    case 'tuned':
      return { frames: duration / 3, rise: (tunedSlope(curve, index, side, handle) * (other.frame - key.frame)) / 3 };
    case 'free': {
      const most = duration * FULL_REACH;
      if (handle.frames <= most) return handle;
      return { frames: most, rise: (handle.rise * most) / handle.frames };
    }
  }
}

/** A handle shorter than this, in frames, has no direction to speak of. */
export const LEAST_REACH = 1e-6;

/** Slope on one side of a key in value per frame, forward in time; level for a handle of no length. */
export function handleSlope(curve: NumberCurve, index: number, side: 'in' | 'out'): number {
  const reach = handleReach(curve, index, side);
  if (!reach || reach.frames < LEAST_REACH) return 0;
  return (side === 'out' ? reach.rise : -reach.rise) / reach.frames;
}
