import { MOST_TUNED, type NumberCurve, type Tuning } from './key.ts';
import { secantsAt } from './slopes.ts';

/**
 * Tension, continuity and bias (Kochanek & Bartels, "Interpolating Splines with Local Control of Bias, Tension, and
 * Continuity", SIGGRAPH 1984), for keys at any distance: the slopes to the two neighbours are weighted by how long the
 * ways are, so that with all three at 0 the slope is that from the key before to the key after.
 */

/** The slope of a tuned handle on one side of a key, in value per frame. */
export function tunedSlope(
  curve: NumberCurve,
  index: number,
  side: 'in' | 'out',
  { tension: t, continuity: c, bias: b }: Tuning,
): number {
  const ways = weighted(curve, index);
  if (!ways) return 0;
  const { before, after } = ways;
  const corner = side === 'in' ? -c : c;
  return (1 - t) * ((1 + corner) * (1 + b) * before + (1 - corner) * (1 - b) * after);
}

/** The slopes to both neighbours, each by its share of the whole way. At an end the one there is counts for both. */
function weighted(curve: NumberCurve, index: number): { before: number; after: number } | null {
  const { left, right } = secantsAt(curve, index);
  const [a, b] = [left ?? right, right ?? left];
  if (!a || !b) return null;
  const frames = a.frames + b.frames;
  return { before: (a.slope * a.frames) / frames, after: (b.slope * b.frames) / frames };
}

/**
 * The tension, continuity and bias that give a key two slopes. Two slopes leave one of the three open: bias stays 0 where
 * that will do.
 * @returns null where no three numbers in range say it
 */
export function tuningOf(curve: NumberCurve, index: number, slopeIn: number, slopeOut: number): Tuning | null {
  const ways = weighted(curve, index);
  if (!ways) return null;
  const { before, after } = ways;
  const size = Math.max(Math.abs(before), Math.abs(after), Math.abs(slopeIn), Math.abs(slopeOut));
  const least = size * 1e-9;
  if (Math.max(Math.abs(slopeIn), Math.abs(slopeOut)) <= least) return { tension: 1, continuity: 0, bias: 0 };
  const [sum, gap] = [slopeIn + slopeOut, slopeOut - slopeIn];
  // With bias 0: sum = 2 (1-t) (before+after), gap = 2 (1-t) c (before-after).
  const through = before + after;
  if (Math.abs(through) > least) {
    const open = sum / (2 * through);
    const turn = 2 * open * (before - after);
    if (Math.abs(gap) <= least) return inRange({ tension: 1 - open, continuity: 0, bias: 0 });
    if (Math.abs(turn) <= least) return null;
    return inRange({ tension: 1 - open, continuity: gap / turn, bias: 0 });
  }
  if (Math.abs(before) <= least) return null;
  // At a peak both ways are equally steep: sum = 4 (1-t) b·before, gap = 4 (1-t) c·before, and tension may stay 0.
  return inRange({ tension: 0, continuity: gap / (4 * before), bias: sum / (4 * before) });
}

const inRange = (tuning: Tuning): Tuning | null =>
  Object.values(tuning).every((v) => Math.abs(v) <= MOST_TUNED) ? tuning : null;
