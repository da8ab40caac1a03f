/** A number from -1 to 1 for a whole number and a seed: an integer hash (after Jenkins' and Wang's mixing steps). */
function chance(at: number, seed: number): number {
  let h = Math.imul((at | 0) ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul((seed | 0) + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  h ^= h >>> 15;
  return (h >>> 0) / 0x7fffffff - 1;
}

/**
 * Value noise over frames: a number by chance each `period` frames, and the smooth way between (with level second
 * derivatives at the turns, 6t⁵ − 15t⁴ + 10t³). With `closes` above 0 it repeats after that many frames.
 */
export function noise(frame: number, strength: number, period: number, seed: number, closes: number): number {
  if (period === 0) return 0;
  const rounds = closes > 0 ? Math.max(1, Math.round(closes / Math.abs(period))) : 0;
  const step = rounds > 0 ? closes / rounds : period;
  let at = (frame - 1) / step;
  // Brought into the first round before it is taken apart, so that it closes to the last digit.
  if (rounds > 0) at -= rounds * Math.floor((frame - 1) / closes);
  const low = Math.floor(at);
  const t = at - low;
  const share = t * t * t * (t * (6 * t - 15) + 10);
  const next = rounds > 0 ? (low + 1) % rounds : low + 1;
  const a = chance(rounds > 0 ? low % rounds : low, seed);
  return strength * (a + (chance(next, seed) - a) * share);
}
